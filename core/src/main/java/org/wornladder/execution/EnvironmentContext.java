package org.wornladder.execution;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import org.wornladder.Advice;
import org.wornladder.RefusedException;
import org.wornladder.attic.Attic;
import org.wornladder.engine.DatabaseLock;
import org.wornladder.engine.Engine;
import org.wornladder.engine.ScratchDatabase;
import org.wornladder.engine.Session;
import org.wornladder.execution.ProjectContext.Work;
import org.wornladder.journal.History;
import org.wornladder.journal.Journal;
import org.wornladder.journal.Journal.Depth;
import org.wornladder.journal.Snapshots;
import org.wornladder.project.Environment;
import org.wornladder.project.Project;
import org.wornladder.schema.Schema;
import org.wornladder.sql.Place;
import org.wornladder.sql.Statement;

/** An environment of a project while a session to it is open. */
public record EnvironmentContext(
    Project project,
    Environment environment,
    Engine engine,
    Session session,
    Journal journal,
    Snapshots snapshots) {
  /**
   * Does some work while nobody else changes this database.
   *
   * @param onWait receives once who holds the lock, if somebody does
   */
  public <T> T locked(RuntimeSettings settings, Consumer<String> onWait, Work<T> work)
      throws SQLException {
    try (DatabaseLock lock = session.lock(settings.lockWait(), onWait)) {
      return work.run(this);
    }
  }

  /**
   * The history, for a caller that adds to the journal.
   *
   * @throws RefusedException if the journal's hash chain is broken
   */
  public History provenHistory() throws SQLException {
    History history = journal.read(Depth.WHOLE);
    if (history.broken().isPresent()) {
      History.Break broken = history.broken().get();
      String name = environment.name();
      throw RefusedException.of(
          "the journal's chain is broken at entry " + broken.entry() + ": " + broken.reason(),
          "environment " + name + ", " + session.address(),
          Advice.of(Advice.Code.FIND_JOURNAL_WRITER, name));
    }
    return history;
  }

  /** Runs a statement of the tool's own. */
  public void execute(String statement) throws SQLException {
    session.execute(new Statement(statement, Place.of(environment.name()), engine.dialect()));
  }

  /** The structure of the database, without the tool's own tables. */
  public Schema structure() throws SQLException {
    return session.structure(ownTables()).withoutTables(Attic.tables(journal));
  }

  /** The same with the catalogue's fingerprint, where the engine can compute it. */
  public Schema structureWithFingerprint() throws SQLException {
    return session.structureWithFingerprint(ownTables()).withoutTables(Attic.tables(journal));
  }

  /** The catalogue's fingerprint alone; empty where the engine cannot compute it. */
  public Optional<String> catalogFingerprint() throws SQLException {
    return session.catalogFingerprint(ownTables());
  }

  private List<String> ownTables() {
    List<String> tables = new ArrayList<>(journal.tables());
    tables.add(ScratchDatabase.PROOF);
    return tables;
  }

  /** Where what rungs erase is kept. */
  public Attic attic() {
    return new Attic(session, engine, journal);
  }

  /** What a plan is computed from. */
  public PlanningContext planning(History history) {
    return new PlanningContext(project, environment, engine, session, history);
  }

  /** Records decisions of people in the journal. */
  public ManualResolution manualResolution() {
    return new ManualResolution(project, environment, engine, session, journal);
  }
}
