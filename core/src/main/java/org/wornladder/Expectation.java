package org.wornladder;

import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import org.wornladder.diff.Difference;
import org.wornladder.diff.Differences;
import org.wornladder.diff.ExpectedStructure;
import org.wornladder.diff.Ignored;
import org.wornladder.diff.Sight;
import org.wornladder.diff.StructureSummary;
import org.wornladder.engine.Meanwhile;
import org.wornladder.journal.History;
import org.wornladder.journal.Journal.Depth;
import org.wornladder.journal.Snapshots;
import org.wornladder.project.Project;
import org.wornladder.schema.Schema;
import org.wornladder.schema.Snapshot;

/**
 * What stands in a database beside what its history says should stand.
 *
 * @param answers what the database answers for what stands there, if that was asked
 * @param known whether the history has an expectation; without one, what stands there is expected
 */
record Expectation(
    Site site, Snapshots.Ready stands, Optional<String> answers, Snapshot expected, boolean known) {
  static Expectation of(Site site, History history) throws SQLException {
    return told(site, site::structure, () -> history, false).expectation();
  }

  /** The same for who keeps what stands there. */
  static Expectation toKeep(Site site, History history) throws SQLException {
    return told(site, site::structureToKeep, () -> history, false).expectation();
  }

  /** The same with the history, which is read while what stands there is told. */
  record Told(History history, Expectation expectation) {}

  /**
   * @param known the history, if it was read already
   * @param differs whether it is known that something else stands there than is expected
   */
  static Told told(Site site, Optional<History> known, boolean differs) throws SQLException {
    return told(
        site,
        site::structure,
        () -> known.isPresent() ? known.get() : site.journal().read(Depth.WHOLE),
        differs);
  }

  /** How a structure is read. */
  private interface Look {
    Schema take() throws SQLException;
  }

  private static Told told(Site site, Look look, Callable<History> reading, boolean differs)
      throws SQLException {
    Schema there = there(look);
    Snapshots snapshots = site.snapshots();
    try (Meanwhile<Kept> asking =
        Meanwhile.begin(() -> Kept.of(reading.call(), snapshots, differs))) {
      Snapshot live = there.snapshot();
      Snapshots.Ready stands = differs ? Snapshots.Ready.later(live) : Snapshots.Ready.of(live);
      Kept kept = asking.get();
      Optional<Snapshot> expected =
          kept.expected().isPresent() ? kept.expected() : snapshots.expected(kept.last(), stands);
      return new Told(kept.history(), of(site, kept.history(), stands, there.answers(), expected));
    }
  }

  /** What tells a structure is loaded while the database is asked for it. */
  private static Schema there(Look look) throws SQLException {
    try (Meanwhile<Snapshots.Ready> loading =
        Meanwhile.begin(() -> Snapshots.Ready.of(Snapshot.EMPTY))) {
      return look.take();
    }
  }

  /**
   * What was kept of the runs so far.
   *
   * @param expected what should stand there, if it is sure to be needed
   */
  private record Kept(History history, Snapshots.Last last, Optional<Snapshot> expected) {
    static Kept of(History history, Snapshots snapshots, boolean differs) throws SQLException {
      Snapshots.Last last = snapshots.last();
      return new Kept(history, last, differs ? snapshots.expected(last) : Optional.empty());
    }
  }

  private static Expectation of(
      Site site,
      History history,
      Snapshots.Ready stands,
      Optional<String> answers,
      Optional<Snapshot> kept) {
    boolean known = kept.isPresent() || history.entries().isEmpty();
    Snapshot live = stands.snapshot();
    Snapshot otherwise = history.entries().isEmpty() ? live.ground() : live;
    return new Expectation(site, stands, answers, kept.orElse(otherwise), known);
  }

  Snapshot live() {
    return stands.snapshot();
  }

  /** What differs, expected before, found after. */
  List<Difference> all() {
    return Differences.between(expected, live());
  }

  /** What differs, is not left to others, and may be seen. */
  List<Difference> counting(Project project) {
    List<Difference> counting = new Ignored(project.settings().ignore()).without(all());
    return Sight.of(counting, expected, live()).told();
  }

  /** To be called before a run, so that one that does not come to its end can be told. */
  void keepBefore() throws SQLException {
    site.snapshots().keepBefore(stands, site.journal().mark().number());
  }

  /** Says what should stand there from now on. */
  void keep(Snapshot should) throws SQLException {
    keep(Snapshots.Ready.ofNew(should), answers.filter(answer -> live().equals(should)));
  }

  /**
   * @param answers what the database answers for it, if it stands there
   */
  private void keep(Snapshots.Ready should, Optional<String> answers) throws SQLException {
    site.snapshots().keepExpected(should, answers, site.journal().mark().number());
  }

  /**
   * What comes of a run.
   *
   * @param changed what it changed
   * @param should what should stand there from now on
   * @param answers what the database answers for it, if it stands there
   */
  record Result(StructureSummary changed, Snapshots.Ready should, Optional<String> answers) {}

  /** Lays what a run changed on what was expected; needs no session. */
  Result result(Schema after) throws SQLException {
    Snapshot now = after.snapshot();
    try (Meanwhile<StructureSummary> summary =
        Meanwhile.begin(() -> StructureSummary.between(live(), now))) {
      Snapshots.Ready should =
          Snapshots.Ready.ofNew(ExpectedStructure.after(expected, live(), now));
      Optional<String> answers = after.answers().filter(answer -> now.equals(should.snapshot()));
      return new Result(summary.get(), should, answers);
    }
  }

  /** To be called after a run: reads what stands there, keeps what should, and says what it was. */
  StructureSummary keepAfter() throws SQLException {
    return keepAfter(result(site.structureToKeep()));
  }

  /** The same where what stands there was read already. */
  StructureSummary keepAfter(Result result) throws SQLException {
    keep(result.should(), result.answers());
    return result.changed();
  }

  /** One that is read on a thread of its own from the moment on when it is sure to be wanted. */
  static final class Ahead implements AutoCloseable {
    private final Site site;
    private final History history;
    private Optional<Meanwhile<Expectation>> reading = Optional.empty();

    Ahead(Site site, History history) {
      this.site = site;
      this.history = history;
    }

    /** The session is busy from now on until it is asked for. */
    void begin() {
      if (reading.isEmpty()) {
        reading = Optional.of(Meanwhile.begin(() -> of(site, history)));
      }
    }

    Expectation get() throws SQLException {
      begin();
      return reading.orElseThrow().get();
    }

    @Override
    public void close() {
      reading.ifPresent(Meanwhile::close);
    }
  }
}
