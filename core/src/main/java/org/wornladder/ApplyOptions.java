package org.wornladder;

import java.util.Optional;
import java.util.OptionalLong;

/**
 * How to apply.
 *
 * @param to the highest number to run; empty for all
 * @param together whether all waiting rungs are one transaction
 * @param despiteDrift why to go on in a guarded environment that is not what its history says
 */
public record ApplyOptions(OptionalLong to, boolean together, Optional<String> despiteDrift) {
  /** All waiting rungs, each in its own transaction. */
  public static final ApplyOptions ALL = builder().build();

  public static Builder builder() {
    return new Builder();
  }

  /** Collects options; what is not set is as in {@link #ALL}. */
  public static final class Builder {
    private OptionalLong to = OptionalLong.empty();
    private boolean together;
    private Optional<String> despiteDrift = Optional.empty();

    private Builder() {}

    /** The highest number to run. */
    public Builder to(long number) {
      to = OptionalLong.of(number);
      return this;
    }

    /** Whether all waiting rungs are one transaction. */
    public Builder together(boolean yes) {
      together = yes;
      return this;
    }

    /** Why to go on in a guarded environment that is not what its history says. */
    public Builder despiteDrift(String reason) {
      despiteDrift = Optional.of(reason);
      return this;
    }

    public ApplyOptions build() {
      return new ApplyOptions(to, together, despiteDrift);
    }
  }
}
