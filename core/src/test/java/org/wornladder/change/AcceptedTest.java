package org.wornladder.change;

import static org.assertj.core.api.Assertions.assertThat;
import static org.wornladder.change.Structures.column;
import static org.wornladder.change.Structures.index;
import static org.wornladder.change.Structures.structure;
import static org.wornladder.change.Structures.table;
import static org.wornladder.change.Structures.view;

import java.util.List;
import org.junit.jupiter.api.Test;
import org.wornladder.schema.Kind;
import org.wornladder.schema.Snapshot;

/** Differences that a person took over. */
class AcceptedTest {
  private final Snapshot expected =
      structure(
          List.of(
              table("bin", List.of(column("code", "text", false)), index("bin_code", "(code)")),
              table("crate", List.of(column("code", "text", false)))),
          view("light", "CREATE VIEW light AS SELECT 1"));
  private final Snapshot found =
      structure(
          List.of(
              table("bin", List.of(column("code", "text", true), column("fax", "text", true))),
              table("legacy", List.of(column("code", "text", false)))),
          view("light", "CREATE VIEW light AS SELECT 2"));

  @Test
  void allOfThemMakeWhatWasFound() {
    List<Difference> all = Differences.between(expected, found);
    assertThat(all).hasSize(6);
    assertThat(Differences.between(Accepted.in(expected, all), found)).isEmpty();
  }

  @Test
  void eachAloneLeavesTheOthers() {
    List<Difference> all = Differences.between(expected, found);
    for (Difference one : all) {
      List<Difference> left = Differences.between(Accepted.in(expected, List.of(one)), found);
      assertThat(left).as(one.toString()).hasSize(all.size() - 1);
      assertThat(left).extracting(Difference::fullName).doesNotContain(one.fullName());
    }
  }

  @Test
  void aTablesColumnsKeepTheirOrderBeforeItsKeys() {
    List<Difference> columns =
        Differences.between(expected, found).stream()
            .filter(one -> one.kind() == Kind.COLUMN)
            .toList();
    Snapshot accepted = Accepted.in(expected, columns);
    assertThat(accepted.objects().get(0).parts(Kind.COLUMN))
        .extracting(org.wornladder.schema.Part::name)
        .containsExactly("code", "fax");
  }
}
