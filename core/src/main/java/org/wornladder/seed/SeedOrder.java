package org.wornladder.seed;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.wornladder.schema.Column;
import org.wornladder.schema.ForeignKey;

/**
 * Seeds in an order in which every row finds what it points to; where they point at each other in a
 * circle, what closes it comes later.
 *
 * @param later by table, the columns that are left NULL at first and filled in the end
 */
record SeedOrder(List<Bound> seeds, Map<String, Set<String>> later) {
  static SeedOrder of(List<Bound> seeds) {
    Map<String, Bound> byTable = new LinkedHashMap<>();
    seeds.forEach(seed -> byTable.put(seed.table().name(), seed));
    Walk walk = new Walk(byTable);
    seeds.forEach(walk::visit);
    return new SeedOrder(List.copyOf(walk.order), walk.later);
  }

  /** The columns of a table that are filled in the end. */
  Set<String> later(Bound seed) {
    return later.getOrDefault(seed.table().name(), Set.of());
  }

  /** Depth first; an edge back to a table on the way closes a circle. */
  private static final class Walk {
    private final Map<String, Bound> byTable;
    private final List<Bound> order = new ArrayList<>();
    private final Map<String, Set<String>> later = new HashMap<>();
    private final Set<String> begun = new HashSet<>();
    private final Set<String> ended = new HashSet<>();

    Walk(Map<String, Bound> byTable) {
      this.byTable = byTable;
    }

    void visit(Bound seed) {
      String name = seed.table().name();
      if (!begun.add(name)) {
        return;
      }
      for (ForeignKey key : seed.table().foreignKeys()) {
        Bound target = byTable.get(key.table());
        if (target == null || !seed.columns().containsAll(key.columns())) {
          continue;
        }
        if (begun.contains(key.table()) && !ended.contains(key.table())) {
          close(seed, key);
        } else {
          visit(target);
        }
      }
      ended.add(name);
      order.add(seed);
    }

    private void close(Bound seed, ForeignKey key) {
      for (Column column : seed.table().columns()) {
        boolean free = column.nullable() && !seed.key().contains(column.name());
        if (free && key.columns().contains(column.name())) {
          later.computeIfAbsent(seed.table().name(), table -> new HashSet<>()).add(column.name());
        }
      }
    }
  }
}
