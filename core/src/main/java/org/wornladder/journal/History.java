package org.wornladder.journal;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.wornladder.journal.RungRecord.Progress;
import org.wornladder.journal.RungRecord.State;
import org.wornladder.journal.RungRecord.Way;
import org.wornladder.sql.Dialect;

/**
 * A project's entries in one database, and what they say.
 *
 * @param entries in the order in which they were written
 * @param rungs by number
 * @param standing the last run of each standing script that is in place, in the order of their
 *     runs; one that began and did not end is among them
 * @param broken where the chain of hashes breaks; empty if it holds or was not examined
 */
public record History(
    List<Entry> entries,
    Map<Long, RungRecord> rungs,
    Map<String, Entry> standing,
    Optional<Break> broken) {
  /** An entry that does not follow from the one before it. */
  public record Break(long entry, String reason) {}

  /**
   * @param dialect of the database's engine
   */
  public static History of(List<Entry> entries, Optional<Break> broken, Dialect dialect) {
    Map<Long, RungRecord> rungs = new TreeMap<>();
    Map<String, Entry> standing = new LinkedHashMap<>();
    Optional<RungRecord> moving = Optional.empty();
    for (Entry entry : entries) {
      long number = entry.subject().rung();
      if (entry.event().isStanding()) {
        standing(standing, entry);
      } else if (entry.event().isAside()) {
        // It is on the record, and changes no rung.
        continue;
      } else if (entry.event() == Event.MOVED_AWAY) {
        moving = Optional.ofNullable(rungs.remove(number));
      } else if (entry.event() == Event.RENUMBERED) {
        State state = moving.map(RungRecord::state).orElse(State.IN_PLACE);
        Way up = Way.of(entry.subject(), dialect);
        rungs.put(number, new RungRecord(number, state, entry, entry, up, Progress.NONE));
      } else {
        rungs.put(number, next(Optional.ofNullable(rungs.get(number)), entry, dialect));
      }
    }
    return new History(List.copyOf(entries), rungs, standing, broken);
  }

  public Optional<RungRecord> rung(long number) {
    return Optional.ofNullable(rungs.get(number));
  }

  public boolean isInPlace(long number) {
    return rung(number).filter(RungRecord::isInPlace).isPresent();
  }

  /** The highest number in place; 0 if none is. */
  public long highest() {
    long highest = 0;
    for (RungRecord record : rungs.values()) {
      if (record.isInPlace()) {
        highest = Math.max(highest, record.number());
      }
    }
    return highest;
  }

  /**
   * The highest number of a rung in place that ran here; 0 if none did. What was recorded as in
   * place without a run makes no waiting rung late.
   */
  public long highestThatRan() {
    return rungs.values().stream()
        .filter(record -> record.isInPlace() && record.last().event() != Event.ADOPTED)
        .mapToLong(RungRecord::number)
        .max()
        .orElse(0);
  }

  /** The rungs in place, the one that ran last first. */
  public List<RungRecord> inPlaceNewestFirst() {
    List<RungRecord> found = new ArrayList<>();
    for (RungRecord record : rungs.values()) {
      if (record.isInPlace()) {
        found.add(record);
      }
    }
    found.sort((a, b) -> Long.compare(b.run().number(), a.run().number()));
    return found;
  }

  /**
   * The number of the entry with which the last run of a rung's way up began: what it lifted was
   * lifted after it.
   */
  public long began(RungRecord record) {
    long run = record.run().number();
    long began = run;
    for (Entry entry : entries) {
      if (entry.subject().rung() == record.number() && entry.number() < run) {
        began =
            switch (entry.event()) {
              case UP_STARTED -> entry.number();
              case ROLLED_BACK -> run;
              default -> began;
            };
      }
    }
    return began;
  }

  public List<RungRecord> stuck() {
    return rungs.values().stream().filter(record -> record.state() == State.STUCK).toList();
  }

  /** The runs of the standing scripts that were in place just before an entry, in their order. */
  public List<Entry> standingBefore(long entryNumber) {
    Map<String, Entry> standing = new LinkedHashMap<>();
    for (Entry entry : entries) {
      if (entry.number() < entryNumber && entry.event().isStanding()) {
        standing(standing, entry);
      }
    }
    return List.copyOf(standing.values());
  }

  private static void standing(Map<String, Entry> standing, Entry entry) {
    String name = entry.subject().name();
    if (entry.event() == Event.STANDING_RUN || entry.event() == Event.STANDING_STARTED) {
      standing.remove(name);
      standing.put(name, entry);
    } else if (entry.event() == Event.STANDING_REMOVED) {
      standing.remove(name);
    }
  }

  private static RungRecord next(Optional<RungRecord> before, Entry entry, Dialect dialect) {
    long number = entry.subject().rung();
    Way up = Way.of(entry.subject(), dialect);
    boolean known = before.isPresent();
    Entry run = known ? before.get().run() : entry;
    Progress progress = known ? before.get().progress() : Progress.NONE;
    State state = known ? before.get().state() : State.FAILED;
    Way placed = known ? before.get().up() : up;
    int statement = entry.note().statement();
    return switch (entry.event()) {
      case APPLIED, ADOPTED ->
          new RungRecord(number, State.IN_PLACE, entry, entry, up, Progress.NONE);
      case PASSED_OVER ->
          new RungRecord(number, State.PASSED_OVER, entry, entry, up, Progress.NONE);
      case FAILED -> new RungRecord(number, State.FAILED, entry, run, up, Progress.NONE);
      case ROLLED_BACK ->
          new RungRecord(number, State.ROLLED_BACK, entry, run, placed, Progress.NONE);
      case ROLLBACK_FAILED -> new RungRecord(number, state, entry, run, placed, progress);
      case UP_STARTED -> stuck(entry, entry, up, Progress.started(true));
      case DOWN_STARTED -> stuck(entry, run, placed, Progress.started(false));
      case STATEMENT_STARTED -> stuck(entry, run, placed, progress.withDoubtful(statement));
      case STATEMENT_DONE, SETTLED_DONE -> stuck(entry, run, placed, progress.withDone(statement));
      case BATCH_DONE, BATCHES_STOPPED -> stuck(entry, run, placed, progress);
      case STATEMENT_FAILED -> stuck(entry, run, placed, progress.withFailed(statement));
      case SETTLED_NOT_DONE -> stuck(entry, run, placed, progress.withDoubtful(0));
      // What is done of the new file is in the entries that follow.
      case FILE_ACCEPTED ->
          new RungRecord(number, state, entry, run, up, Progress.started(progress.up()));
      case MOVED_AWAY,
          RENUMBERED,
          DRIFT_ACCEPTED,
          JOURNAL_ACCEPTED,
          SEEDED,
          EMPTIED,
          FOLDED,
          KEPT_ASIDE,
          BROUGHT_BACK,
          ATTIC_EMPTIED,
          STANDING_STARTED,
          STANDING_RUN,
          STANDING_REMOVED,
          STANDING_FAILED ->
          throw new IllegalStateException("not a step of a rung: " + entry.event());
    };
  }

  private static RungRecord stuck(Entry entry, Entry run, Way up, Progress progress) {
    return new RungRecord(entry.subject().rung(), State.STUCK, entry, run, up, progress);
  }
}
