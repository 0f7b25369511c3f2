package org.wornladder.seed;

import java.util.List;

/**
 * How many rows of a table a seed adds, updates, deletes, and finds as they should be.
 *
 * @param unchanged also those that stand there and are left as they are
 */
public record SeedCounts(long added, long updated, long deleted, long unchanged) {
  /** Whether it finds everything as it should be. */
  public boolean isQuiet() {
    return added == 0 && updated == 0 && deleted == 0;
  }

  /** As the journal and a person's screen say it. */
  public String text() {
    List<String> parts =
        List.of(
            added + " added", updated + " updated", deleted + " deleted", unchanged + " unchanged");
    return String.join(", ", parts);
  }
}
