package org.wornladder.project;

import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import org.wornladder.ProjectException;
import org.wornladder.sql.Place;

/** The names that a seed file gives its columns. */
final class SeedHeader {
  private SeedHeader() {}

  /**
   * The names as a list.
   *
   * @throws ProjectException if one is empty, or occurs twice
   */
  static List<String> check(Place place, String... names) {
    Set<String> columns = new LinkedHashSet<>();
    for (String name : names) {
      if (name == null || name.isBlank()) {
        throw ProjectException.of(
            place,
            "column " + (columns.size() + 1) + " has no name",
            "the first line names the table's columns");
      }
      if (!columns.add(name)) {
        throw ProjectException.of(place, "column " + name + " occurs twice", "keep one of them");
      }
    }
    return List.copyOf(columns);
  }
}
