package org.wornladder;

import java.util.ArrayList;
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

  /** Without what is zero, for a line with little room; {@code no row} where all of it is. */
  public String brief() {
    List<String> parts = new ArrayList<>();
    for (String part : text().split(", ")) {
      if (!part.startsWith("0 ")) {
        parts.add(part);
      }
    }
    return parts.isEmpty() ? "no row" : String.join(", ", parts);
  }

  /** In words, all four. */
  public String text() {
    List<String> parts =
        List.of(
            added + " added", updated + " updated", deleted + " deleted", unchanged + " unchanged");
    return String.join(", ", parts);
  }
}
