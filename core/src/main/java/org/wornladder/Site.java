package org.wornladder;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import org.wornladder.climb.RefusedException;
import org.wornladder.engine.Access;
import org.wornladder.engine.DatabaseErrors;
import org.wornladder.engine.DatabaseLock;
import org.wornladder.engine.Engine;
import org.wornladder.engine.Engines;
import org.wornladder.engine.ScratchDatabase;
import org.wornladder.engine.Session;
import org.wornladder.journal.History;
import org.wornladder.journal.Journal;
import org.wornladder.journal.Journal.Depth;
import org.wornladder.journal.Snapshots;
import org.wornladder.project.Environment;
import org.wornladder.project.Project;
import org.wornladder.schema.Schema;

/** An environment while a session to it is open. */
record Site(
    Environment environment, Engine engine, Session session, Journal journal, Snapshots snapshots) {
  /** What is done there. */
  interface Work<T> {
    T at(Site site) throws SQLException;
  }

  /** Opens a session, works, and closes it whatever happens. */
  static <T> T visit(
      Environment environment,
      Project project,
      LadderSettings settings,
      Access access,
      Work<T> work) {
    Engine engine = Engines.of(environment);
    try (Session session = engine.open(settings.target(environment, project.root()), access)) {
      String table = project.settings().journalTable();
      Journal journal =
          new Journal(session, engine, table, project.name(), settings.tool(), settings.clock());
      Snapshots snapshots =
          new Snapshots(
              session, engine, Snapshots.tableBeside(table), project.name(), settings.clock());
      try {
        return work.at(new Site(environment, engine, session, journal, snapshots));
      } catch (SQLException e) {
        throw DatabaseErrors.translate(session, environment.name(), "working on it", e);
      }
    }
  }

  /**
   * Works while nobody else changes this database.
   *
   * @param onWait told once who holds the lock, if somebody does
   */
  <T> T locked(LadderSettings settings, Consumer<String> onWait, Work<T> work) throws SQLException {
    try (DatabaseLock lock = session.lock(settings.lockWait(), onWait)) {
      return work.at(this);
    }
  }

  /** The entries, for who adds to them: a broken chain is refused. */
  History provenHistory() throws SQLException {
    History history = journal.read(Depth.WHOLE);
    if (history.broken().isPresent()) {
      History.Break broken = history.broken().get();
      String name = environment.name();
      throw RefusedException.of(
          "the journal's chain is broken at entry " + broken.entry() + ": " + broken.reason(),
          "environment " + name + ", " + session.address(),
          "find out who wrote to the table; ladder history " + name + " shows the entries");
    }
    return history;
  }

  /** What stands there, without the tool's own tables. */
  Schema structure() throws SQLException {
    return session.structure(own());
  }

  /** The same with what the database answers for it, where it can be asked so. */
  Schema structureToKeep() throws SQLException {
    return session.structureToKeep(own());
  }

  /** What the database answers for what stands there, without telling it. */
  Optional<String> answers() throws SQLException {
    return session.answers(own());
  }

  private List<String> own() {
    List<String> own = new ArrayList<>(journal.tables());
    own.add(ScratchDatabase.PROOF);
    return own;
  }
}
