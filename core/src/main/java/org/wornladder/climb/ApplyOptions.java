package org.wornladder.climb;

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
  public static final ApplyOptions ALL =
      new ApplyOptions(OptionalLong.empty(), false, Optional.empty());
}
