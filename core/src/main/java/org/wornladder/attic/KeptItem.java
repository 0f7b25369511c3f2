package org.wornladder.attic;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.wornladder.engine.BadValueException;
import org.wornladder.engine.JsonLists;
import org.wornladder.journal.Entry;
import org.wornladder.journal.EntrySubject;
import org.wornladder.journal.Event;
import org.wornladder.journal.History;
import org.wornladder.schema.ObjectId;

/**
 * Something that is kept aside.
 *
 * @param entry the journal's entry that says so
 * @param rung whose way up erased it
 * @param what with the table as the database calls it
 * @param schema the table's; empty for that of the connection
 * @param place the table in which it is kept
 * @param details how much it is, in words
 * @param at when, as the journal has it
 */
public record KeptItem(
    long entry, long rung, Erasure what, String schema, String place, String details, String at) {
  /** The table that it came out of. */
  public ObjectId table() {
    return new ObjectId(org.wornladder.schema.Kind.TABLE, schema, what.table(), "");
  }

  /** What the journal says of it. */
  EntrySubject subject() {
    Object[] parts = {what.kind().name(), schema, what.table(), what.column(), place};
    return new EntrySubject(rung, what.words(), "", "", "", JsonLists.write(parts));
  }

  /** All that is kept still, the oldest first. */
  public static List<KeptItem> in(History history) {
    Map<String, KeptItem> kept = new LinkedHashMap<>();
    for (Entry entry : history.entries()) {
      if (entry.event() == Event.KEPT_ASIDE) {
        read(entry).ifPresent(item -> kept.put(item.place(), item));
      } else if (entry.event() == Event.BROUGHT_BACK || entry.event() == Event.ATTIC_EMPTIED) {
        read(entry).ifPresent(item -> kept.remove(item.place()));
      }
    }
    return new ArrayList<>(kept.values());
  }

  private static Optional<KeptItem> read(Entry entry) {
    List<String> texts;
    try {
      texts = JsonLists.read(entry.subject().script()).stream().map(String::valueOf).toList();
    } catch (BadValueException e) {
      return Optional.empty();
    }
    if (texts.size() != 5) {
      return Optional.empty();
    }
    Erasure what = new Erasure(Erasure.Kind.valueOf(texts.get(0)), texts.get(2), texts.get(3));
    return Optional.of(
        new KeptItem(
            entry.number(),
            entry.subject().rung(),
            what,
            texts.get(1),
            texts.get(4),
            entry.note().text(),
            entry.at()));
  }
}
