package org.wornladder.seed;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.Collections;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.wornladder.engine.StagingTable;
import org.wornladder.project.Seed;
import org.wornladder.project.SeedRows;
import org.wornladder.schema.Column;
import org.wornladder.schema.ForeignKey;
import org.wornladder.schema.Kind;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.PrimaryKey;
import org.wornladder.schema.Table;
import org.wornladder.sql.Place;

/** The order in which seeds are written. */
class SeedOrderTest {
  /** Rows that nobody reads. */
  private record NoRows(List<String> columns) implements SeedRows {
    @Override
    public Place place(long position) {
      return Place.of("seeds");
    }

    @Override
    public Place header() {
      return Place.of("seeds");
    }

    @Override
    public String fingerprint() {
      return "";
    }

    @Override
    public long most() {
      return 0;
    }

    @Override
    public <E extends Exception> void each(Visitor<E> visitor) {}
  }

  /** A table that points to others, by columns that may be NULL or not. */
  private static BoundSeed bound(String name, Map<String, Boolean> targets) {
    List<Column> columns = new ArrayList<>();
    columns.add(new Column("id", "integer", false, Optional.empty(), Map.of()));
    List<ForeignKey> keys = new ArrayList<>();
    targets.forEach(
        (target, nullable) -> {
          String column = target + "_id";
          columns.add(new Column(column, "integer", nullable, Optional.empty(), Map.of()));
          keys.add(
              ForeignKey.unnamed(
                  List.of(column), ObjectId.of(Kind.TABLE, target), List.of("id"), "", ""));
        });
    Table table =
        new Table(
            ObjectId.of(Kind.TABLE, name),
            columns,
            Optional.of(PrimaryKey.over(List.of("id"))),
            keys,
            List.of(),
            List.of(),
            Map.of(),
            "",
            List.of());
    Seed seed =
        new Seed(
            Place.of(name), Seed.Form.CSV, name, name + ".csv", List.of(), true, false, List.of());
    List<String> names = columns.stream().map(Column::name).toList();
    StagingTable stage =
        new StagingTable("stage_" + name, name, List.of(), List.of(), List.of(), List.of("id"));
    return new BoundSeed(seed, table, new NoRows(names), stage, names, List.of());
  }

  private static List<String> names(SeedOrder order) {
    return order.seeds().stream().map(seed -> seed.table().name()).toList();
  }

  @Test
  void whatIsPointedToComesFirst() {
    BoundSeed bin = bound("bin", Map.of("picking", false));
    BoundSeed picking = bound("picking", Map.of("block", true));
    BoundSeed block = bound("block", Map.of());
    SeedOrder order = SeedOrder.of(List.of(bin, picking, block));
    assertThat(names(order)).containsExactly("block", "picking", "bin");
    assertThat(order.later()).isEmpty();
  }

  @Test
  void aTableThatPointsToItselfIsClosedInTheEnd() {
    BoundSeed block = bound("block", Map.of("block", true));
    assertThat(SeedOrder.of(List.of(block)).later(block)).containsExactly("block_id");
    BoundSeed strict = bound("block", Map.of("block", false));
    assertThat(SeedOrder.of(List.of(strict)).later(strict)).isEmpty();
  }

  @Test
  void aCircleIsOpenedWhereItMayBeNull() {
    for (boolean turned : new boolean[] {false, true}) {
      BoundSeed tree = bound("tree", Map.of("block", false));
      BoundSeed block = bound("block", Map.of("tree", true));
      List<BoundSeed> seeds = new ArrayList<>(List.of(tree, block));
      if (turned) {
        Collections.reverse(seeds);
      }
      SeedOrder order = SeedOrder.of(seeds);
      assertThat(names(order)).containsExactly("block", "tree");
      assertThat(order.later(block)).containsExactly("tree_id");
      assertThat(order.later(tree)).isEmpty();
    }
  }

  @Test
  void anyGraphWithoutACircleOfStrictReferencesIsOrdered() {
    Random random = new Random(42);
    for (int round = 0; round < 200; round++) {
      int count = 2 + random.nextInt(8);
      List<BoundSeed> seeds = new ArrayList<>();
      for (int i = 0; i < count; i++) {
        Map<String, Boolean> targets = new java.util.TreeMap<>();
        for (int j = 0; j < count; j++) {
          if (random.nextInt(4) == 0) {
            // A strict reference leads to an earlier table alone, so that an order exists.
            targets.put("t" + j, j >= i || random.nextBoolean());
          }
        }
        seeds.add(bound("t" + i, targets));
      }
      Collections.shuffle(seeds, random);
      check(SeedOrder.of(seeds), seeds.size());
    }
  }

  private static void check(SeedOrder order, int count) {
    assertThat(order.seeds()).hasSize(count).doesNotHaveDuplicates();
    Set<String> written = new HashSet<>();
    for (BoundSeed seed : order.seeds()) {
      for (ForeignKey key : seed.table().foreignKeys()) {
        boolean there = written.contains(key.table());
        boolean later = order.later(seed).containsAll(key.columns());
        assertThat(there || later).as(seed.table().name() + " to " + key.table()).isTrue();
      }
      written.add(seed.table().name());
    }
  }
}
