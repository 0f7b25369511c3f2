package org.wornladder;

import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;

/**
 * Options of seeding.
 *
 * @param only the tables, or scripts' files, that are meant; empty for all
 * @param dryRun whether nothing is written
 * @param fitting whether only seeds are meant whose tables are there as the files want them
 * @param sample rows to make up instead of the seeds in the settings
 * @param shown how many changed rows of each table the result lists; 0 for none
 */
public record SeedOptions(
    List<String> only, boolean dryRun, int shown, boolean fitting, Optional<SampleOrder> sample) {
  /** All seeds, for good. */
  public static final SeedOptions ALL = new SeedOptions(List.of(), false, 0);

  /** Seeds whose tables are there, for good: for a ladder that is not climbed to its end. */
  public static final SeedOptions FITTING =
      new SeedOptions(List.of(), false, 0, true, Optional.empty());

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

  /** Rows that are made up. */
  public SeedOptions(boolean dryRun, int shown, SampleOrder sample) {
    this(List.of(), dryRun, shown, false, Optional.of(sample));
  }

  /** Seeds as the settings have them. */
  public SeedOptions(List<String> only, boolean dryRun, int shown) {
    this(only, dryRun, shown, false, Optional.empty());
  }

  public SeedOptions {
    only = List.copyOf(only);
    if (shown < 0) {
      throw new IllegalArgumentException("shown is " + shown);
    }
  }
}
