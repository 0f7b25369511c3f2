package org.wornladder;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;

/**
 * What a rehearsal begins with.
 *
 * @param fromBlank whether it begins with nothing, and runs all rungs
 * @param live whether it begins with the structure that is there, instead of the expected one
 * @param rows how many rows are made up for each table, or copied from each; empty for reference
 *     data alone
 * @param copy the tables of which the environment's own rows are copied, with a star for any
 *     letters; none to copy no rows
 * @param runCallers whether the callers run, in a transaction that is rolled back; they are
 *     prepared alone otherwise
 * @param bothWays whether callers must work on the structure before a rung, too
 * @param expected a file with what another environment should have, to begin with that; empty for
 *     the environment itself
 */
public record RehearseOptions(
    boolean fromBlank,
    boolean live,
    OptionalLong rows,
    List<String> copy,
    boolean runCallers,
    boolean bothWays,
    Optional<Path> expected) {
  public RehearseOptions {
    copy = List.copyOf(copy);
  }

  /** One that asks the environment itself, and copies no rows. */
  public RehearseOptions(boolean fromBlank, boolean live, OptionalLong rows, boolean bothWays) {
    this(fromBlank, live, rows, List.of(), false, bothWays, Optional.empty());
  }

  /** With the expected structure and reference data. */
  public static final RehearseOptions EXPECTED =
      new RehearseOptions(false, false, OptionalLong.empty(), false);
}
