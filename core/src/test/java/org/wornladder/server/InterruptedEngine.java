package org.wornladder.server;

import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.Proxy;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.Clock;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.IntConsumer;
import org.wornladder.engine.Ability;
import org.wornladder.engine.Access;
import org.wornladder.engine.Engine;
import org.wornladder.engine.Engines;
import org.wornladder.engine.Objection;
import org.wornladder.engine.Pipeline;
import org.wornladder.engine.ScratchDatabase;
import org.wornladder.engine.Session;
import org.wornladder.engine.StorageTypes;
import org.wornladder.engine.Target;
import org.wornladder.project.Environment;
import org.wornladder.sql.Dialect;
import org.wornladder.sql.Quoting;
import org.wornladder.sql.Statement;

/**
 * Wraps the engine of a URL that has {@code interrupted:} in front, and calls out before each thing
 * that a session is told to do to the database.
 */
public final class InterruptedEngine implements Engine {
  public static final String PREFIX = "interrupted:";

  private static final Set<String> STEPS = Set.of("begin", "execute", "commit", "send");

  /** Called with the number of the step, counted from 1 since it was set. */
  private static IntConsumer atStep = step -> {};

  /** Thrown at a step to end the client there: its connection is gone, and it does nothing more. */
  public static final class DeadClient extends Error {
    private static final long serialVersionUID = 1;
  }

  private static final AtomicInteger STEP = new AtomicInteger();

  private static Engine inner;

  public static void at(IntConsumer hook) {
    STEP.set(0);
    atStep = hook;
  }

  /** How many steps there were since the hook was set. */
  public static int steps() {
    return STEP.get();
  }

  @Override
  public String name() {
    return inner == null ? "interrupted" : inner.name();
  }

  @Override
  public boolean accepts(String url) {
    if (url.startsWith(PREFIX)) {
      inner = Engines.forUrl(url.substring(PREFIX.length())).orElseThrow();
      return true;
    }
    return false;
  }

  @Override
  public Dialect dialect() {
    return inner.dialect();
  }

  @Override
  public Quoting quoting() {
    return inner.quoting();
  }

  @Override
  public Set<Ability> abilities() {
    return inner.abilities();
  }

  @Override
  public boolean joinsTransaction(Statement statement) {
    return inner.joinsTransaction(statement);
  }

  @Override
  public Optional<Objection> objection(Statement statement, boolean insideTransaction) {
    return inner.objection(statement, insideTransaction);
  }

  @Override
  public ScratchDatabase scratch(Target server, Environment like, String project, Clock clock) {
    return inner.scratch(server, like, project, clock);
  }

  @Override
  public Optional<String> reachesOut(Statement statement) {
    return inner.reachesOut(statement);
  }

  @Override
  public StorageTypes storage() {
    return inner.storage();
  }

  @Override
  public Session open(Target target, Access access) {
    Environment wrapped = target.environment();
    Environment environment =
        new Environment(
            wrapped.settings(),
            wrapped.url().substring(PREFIX.length()),
            wrapped.user(),
            wrapped.password(),
            wrapped.role(),
            wrapped.values());
    Session session =
        inner.open(
            new Target(
                environment,
                target.dataSource(),
                target.root(),
                target.lockWait(),
                target.await(),
                target.onWait()),
            access);
    return counting(Session.class, session, session.connection());
  }

  /** Counts the steps; what comes back from a session, such as a pipeline, is counted too. */
  private static <T> T counting(Class<T> type, T inner, Connection connection) {
    return type.cast(
        Proxy.newProxyInstance(
            type.getClassLoader(),
            new Class<?>[] {type},
            (proxy, method, arguments) -> {
              if (STEPS.contains(method.getName())) {
                step(connection);
              }
              try {
                Object result = method.invoke(inner, arguments);
                return result instanceof Optional<?> optional
                    ? optional.map(
                        value ->
                            value instanceof Pipeline pipeline
                                ? counting(Pipeline.class, pipeline, connection)
                                : value)
                    : result;
              } catch (InvocationTargetException e) {
                throw e.getCause();
              }
            }));
  }

  private static void step(Connection connection) throws SQLException {
    try {
      atStep.accept(STEP.incrementAndGet());
    } catch (DeadClient e) {
      connection.abort(Runnable::run);
      throw e;
    }
  }
}
