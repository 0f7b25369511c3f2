package org.wornladder;

import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import org.wornladder.diff.Difference;
import org.wornladder.diff.Differences;
import org.wornladder.diff.ExpectedStructure;
import org.wornladder.diff.Ignored;
import org.wornladder.diff.Sight;
import org.wornladder.diff.StructureSummary;
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
record ExpectedState(
    Site site,
    Snapshot live,
    Optional<String> catalogFingerprint,
    Snapshot expected,
    boolean known) {
  /** Reads both. */
  static ExpectedState of(Site site, History history) throws SQLException {
    return of(site, history, site.structure());
  }

  /**
   * Reads both, and the catalogue's fingerprint, for a caller that saves the expected structure.
   */
  static ExpectedState withCatalogFingerprint(Site site, History history) throws SQLException {
    return of(site, history, site.structureToKeep());
  }

  private static ExpectedState of(Site site, History history, Schema there) throws SQLException {
    Snapshots snapshots = site.snapshots();
    Snapshot live = there.snapshot();
    Optional<Snapshot> saved = snapshots.expected(snapshots.last(), live);
    boolean known = saved.isPresent() || history.entries().isEmpty();
    Snapshot otherwise = history.entries().isEmpty() ? live.ground() : live;
    return new ExpectedState(site, live, there.answers(), saved.orElse(otherwise), known);
  }

  /** The differences that the project does not ignore and that the user may see. */
  List<Difference> visibleDifferences(Project project) {
    List<Difference> all = Differences.between(expected, live);
    List<Difference> counting = new Ignored(project.settings().ignore()).without(all);
    return Sight.of(counting, expected, live).told();
  }

  /** Saves what is there before a run, so that an interrupted run can be recognised. */
  void saveBefore() throws SQLException {
    site.snapshots().keepBefore(live, site.journal().mark().number());
  }

  /** Saves what should be there from now on. */
  void save(Snapshot expectedNow) throws SQLException {
    save(expectedNow, catalogFingerprint.filter(fingerprint -> live.equals(expectedNow)));
  }

  private void save(Snapshot expectedNow, Optional<String> fingerprint) throws SQLException {
    site.snapshots().keepExpected(expectedNow, fingerprint, site.journal().mark().number());
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
  RunEffect effectOf(Schema after) {
    Snapshot now = after.snapshot();
    Snapshot expectedNow = ExpectedStructure.after(expected, live, now);
    Optional<String> fingerprint = after.answers().filter(one -> now.equals(expectedNow));
    return new RunEffect(StructureSummary.between(live, now), expectedNow, fingerprint);
  }

  /**
   * Reads the structure after a run, saves what is expected from now on, and returns the summary.
   */
  StructureSummary saveAfter() throws SQLException {
    return saveAfter(effectOf(site.structureToKeep()));
  }

  /** The same for a structure that was read already. */
  StructureSummary saveAfter(RunEffect effect) throws SQLException {
    save(effect.expected(), effect.catalogFingerprint());
    return effect.summary();
  }
}
