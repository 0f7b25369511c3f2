package org.wornladder;

/**
 * What to take back.
 *
 * @param fromJournal whether a way down may come from the journal where the file no longer serves
 * @param derived whether a missing way down is computed from the structures
 */
public record RollbackOptions(Selection selection, boolean fromJournal, boolean derived) {
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

  public static Builder builder() {
    return new Builder();
  }

  /** Collects options; what is not set is the last rung, by the way down in its file. */
  public static final class Builder {
    private Selection selection = new Last(1);
    private boolean fromJournal;
    private boolean derived;

    private Builder() {}

    /** The last rungs. */
    public Builder last(int count) {
      selection = new Last(count);
      return this;
    }

    /** All rungs with a higher number; 0 for all. */
    public Builder to(long number) {
      selection = new To(number);
      return this;
    }

    /** The rungs that this checkout has no file for. */
    public Builder absent() {
      selection = new Absent();
      return this;
    }

    /** Whether a way down may come from the journal where the file no longer serves. */
    public Builder fromJournal(boolean yes) {
      fromJournal = yes;
      return this;
    }

    /** Whether a missing way down is computed from the structures, and proved. */
    public Builder derived(boolean yes) {
      derived = yes;
      return this;
    }

    public RollbackOptions build() {
      return new RollbackOptions(selection, fromJournal, derived);
    }
  }
}
