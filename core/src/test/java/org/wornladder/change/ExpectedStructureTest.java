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
import org.junit.jupiter.api.Test;
import org.wornladder.schema.Snapshot;

class ExpectedStructureTest {
  private static final Snapshot PLANNED = structure(table("bin", List.of(CODE, WEIGHT)));

  @Test
  void whatARunMadeIsExpectedAndWhatAHandMadeIsNot() {
    Snapshot byHand = structure(table("bin", List.of(CODE, WEIGHT, column("fax", "text", true))));
    Snapshot after =
        structure(
            List.of(
                table("bin", List.of(CODE, WEIGHT, column("fax", "text", true))),
                table("grade", List.of(CODE))),
            view("stock", "SELECT 1"));
    Snapshot expected = ExpectedStructure.after(PLANNED, byHand, after);
    assertThat(expected)
        .isEqualTo(
            structure(
                List.of(table("bin", List.of(CODE, WEIGHT)), table("grade", List.of(CODE))),
                view("stock", "SELECT 1")));
    assertThat(Differences.between(expected, after))
        .map(Difference::fullName)
        .containsExactly("bin.fax");
  }

  @Test
  void aFactThatAHandChangedStaysADifferenceWhenARunChangesAnother() {
    Snapshot byHand = structure(table("bin", List.of(CODE, column("weight_kg", "bigint", true))));
    Snapshot after = structure(table("bin", List.of(CODE, column("weight_kg", "bigint", false))));
    Snapshot expected = ExpectedStructure.after(PLANNED, byHand, after);
    assertThat(expected)
        .isEqualTo(structure(table("bin", List.of(CODE, column("weight_kg", "integer", false)))));
    assertThat(Differences.between(expected, after).get(0).facts())
        .map(Difference.FactChange::name)
        .containsExactly("type");
  }

  @Test
  void whatAHandDroppedIsMissingUntilARunDropsItToo() {
    Snapshot byHand = structure(table("bin", List.of(CODE)));
    Snapshot unrelated = structure(table("bin", List.of(CODE), index("bin_code", "(code)")));
    Snapshot expected = ExpectedStructure.after(PLANNED, byHand, unrelated);
    assertThat(Differences.between(expected, unrelated))
        .map(Difference::change)
        .containsExactly(Difference.Change.REMOVED);
    assertThat(ExpectedStructure.after(expected, unrelated, Snapshot.EMPTY))
        .isEqualTo(Snapshot.EMPTY);
  }

  @Test
  void theOrderOfColumnsIsADifferenceOnlyAmongThoseThatBothHave() {
    Snapshot turned = structure(table("bin", List.of(WEIGHT, CODE)));
    assertThat(Differences.between(PLANNED, turned).get(0).facts())
        .containsExactly(
            new Difference.FactChange(
                "column order",
                java.util.Optional.of("code, weight_kg"),
                java.util.Optional.of("weight_kg, code")));
    assertThat(Differences.between(PLANNED, structure(table("bin", List.of(WEIGHT)))))
        .map(Difference::fullName)
        .containsExactly("bin.code");
  }

  @Test
  void ignoredThingsAreLeftOutWithTheirParts() {
    Snapshot found =
        structure(
            table("bin", List.of(CODE, column("fax", "text", true))),
            table("legacy_bin", List.of(CODE)));
    List<Difference> all = Differences.between(PLANNED, found);
    assertThat(all).hasSize(3);
    assertThat(new IgnoreFilter(List.of("table:legacy_*", "column:*.fax")).without(all))
        .map(Difference::fullName)
        .containsExactly("bin.weight_kg");
  }

  @Test
  void aSnapshotIsReadAsItWasWritten() {
    Snapshot whole =
        structure(
            List.of(table("bin \"of\" März", List.of(CODE, WEIGHT), index("i", "(code)"))),
            view("stock", "SELECT 'a\nb'"));
    assertThat(Snapshot.read(whole.json())).contains(whole);
    assertThat(Snapshot.read("no json")).isEmpty();
    assertThat(whole.meaningFingerprint()).isNotEqualTo(PLANNED.meaningFingerprint()).hasSize(64);
  }
}
