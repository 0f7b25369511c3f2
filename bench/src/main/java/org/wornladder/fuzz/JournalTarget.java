package org.wornladder.fuzz;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.wornladder.journal.Entry;
import org.wornladder.journal.EntryDetails;
import org.wornladder.journal.EntrySubject;
import org.wornladder.journal.Event;
import org.wornladder.journal.History;
import org.wornladder.journal.RungRecord;
import org.wornladder.sql.Dialect;
import org.wornladder.sql.Dialects;

/** Entries of a journal in any order: whatever they say, it has a meaning. */
final class JournalTarget implements Fuzz.Target {
  private static final int MOST_ENTRIES = 30;

  @Override
  public void feed(Mutator mutator, List<String> corpus) {
    List<Entry> entries = new ArrayList<>();
    int count = mutator.random().nextInt(MOST_ENTRIES);
    for (int i = 0; i < count; i++) {
      entries.add(entry(mutator, corpus));
    }
    Dialect dialect = mutator.any(Dialects.ALL);
    History history = History.of(entries, Optional.empty(), dialect);
    for (RungRecord record : history.inPlaceNewestFirst()) {
      history.began(record);
      history.standingBefore(record.run().number());
    }
    if (history.highestThatRan() > history.highest() || history.stuck().size() > entries.size()) {
      throw new IllegalStateException("the history contradicts itself: " + entries);
    }
  }

  private static Entry entry(Mutator mutator, List<String> corpus) {
    long number = mutator.random().nextInt(MOST_ENTRIES);
    String text = mutator.mutated(mutator.any(corpus), corpus);
    EntrySubject subject =
        new EntrySubject(mutator.random().nextInt(4), "bins", text, text, text, text);
    int statement = mutator.random().nextInt(4) - 1;
    return new Entry(
        number,
        "2026-08-31T06:30:00.000Z",
        "hollowfield",
        mutator.any(List.of(Event.values())),
        subject,
        new EntryDetails(statement, 0, text),
        new Entry.Who("", "", "", ""),
        "fuzz",
        "",
        "");
  }
}
