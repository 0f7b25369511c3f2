package org.wornladder.climb;

import java.util.OptionalLong;

/**
 * How to apply.
 *
 * @param to the highest number to run; empty for all
 * @param together whether all waiting rungs are one transaction
 */
public record ApplyOptions(OptionalLong to, boolean together) {
  public static final ApplyOptions ALL = new ApplyOptions(OptionalLong.empty(), false);
}
