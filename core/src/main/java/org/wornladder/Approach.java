package org.wornladder;

import java.nio.file.Path;
import java.sql.SQLException;
import java.util.Optional;
import org.wornladder.engine.Access;
import org.wornladder.engine.Engine;
import org.wornladder.engine.Engines;
import org.wornladder.engine.Meanwhile;
import org.wornladder.engine.Session;
import org.wornladder.fault.LadderException;
import org.wornladder.project.Environment;
import org.wornladder.project.EnvironmentReader;
import org.wornladder.project.Settings;

/**
 * A session to a server that is opened on a thread of its own, while the project's other files are
 * read. Whoever asks for it owns it; one that nobody asks for is closed by {@link #abandon}.
 */
final class Approach {
  private final String environment;
  private final Access access;
  private final EnvironmentReader environments;
  private final LadderSettings settings;
  private final Path root;
  private final Meanwhile<Optional<Session>> opening;

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
    opening = Meanwhile.begin(this::open);
  }

  /** Begins to open a session to an environment. */
  static Approach begin(
      String environment, Access access, Path root, Settings project, LadderSettings settings) {
    return new Approach(environment, access, root, project, settings);
  }

  private Optional<Session> open() {
    Environment target = environments.read(environment);
    Engine engine = Engines.of(target);
    return engine.opensSlowly()
        ? Optional.of(engine.open(settings.target(target, root), access))
        : Optional.empty();
  }

  /** Whether it came to its end, good or bad. */
  boolean isDone() {
    return opening.isDone();
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
    } catch (SQLException e) {
      throw new IllegalStateException("a session was opened in vain", e);
    }
  }

  /** Closes the session as soon as it is open; nobody wants to hear of one that did not open. */
  void abandon() {
    Meanwhile.begin(
        () -> {
          session().ifPresent(Session::close);
          return environment;
        });
  }
}
