package org.wornladder.journal;

import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.wornladder.journal.History.Break;
import org.wornladder.sql.Fingerprint;

/**
 * Follows the entries of a journal, and finds where one of them does not follow from the one before
 * it. Against somebody who may write both of the tool's tables only the database's grants help, and
 * a copy of the head elsewhere.
 */
final class HashChain {
  private JournalHead last = JournalHead.NONE;
  private final Set<JournalHead> passed = new HashSet<>();
  private String digest = "";
  private Optional<Break> broken = Optional.empty();

  /** The entry that came last. */
  JournalHead last() {
    return last;
  }

  /** A digest over all entries so far, as they stand; an acceptance keeps it. */
  String digest() {
    return digest;
  }

  /** Takes the next entry, in the order of their numbers. */
  void next(Entry entry) {
    String expected = entry.expectedHash();
    if (entry.event() == Event.JOURNAL_ACCEPTED && accepts(entry, expected)) {
      broken = Optional.empty();
    } else if (broken.isEmpty()) {
      broken = breakAt(entry, expected).map(reason -> new Break(entry.number(), reason));
    }
    passed.add(last);
    last = new JournalHead(entry.number(), entry.hash());
    digest = Fingerprint.ofParts(List.of(digest, expected, entry.hash()));
  }

  /** Whether a person took the entries before this one as they still are. */
  private boolean accepts(Entry entry, String expected) {
    return entry.subject().script().equals(digest)
        && entry.previousHash().equals(last.hash())
        && entry.hash().equals(expected);
  }

  private Optional<String> breakAt(Entry entry, String expected) {
    if (entry.number() != last.number() + 1) {
      return Optional.of("an entry is missing before it");
    }
    if (!entry.previousHash().equals(last.hash())) {
      return Optional.of("it does not follow from the entry before it");
    }
    return entry.hash().equals(expected)
        ? Optional.empty()
        : Optional.of("it was edited after it was written");
  }

  /**
   * Where the chain breaks, once all entries were taken.
   *
   * @param head as it was recorded beside the journal
   * @param table where it is recorded
   * @param together whether an entry and its record are written both or not at all; where they are
   *     not, a process may have ended before it could record the last ones
   */
  Optional<Break> end(Optional<JournalHead> head, String table, boolean together) {
    JournalHead recorded = head.orElse(JournalHead.NONE);
    boolean behind = head.isPresent() && passed.contains(recorded);
    if (broken.isPresent() || last.equals(recorded) || !together && behind) {
      return broken;
    }
    if (head.isEmpty()) {
      return broken(last.number(), "%s does not say any more that it is the last".formatted(table));
    }
    if (recorded.number() > last.number()) {
      return broken(
          last.number() + 1, "%s says that %d was the last".formatted(table, recorded.number()));
    }
    return broken(
        recorded.number() == last.number() ? last.number() : recorded.number() + 1,
        "%s says that the last was another one".formatted(table));
  }

  private static Optional<Break> broken(long entry, String reason) {
    return Optional.of(new Break(entry, reason));
  }
}
