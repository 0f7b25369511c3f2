package org.wornladder.journal;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.wornladder.sql.Dialects;

/** The present state of a rung is what its entries say, read in order. */
class HistoryTest {
  @ParameterizedTest
  @CsvSource({
    "applied, IN_PLACE",
    "passed-over, PASSED_OVER",
    "failed, FAILED",
    "failed applied, IN_PLACE",
    "applied rolled-back, ROLLED_BACK",
    "applied rolled-back applied, IN_PLACE",
    "applied rollback-failed, IN_PLACE",
    "passed-over rolled-back, ROLLED_BACK",
    "applied file-accepted, IN_PLACE",
    "up-started, STUCK",
    "up-started statement-started, STUCK",
    "up-started statement-started statement-done applied, IN_PLACE",
    "applied down-started statement-started statement-done rolled-back, ROLLED_BACK",
    "applied down-started statement-started statement-failed, STUCK",
    "up-started statement-started settled-not-done, STUCK"
  })
  void statesFollowFromEvents(String events, RungRecord.State state) {
    assertThat(history(events).rung(7).orElseThrow().state()).isEqualTo(state);
  }

  @ParameterizedTest
  @CsvSource({
    "up-started, true, 0, 0, 0",
    "up-started statement-started:1, true, 0, 1, 0",
    "up-started statement-started:1 statement-done:1, true, 1, 0, 0",
    "up-started statement-started:1 statement-done:1 statement-started:2, true, 1, 2, 0",
    "up-started statement-started:1 statement-done:1 statement-failed:2, true, 1, 0, 2",
    "up-started statement-started:2 settled-done:2, true, 2, 0, 0",
    "up-started statement-started:2 settled-not-done:2, true, 0, 0, 0",
    "applied down-started, false, 0, 0, 0",
    "applied down-started statement-started:3, false, 0, 3, 0"
  })
  void progressFollowsFromStatements(
      String events, boolean up, int reached, int doubtful, int failed) {
    RungRecord.Progress progress = history(events).rung(7).orElseThrow().progress();
    assertThat(progress.reached()).isEqualTo(reached);
    assertThat(progress).isEqualTo(new RungRecord.Progress(up, progress.done(), doubtful, failed));
  }

  @Test
  void theLastRunIsWhatARollBackGoesBy() {
    RungRecord record =
        history("applied rolled-back failed applied file-accepted").rung(7).orElseThrow();
    assertThat(record.run().number()).isEqualTo(4);
    assertThat(record.last().number()).isEqualTo(5);
    assertThat(record.up().fingerprint()).isEqualTo("up5");
  }

  @Test
  void rungsInPlaceComeBackInTheOrderOfTheirRuns() {
    List<Entry> entries = new ArrayList<>();
    for (long rung : new long[] {1, 3, 2}) {
      entries.add(entry(entries.size() + 1, Event.APPLIED, rung, 0));
    }
    entries.add(entry(4, Event.ROLLED_BACK, 1, 0));
    History history = History.of(entries, Optional.empty(), Dialects.SQLITE);
    assertThat(history.inPlaceNewestFirst()).extracting(RungRecord::number).containsExactly(2L, 3L);
    assertThat(history.highest()).isEqualTo(3);
    assertThat(history.isInPlace(1)).isFalse();
    assertThat(history.stuck()).isEmpty();
  }

  @Test
  void standingScriptsAreThoseThatRanLastAndWereNotRemoved() {
    List<Entry> entries =
        List.of(
            standing(1, Event.STANDING_RUN, "stock"),
            standing(2, Event.STANDING_RUN, "season"),
            standing(3, Event.STANDING_FAILED, "stock"),
            standing(4, Event.STANDING_RUN, "stock"),
            standing(5, Event.STANDING_REMOVED, "season"));
    History history = History.of(entries, Optional.empty(), Dialects.SQLITE);
    assertThat(history.standing()).containsOnlyKeys("stock");
    assertThat(history.standingBefore(4)).extracting(Entry::number).containsExactly(1L, 2L);
    assertThat(history.standingBefore(1)).isEmpty();
  }

  @Test
  void everyEventHasAWordOfItsOwn() {
    for (Event event : Event.values()) {
      assertThat(Event.of(event.label())).contains(event);
      assertThat(event.shown()).doesNotContain("-");
    }
    assertThat(Event.of("unheard-of")).isEmpty();
  }

  @Test
  void noPartOfAnEntryRunsIntoTheNextInItsHash() {
    EntrySubject one = new EntrySubject(7, "bins", "t", "u", "d", "script");
    EntrySubject other = new EntrySubject(7, "bin", "st", "u", "d", "script");
    String hash = entry(1, Event.APPLIED, one, 0).sealed().hash();
    assertThat(hash).hasSize(64).isNotEqualTo(entry(1, Event.APPLIED, other, 0).sealed().hash());
  }

  private static History history(String events) {
    List<Entry> entries = new ArrayList<>();
    for (String word : events.split(" ")) {
      String[] parts = word.split(":");
      int statement = parts.length > 1 ? Integer.parseInt(parts[1]) : 1;
      entries.add(entry(entries.size() + 1, Event.of(parts[0]).orElseThrow(), 7, statement));
    }
    return History.of(entries, Optional.empty(), Dialects.SQLITE);
  }

  private static Entry entry(long number, Event event, long rung, int statement) {
    EntrySubject subject = new EntrySubject(rung, "bins", "text", "up" + number, "down", "");
    return entry(number, event, subject, statement);
  }

  private static Entry standing(long number, Event event, String name) {
    return entry(number, event, EntrySubject.standing(name, "up", "down", "text"), 0);
  }

  private static Entry entry(long number, Event event, EntrySubject subject, int statement) {
    Entry.Who who = new Entry.Who("", "root", "host", "process 1");
    EntryDetails note = new EntryDetails(statement, 0, "");
    return new Entry(
        number,
        "2026-11-23T07:14:38.042Z",
        "hollowfield",
        event,
        subject,
        note,
        who,
        "test",
        "",
        "");
  }
}
