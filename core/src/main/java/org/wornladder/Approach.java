package org.wornladder;

import java.nio.file.Path;
import java.util.Optional;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.FutureTask;
import org.wornladder.engine.Access;
import org.wornladder.engine.Engine;
import org.wornladder.engine.Engines;
import org.wornladder.engine.Session;
import org.wornladder.fault.LadderException;
import org.wornladder.project.Environment;
import org.wornladder.project.EnvironmentReader;
import org.wornladder.project.Settings;

/**
 * A session to a server that is opened on a thread of its own, while the project's other files are
 * read. Whoever asks for it owns it; one that nobody asks for is closed by {@link #abandon}.
 */
final class Approach implements Runnable {
  private final String environment;
  private final Access access;
  private final EnvironmentReader environments;
  private final LadderSettings settings;
  private final Path root;
  private final FutureTask<Optional<Session>> opening = new FutureTask<>(this::open);

  /**
   * @param environment its name; the default one's for an empty name
   */
  private Approach(
      String environment, Access access, Path root, Settings project, LadderSettings settings) {
    this.environment = environment.isEmpty() ? project.defaultEnvironment() : environment;
    this.access = access;
    this.root = root;
    this.settings = settings;
    environments = new EnvironmentReader(root, project, settings.variables());
  }

  /** Begins to open a session to an environment. */
  static Approach begin(
      String environment, Access access, Path root, Settings project, LadderSettings settings) {
    Approach approach = new Approach(environment, access, root, project, settings);
    Thread thread = new Thread(approach, "approach");
    thread.setDaemon(true);
    thread.start();
    return approach;
  }

  @Override
  public void run() {
    opening.run();
  }

  private Optional<Session> open() {
    Environment target = environments.read(environment);
    Engine engine = Engines.of(target);
    return engine.opensSlowly()
        ? Optional.of(engine.open(settings.target(target, root), access))
        : Optional.empty();
  }

  boolean leadsTo(String name, Access wanted) {
    return environment.equals(name) && access == wanted;
  }

  /**
   * The session; empty where opening one takes no time worth speaking of.
   *
   * @throws LadderException why it could not be opened
   */
  Optional<Session> session() {
    try {
      return opening.get();
    } catch (ExecutionException e) {
      throw e.getCause() instanceof LadderException known
          ? known
          : new IllegalStateException(e.getCause());
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new IllegalStateException("interrupted while a session was opened", e);
    }
  }

  /** Closes the session as soon as it is open. */
  void abandon() {
    Thread thread =
        new Thread(
            () -> {
              try {
                session().ifPresent(Session::close);
              } catch (LadderException e) {
                // There is nothing to close, and nobody wants to hear of it any more.
                return;
              }
            },
            "abandon");
    thread.setDaemon(true);
    thread.start();
  }
}
