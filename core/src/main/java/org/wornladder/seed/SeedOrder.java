package org.wornladder.seed;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.wornladder.schema.Column;
import org.wornladder.schema.ForeignKey;

/**
 * Seeds in an order in which every row finds what it points to; where they point at each other in a
 * circle, it is opened at columns that may be NULL, and these are filled in the end.
 *
 * @param later by table, the columns that are left NULL at first
 */
record SeedOrder(List<BoundSeed> seeds, Map<String, Set<String>> later) {
  static SeedOrder of(List<BoundSeed> seeds) {
    List<BoundSeed> waiting = new ArrayList<>(seeds);
    // Made-up rows keep clear of the reference rows that their table gets.
    waiting.sort(Comparator.comparing(seed -> seed.seed().isSample()));
    List<BoundSeed> order = new ArrayList<>();
    Map<String, Set<String>> later = new HashMap<>();
    while (!waiting.isEmpty()) {
      BoundSeed next = next(waiting);
      waiting.remove(next);
      order.add(next);
      Set<String> open = new HashSet<>();
      for (ForeignKey key : pointing(next, waiting, true)) {
        open.addAll(free(next, key));
      }
      if (!open.isEmpty()) {
        later.put(next.table().name(), open);
      }
    }
    return new SeedOrder(List.copyOf(order), later);
  }

  /** The first that points to none of the others, or only by what may be NULL. */
  private static BoundSeed next(List<BoundSeed> waiting) {
    for (BoundSeed seed : waiting) {
      if (pointing(seed, waiting, false).isEmpty()) {
        return seed;
      }
    }
    for (BoundSeed seed : waiting) {
      boolean free =
          pointing(seed, waiting, false).stream().noneMatch(key -> free(seed, key).isEmpty());
      if (free) {
        return seed;
      }
    }
    return waiting.get(0);
  }

  /**
   * The references of a seed to others, by columns that it says something of.
   *
   * @param itself whether those to itself count
   */
  private static List<ForeignKey> pointing(BoundSeed seed, List<BoundSeed> others, boolean itself) {
    Set<String> tables = new HashSet<>();
    others.forEach(other -> tables.add(other.table().name()));
    tables.remove(seed.table().name());
    if (itself) {
      tables.add(seed.table().name());
    }
    return seed.table().foreignKeys().stream()
        .filter(key -> tables.contains(key.table()) && seed.columns().containsAll(key.columns()))
        .toList();
  }

  /** The columns of a reference that may be NULL for a while. */
  private static List<String> free(BoundSeed seed, ForeignKey key) {
    return seed.table().columns().stream()
        .filter(Column::nullable)
        .map(Column::name)
        .filter(name -> key.columns().contains(name) && !seed.key().contains(name))
        .toList();
  }

  /** The columns of a table that are filled in the end. */
  Set<String> later(BoundSeed seed) {
    return later.getOrDefault(seed.table().name(), Set.of());
  }
}
