package org.wornladder;

import java.nio.file.Path;
import java.util.Optional;
import java.util.OptionalLong;

/**
 * What a rehearsal begins with.
 *
 * @param fromBlank whether it begins with nothing, and runs all rungs
 * @param live whether it begins with the structure that is there, instead of the expected one
 * @param rows how many rows are made up for each table; empty for reference data alone
 * @param bothWays whether callers must work on the structure before a rung, too
 * @param expected a file with what another environment should have, to begin with that; empty for
 *     the environment itself
 */
public record RehearseOptions(
    boolean fromBlank, boolean live, OptionalLong rows, boolean bothWays, Optional<Path> expected) {
  /** One that asks the environment itself. */
  public RehearseOptions(boolean fromBlank, boolean live, OptionalLong rows, boolean bothWays) {
    this(fromBlank, live, rows, bothWays, Optional.empty());
  }

  /** With the expected structure and reference data. */
  public static final RehearseOptions EXPECTED =
      new RehearseOptions(false, false, OptionalLong.empty(), false);
}
