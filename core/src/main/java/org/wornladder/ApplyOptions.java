package org.wornladder;

import java.util.Optional;
import java.util.OptionalLong;

/**
 * How to apply.
 *
 * @param to the highest number to run; empty for all
 * @param together whether all waiting rungs are one transaction
 * @param despiteDrift why to go on in a guarded environment that is not what its history says
 * @param attic whether what rungs erase is kept; empty for what the environment's settings say
 * @param question asked where these leave it open
 */
public record ApplyOptions(
    OptionalLong to,
    boolean together,
    Optional<String> despiteDrift,
    Optional<Boolean> attic,
    AtticChoice question) {
  /** All waiting rungs, each in its own transaction. */
  public static final ApplyOptions ALL = builder().build();

  /** As the settings say of the attic. */
  public ApplyOptions(OptionalLong to, boolean together, Optional<String> despiteDrift) {
    this(to, together, despiteDrift, Optional.empty(), AtticChoice.OPEN);
  }

  public static Builder builder() {
    return new Builder();
  }

  /** Collects options; what is not set is as in {@link #ALL}. */
  public static final class Builder {
    private OptionalLong to = OptionalLong.empty();
    private boolean together;
    private Optional<String> despiteDrift = Optional.empty();
    private Optional<Boolean> attic = Optional.empty();

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

    /** Whether what rungs erase is kept, whatever the environment's settings say. */
    public Builder attic(boolean yes) {
      attic = Optional.of(yes);
      return this;
    }

    public ApplyOptions build() {
      return new ApplyOptions(to, together, despiteDrift, attic, AtticChoice.OPEN);
    }
  }
}
