package org.wornladder.seed;

import java.util.List;

/**
 * Options of seeding.
 *
 * @param only the tables, or scripts' files, that are meant; empty for all
 * @param dryRun whether nothing is written
 * @param shown how many changed rows of each table are told; 0 for none
 */
public record SeedOptions(List<String> only, boolean dryRun, int shown) {
  /** All seeds, for good. */
  public static final SeedOptions ALL = new SeedOptions(List.of(), false, 0);

  public SeedOptions {
    only = List.copyOf(only);
    if (shown < 0) {
      throw new IllegalArgumentException("shown is " + shown);
    }
  }
}
