package org.wornladder.execution;

import java.sql.SQLException;
import java.util.Optional;
import org.wornladder.engine.Access;
import org.wornladder.engine.DatabaseErrors;
import org.wornladder.engine.Engine;
import org.wornladder.engine.Engines;
import org.wornladder.engine.Session;
import org.wornladder.journal.Journal;
import org.wornladder.journal.SnapshotTable;
import org.wornladder.journal.Snapshots;
import org.wornladder.project.Environment;
import org.wornladder.project.EnvironmentReader;
import org.wornladder.project.Project;

/**
 * One project with what it takes from the program around it. Opens its environments.
 *
 * @param environments puts variables into the settings of those that are used
 */
public record ProjectContext(
    Project project, RuntimeSettings settings, EnvironmentReader environments) {
  public ProjectContext(Project project, RuntimeSettings settings) {
    this(
        project,
        settings,
        new EnvironmentReader(
            project.root(), project.settings(), settings.variables(), settings::url));
  }

  /** What is done while a session to an environment is open. */
  public interface Work<T> {
    T run(EnvironmentContext context) throws SQLException;
  }

  /**
   * Opens a session to an environment, does some work, and closes the session whatever happens.
   *
   * @param environment its name; empty for the project's default one
   */
  public <T> T in(Optional<String> environment, Access access, Work<T> work) {
    return in(environments.read(environment), access, work);
  }

  /** The same for an environment that is not in the project's settings. */
  public <T> T in(Environment environment, Access access, Work<T> work) {
    Engine engine = Engines.of(environment);
    try (Session session =
        Engines.open(engine, settings.target(environment, project.root()), access)) {
      try {
        return work.run(context(environment, session.described(engine), session));
      } catch (SQLException e) {
        throw DatabaseErrors.translate(session, environment.name(), "working on it", e);
      }
    }
  }

  /** An environment on a session that is open already. */
  public EnvironmentContext context(Environment environment, Engine engine, Session session) {
    String table = project.settings().journalTable();
    SnapshotTable beside =
        new SnapshotTable(
            session,
            engine,
            SnapshotTable.beside(table),
            project.settings().journalOwner(),
            settings.clock());
    Journal journal =
        new Journal(
            session, engine, table, beside, project.name(), settings.tool(), settings.clock());
    Snapshots snapshots =
        new Snapshots(session, beside, project.name(), environment.definitionSecrets());
    return new EnvironmentContext(project, environment, engine, session, journal, snapshots);
  }
}
