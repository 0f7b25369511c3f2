package org.wornladder.climb;

/**
 * What to take back.
 *
 * @param fromJournal whether a way down may come from the journal where the file no longer serves
 */
public record RollbackOptions(Selection selection, boolean fromJournal) {
  /** Which rungs. */
  public sealed interface Selection {}

  /** The rungs that ran last; {@code count} is at least 1. */
  public record Last(int count) implements Selection {
    public Last {
      if (count < 1) {
        throw new IllegalArgumentException("at least one rung, not " + count);
      }
    }
  }

  /** All rungs with a higher number; 0 for all. */
  public record To(long number) implements Selection {}

  /** The rungs that this checkout has no file for. */
  public record Absent() implements Selection {}
}
