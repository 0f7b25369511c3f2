package org.wornladder.journal;

import java.util.HashMap;
import java.util.Map;
import java.util.Optional;

/** What an entry of the journal says happened. */
public enum Event {
  APPLIED("applied"),
  /** It was there before the ladder did, or a hand made it, and is on record from here on. */
  ADOPTED("adopted"),
  PASSED_OVER("passed-over"),
  FAILED("failed"),
  ROLLED_BACK("rolled-back"),
  ROLLBACK_FAILED("rollback-failed"),
  /** A way that runs outside a transaction begins. */
  UP_STARTED("up-started"),
  DOWN_STARTED("down-started"),
  STATEMENT_STARTED("statement-started"),
  STATEMENT_DONE("statement-done"),
  STATEMENT_FAILED("statement-failed"),
  /** Rows of a statement that runs piece by piece; its script is the key of the last of them. */
  BATCH_DONE("batch-done"),
  BATCHES_STOPPED("batches-stopped"),
  /** A person said that the statement in doubt took effect, or that it did not. */
  SETTLED_DONE("settled-done"),
  SETTLED_NOT_DONE("settled-not-done"),
  /** A person took the edited file as the one that ran. */
  FILE_ACCEPTED("file-accepted"),
  /** A rung's number went to the end of the ladder; the entry behind it has the new number. */
  MOVED_AWAY("moved-away"),
  RENUMBERED("renumbered"),
  /** A rung of the files stands from now on for several that ran one by one. */
  FOLDED("folded"),
  /** What a rung is about to erase was kept in a table of its own. */
  KEPT_ASIDE("kept-aside"),
  /** What was kept is where it was. */
  BROUGHT_BACK("brought-back"),
  /** What was kept is kept no longer. */
  ATTIC_EMPTIED("attic-emptied"),
  /** A person went on although the database was not what its history says. */
  DRIFT_ACCEPTED("drift-accepted"),
  /** A person took a journal as it is whose hash chain was broken; its script is a digest of it. */
  JOURNAL_ACCEPTED("journal-accepted"),
  /** Rows were brought to what a file says, or a seed's script ran. */
  SEEDED("seeded"),
  /** The database was emptied, and the journal with it: this entry is the first of a new one. */
  EMPTIED("emptied"),
  /** A standing script begins where it cannot be undone. */
  STANDING_STARTED("standing-started"),
  STANDING_RUN("standing-run"),
  STANDING_REMOVED("standing-removed"),
  STANDING_FAILED("standing-failed");

  private static final Map<String, Event> BY_WORD = new HashMap<>();

  static {
    for (Event event : values()) {
      BY_WORD.put(event.word, event);
    }
  }

  private final String word;

  Event(String word) {
    this.word = word;
  }

  /** The word that is in the journal. */
  public String label() {
    return word;
  }

  /** The word as a person reads it. */
  public String shown() {
    return word.replace('-', ' ');
  }

  /** The event of a word; empty for one that a newer version may have written. */
  public static Optional<Event> of(String word) {
    return Optional.ofNullable(BY_WORD.get(word));
  }

  /** Whether it is on the record and changes no rung. */
  public boolean isAside() {
    return switch (this) {
      case DRIFT_ACCEPTED,
          JOURNAL_ACCEPTED,
          SEEDED,
          EMPTIED,
          FOLDED,
          KEPT_ASIDE,
          BROUGHT_BACK,
          ATTIC_EMPTIED ->
          true;
      default -> false;
    };
  }

  public boolean isStanding() {
    return word.startsWith("standing-");
  }
}
