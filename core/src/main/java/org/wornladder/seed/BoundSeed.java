package org.wornladder.seed;

import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import org.wornladder.engine.StagingTable;
import org.wornladder.project.Seed;
import org.wornladder.project.SeedRows;
import org.wornladder.schema.Table;

/**
 * A seed together with its table.
 *
 * @param stage where its rows are taken in
 * @param columns of the table that it says something of
 * @param looks those of them that are looked up
 */
record BoundSeed(
    Seed seed,
    Table table,
    SeedRows rows,
    StagingTable stage,
    List<String> columns,
    List<LookupColumn> looks) {
  BoundSeed {
    columns = List.copyOf(columns);
    looks = List.copyOf(looks);
  }

  List<String> key() {
    return stage.key();
  }

  /** The columns that rows which are there may take on. */
  List<String> updated() {
    List<String> others = new ArrayList<>(columns);
    others.removeAll(key());
    return seed.update() ? others : List.of();
  }

  /** Whether the table itself sees to it that the key is unique. */
  boolean isKeyUnique() {
    Set<String> own = Set.copyOf(key());
    return UniqueKeys.of(table).stream().anyMatch(unique -> own.equals(Set.copyOf(unique)));
  }
}
