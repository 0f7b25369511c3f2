package org.wornladder.change;

import java.util.Optional;

/**
 * What a change may do to rows, to others at work, or to the program that uses the database.
 *
 * @param subject the object, such as {@code column bin.code}
 * @param reason one sentence without a full stop
 * @param rows the rows that decide, where rows do
 * @param instead what can be done instead; empty if nothing is to be said
 */
public record Risk(
    Kind kind, String subject, String reason, Optional<RowCheck> rows, String instead) {
  /** Independent of each other: a change can carry several. */
  public enum Kind {
    /** Rows or values are gone. */
    ERASES("erases"),
    /** It depends on the rows that are there. */
    MAY_FAIL("may-fail"),
    /** Others must wait, or a table is read or written whole. */
    BLOCKS("blocks"),
    /** A program written for the structure before fails. */
    BREAKS_OLD_CODE("breaks-old-code");

    private final String label;

    Kind(String label) {
      this.label = label;
    }

    public String label() {
      return label;
    }
  }

  /** One that no rows decide, and nothing is known to do instead. */
  public static Risk of(Kind kind, String subject, String reason) {
    return new Risk(kind, subject, reason, Optional.empty(), "");
  }

  Risk over(RowCheck check) {
    return new Risk(kind, subject, reason, Optional.of(check), instead);
  }

  Risk instead(String other) {
    return new Risk(kind, subject, reason, rows, other);
  }
}
