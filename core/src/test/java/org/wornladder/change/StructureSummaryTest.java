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

class StructureSummaryTest {
  @Test
  void countsWhatCameWentAndChanged() {
    Snapshot before = structure(table("bin", List.of(CODE)));
    Snapshot after =
        structure(
            List.of(
                table("bin", List.of(CODE, WEIGHT), index("bin_code", "(code)")),
                table("grade", List.of(CODE))),
            view("stock", "SELECT 1"));
    assertThat(StructureSummary.between(before, after).text())
        .isEqualTo("1 table, 2 columns, 1 index and 1 view added");
    assertThat(StructureSummary.between(after, before).text())
        .isEqualTo("1 table, 2 columns, 1 index and 1 view dropped");
    assertThat(StructureSummary.between(after, after).text()).isEqualTo("structure unchanged");
  }

  @Test
  void aColumnThatIsNotTheSameIsChanged() {
    Snapshot before = structure(table("bin", List.of(CODE)));
    Snapshot after = structure(table("bin", List.of(column("code", "varchar(80)", false))));
    assertThat(StructureSummary.between(before, after).text()).isEqualTo("1 column changed");
  }
}
