package org.wornladder.engine;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.ServiceLoader;
import org.wornladder.UnreachableException;
import org.wornladder.engine.document.DocumentEngine;
import org.wornladder.engine.h2.H2Engine;
import org.wornladder.engine.jdbc.JdbcEngine;
import org.wornladder.engine.mariadb.MariadbEngine;
import org.wornladder.engine.postgres.PostgresEngine;
import org.wornladder.engine.sqlite.SqliteEngine;
import org.wornladder.project.Environment;

/**
 * The engines that are there: our own, and those that the service loader finds. The loader is asked
 * only for a URL that is none of our own, since it opens every jar to look.
 */
public final class Engines {
  private static final List<Engine> OWN =
      List.of(
          new SqliteEngine(),
          new PostgresEngine(),
          new MariadbEngine(),
          new H2Engine(),
          new DocumentEngine());

  private Engines() {}

  /** The engine that a URL belongs to; empty if none here knows it. */
  public static Optional<Engine> forUrl(String url) {
    Optional<Engine> own = firstThatAccepts(OWN, url);
    Optional<Engine> known = own.isPresent() ? own : firstThatAccepts(others(), url);
    return known.isPresent() ? known : JdbcEngine.forUrl(url);
  }

  /** Whether a name is that of an engine that the service loader finds. */
  public static boolean isOther(String name) {
    return others().stream().anyMatch(engine -> engine.get().name().equals(name));
  }

  private static Optional<Engine> firstThatAccepts(Iterable<Engine> engines, String url) {
    for (Engine engine : engines) {
      if (engine.accepts(url)) {
        return Optional.of(engine);
      }
    }
    return Optional.empty();
  }

  private static ServiceLoader<Engine> others() {
    return ServiceLoader.load(Engine.class, Engine.class.getClassLoader());
  }

  /**
   * The engine of an environment.
   *
   * @throws UnreachableException if no engine here knows its URL
   */
  public static Engine of(Environment environment) {
    return forUrl(environment.url())
        .orElseThrow(
            () ->
                new UnreachableException(
                    "no engine here knows this url",
                    "environment " + environment.name() + " in ladder.yaml",
                    "this build serves: " + names() + "; for example jdbc:sqlite:data/dev.db",
                    null));
  }

  private static String names() {
    List<String> names = new ArrayList<>();
    OWN.forEach(engine -> names.add(engine.name()));
    others().forEach(engine -> names.add(engine.name()));
    return String.join(", ", names);
  }

  /**
   * A session to a database, opened by its engine.
   *
   * @throws UnreachableException if it cannot be opened, or the engine's driver is not there
   */
  public static Session open(Engine engine, Target target, Access access) {
    try {
      return engine.open(target, access);
    } catch (NoClassDefFoundError e) {
      throw new UnreachableException(
          "the driver of " + engine.name() + " is not on the class path",
          "environment " + target.environment().name(),
          "add the driver to the dependencies of the program; it lacks " + e.getMessage(),
          e);
    }
  }
}
