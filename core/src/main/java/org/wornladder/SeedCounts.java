package org.wornladder;

import java.util.ArrayList;
import java.util.List;

/**
 * How many rows of a table a seed adds, updates, deletes, and finds as they should be.
 *
 * @param unchanged also those that are there and are left as they are
 */
public record SeedCounts(long added, long updated, long deleted, long unchanged) {
  /** Whether it finds everything as it should be. */
  public boolean isQuiet() {
    return added == 0 && updated == 0 && deleted == 0;
  }

  /** As text, without what is zero; {@code no row} where all of it is. */
  public String text() {
    List<String> parts = new ArrayList<>();
    part(parts, added, "added");
    part(parts, updated, "updated");
    part(parts, deleted, "deleted");
    part(parts, unchanged, "unchanged");
    return parts.isEmpty() ? "no row" : String.join(", ", parts);
  }

  private static void part(List<String> parts, long count, String word) {
    if (count > 0) {
      parts.add(count + " " + word);
    }
  }
}
