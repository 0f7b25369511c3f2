package org.wornladder;

import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;

/**
 * Options of seeding.
 *
 * @param only the tables, or scripts' files, that are meant; empty for all
 * @param dryRun whether nothing is written
 * @param sample rows to make up instead of the seeds in the settings
 * @param shown how many changed rows of each table the result lists; 0 for none
 */
public record SeedOptions(
    List<String> only, boolean dryRun, int shown, Optional<SampleOrder> sample) {
  /** All seeds, for good. */
  public static final SeedOptions ALL = new SeedOptions(List.of(), false, 0);

  /**
   * Rows that shall be made up for some tables, and nothing else.
   *
   * @param rows how many for each; empty for as many as its file says, or fifty
   */
  public record SampleOrder(List<String> tables, OptionalLong rows) {
    public SampleOrder {
      tables = List.copyOf(tables);
    }
  }

  /** Seeds as the settings have them. */
  public SeedOptions(List<String> only, boolean dryRun, int shown) {
    this(only, dryRun, shown, Optional.empty());
  }

  public SeedOptions {
    only = List.copyOf(only);
    if (shown < 0) {
      throw new IllegalArgumentException("shown is " + shown);
    }
  }
}
