package org.wornladder.schema;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SortedMap;
import java.util.TreeMap;

/** An object of a database or a part of a table, as comparison, storage and display see it. */
public sealed interface Described permits DatabaseObject, Part {
  Kind kind();

  /** The name that people read. */
  String name();

  /**
   * All that is known of it but its parts and dependencies, by name; what is not set is not there.
   * It can be built again of its facts, see {@link DatabaseObject#of} and {@link Part#of}.
   */
  SortedMap<String, String> facts();

  /** Its parts that count in comparisons: columns in the table's order, then the rest. */
  List<Part> parts();

  /** What it cannot be without, in one order, without what its parts need. */
  List<Dependency> dependsOn();

  /** Whether it is there, but what it is may not be read by the user who asked. */
  boolean isHidden();

  default Optional<String> fact(String word) {
    return Optional.ofNullable(facts().get(word));
  }

  /** The facts that count when structures are compared. */
  default SortedMap<String, String> meaning() {
    SortedMap<String, String> counting = new TreeMap<>(facts());
    counting.keySet().removeIf(word -> !Facts.counts(word));
    return counting;
  }

  /** Whether two mean the same: names that the engine gave, and texts kept for layout, aside. */
  default boolean means(Described other) {
    if (equals(other)) {
      return true;
    }
    return kind() == other.kind()
        && name().equals(other.name())
        && meaning().equals(other.meaning())
        && partsMean(parts(), other.parts());
  }

  private static boolean partsMean(List<Part> own, List<Part> others) {
    if (own.size() != others.size()) {
      return false;
    }
    for (int i = 0; i < own.size(); i++) {
      if (!own.get(i).means(others.get(i))) {
        return false;
      }
    }
    return true;
  }

  /** Facts of a map with others in the place of those of the same name. */
  static Map<String, String> with(Map<String, String> facts, Map<String, String> others) {
    Map<String, String> all = new TreeMap<>(facts);
    all.putAll(others);
    return all;
  }
}
