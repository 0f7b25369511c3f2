package org.wornladder.change;

import static org.assertj.core.api.Assertions.assertThat;
import static org.wornladder.change.Structures.CODE;
import static org.wornladder.change.Structures.WEIGHT;
import static org.wornladder.change.Structures.column;
import static org.wornladder.change.Structures.index;
import static org.wornladder.change.Structures.structure;
import static org.wornladder.change.Structures.table;
import static org.wornladder.change.Structures.view;

import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.Kind;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.Snapshot;

class IgnoreFilterTest {
  private static final Snapshot BEFORE = structure(table("bin", List.of(CODE)));
  private static final Snapshot AFTER =
      structure(
          List.of(
              table("bin", List.of(CODE, WEIGHT), index("bin_quick", "(code)")),
              table("legacy.fax", List.of(CODE))),
          view("stock", "SELECT 1"));

  @ParameterizedTest
  @CsvSource({
    "column:bin.weight_kg, 3",
    "column:*.weight_kg, 3",
    "column:weight_kg, 4",
    "index:*quick, 3",
    "table:legacy.fax, 3",
    "table:legacy_fax, 4",
    "table:*, 1",
    "TABLE: *, 1",
    "view:s*k, 3",
    "view:s.*k, 4",
    "trigger:*, 4"
  })
  void aPatternLeavesOutWhatItNames(String pattern, int left) {
    List<Difference> all = Differences.between(BEFORE, AFTER);
    assertThat(all).hasSize(4);
    assertThat(new IgnoreFilter(List.of(pattern)).without(all)).hasSize(left);
  }

  @Test
  void partitionsAreAKindOfTheirOwnAndTriggersGoWithTheirTable() {
    DatabaseObject partition =
        DatabaseObject.of(
            ObjectId.of(Kind.TABLE, "picking_26"),
            Map.of("partition bound", "DEFAULT"),
            List.of(),
            List.of());
    DatabaseObject plain =
        DatabaseObject.of(ObjectId.of(Kind.TABLE, "picking_27"), Map.of(), List.of(), List.of());
    DatabaseObject trigger =
        DatabaseObject.of(
            ObjectId.of(Kind.TRIGGER, "stamp"),
            Map.of("table", "picking_27"),
            List.of(),
            List.of());
    List<Difference> all =
        Differences.between(Snapshot.EMPTY, new Snapshot(List.of(partition, plain, trigger)));
    assertThat(new IgnoreFilter(List.of("partition:picking_*")).without(all))
        .map(Difference::name)
        .containsExactly("picking_27", "stamp");
    assertThat(new IgnoreFilter(List.of("table:picking_27")).without(all))
        .map(Difference::name)
        .containsExactly("picking_26");
  }

  @Test
  void twoEnginesAreComparedByWhatBothCanSay() {
    Snapshot one = structure(List.of(table("BIN", List.of(column("CODE", "VARCHAR", false)))));
    Snapshot other =
        structure(
            List.of(table("bin", List.of(CODE), index("bin_quick", "(code)"))),
            view("stock", "SELECT 1"));
    assertThat(Differences.between(CommonSubset.of(one), CommonSubset.of(other)))
        .map(difference -> difference.kind() + " " + difference.fullName())
        .containsExactly("VIEW stock");
  }
}
