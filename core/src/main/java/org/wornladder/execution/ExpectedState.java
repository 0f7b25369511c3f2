package org.wornladder.execution;

import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import org.wornladder.change.Difference;
import org.wornladder.change.Differences;
import org.wornladder.change.ExpectedStructure;
import org.wornladder.change.IgnoreFilter;
import org.wornladder.change.StructureSummary;
import org.wornladder.change.VisibleDifferences;
import org.wornladder.journal.History;
import org.wornladder.journal.Snapshots;
import org.wornladder.project.Project;
import org.wornladder.schema.Schema;
import org.wornladder.schema.Snapshot;

/**
 * The structure that a database has, and the one that its history says it should have.
 *
 * @param live the structure that it has
 * @param catalogFingerprint the database's own fingerprint of {@code live}; empty if it was not
 *     asked for, or the engine has none
 * @param expected the structure that it should have
 * @param known whether the history has an expectation; without one, {@code expected} is what is
 *     there
 */
public record ExpectedState(
    EnvironmentContext context,
    Snapshot live,
    Optional<String> catalogFingerprint,
    Snapshot expected,
    boolean known) {
  /** Reads both. */
  public static ExpectedState of(EnvironmentContext context, History history) throws SQLException {
    return of(context, history, context.structure());
  }

  /**
   * Reads both, and the catalogue's fingerprint, for a caller that saves the expected structure.
   */
  public static ExpectedState withCatalogFingerprint(EnvironmentContext context, History history)
      throws SQLException {
    return of(context, history, context.structureWithFingerprint());
  }

  private static ExpectedState of(EnvironmentContext context, History history, Schema there)
      throws SQLException {
    Snapshots snapshots = context.snapshots();
    Snapshot live = there.snapshot();
    Optional<Snapshot> saved = snapshots.expected(snapshots.last(), live);
    boolean known = saved.isPresent() || history.entries().isEmpty();
    Snapshot otherwise = history.entries().isEmpty() ? live.ground() : live;
    return new ExpectedState(
        context, live, there.catalogFingerprint(), saved.orElse(otherwise), known);
  }

  /** The differences that the project does not ignore and that the user may see. */
  public List<Difference> visibleDifferences(Project project) {
    List<Difference> all = Differences.between(expected, live);
    List<Difference> counting = new IgnoreFilter(project.settings().ignore()).without(all);
    return VisibleDifferences.of(counting, expected, live).visible();
  }

  /** Saves what is there before a run, so that an interrupted run can be recognised. */
  public void saveBefore() throws SQLException {
    context.snapshots().saveBefore(live, context.journal().mark().number());
  }

  /** Saves what should be there from now on. */
  public void save(Snapshot expectedNow) throws SQLException {
    save(expectedNow, catalogFingerprint.filter(fingerprint -> live.equals(expectedNow)));
  }

  private void save(Snapshot expectedNow, Optional<String> fingerprint) throws SQLException {
    context.snapshots().saveExpected(expectedNow, fingerprint, context.journal().mark().number());
  }

  /**
   * The effect of a run.
   *
   * @param summary what it changed
   * @param expected what should be there from now on
   * @param catalogFingerprint the database's own fingerprint of {@code expected}, if that is there
   */
  record RunEffect(
      StructureSummary summary, Snapshot expected, Optional<String> catalogFingerprint) {}

  /** Applies what a run changed to what was expected before it. Does not use the session. */
  public RunEffect effectOf(Schema after) {
    Snapshot now = after.snapshot();
    Snapshot expectedNow = ExpectedStructure.after(expected, live, now);
    Optional<String> fingerprint =
        after.catalogFingerprint().filter(one -> now.equals(expectedNow));
    return new RunEffect(StructureSummary.between(live, now), expectedNow, fingerprint);
  }

  /**
   * Reads the structure after a run, saves what is expected from now on, and returns the summary.
   */
  public StructureSummary saveAfter() throws SQLException {
    return saveAfter(effectOf(context.structureWithFingerprint()));
  }

  /** The same for a structure that was read already. */
  StructureSummary saveAfter(RunEffect effect) throws SQLException {
    save(effect.expected(), effect.catalogFingerprint());
    return effect.summary();
  }
}
