package org.wornladder.diff;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.wornladder.schema.Column;
import org.wornladder.schema.Index;
import org.wornladder.schema.Schema;
import org.wornladder.schema.Table;
import org.wornladder.schema.View;

class StructureSummaryTest {
  private static final Column CODE = new Column("code", "text", false, Optional.empty(), false);
  private static final Column WEIGHT =
      new Column("weight_kg", "integer", true, Optional.empty(), false);

  @Test
  void countsWhatCameWentAndChanged() {
    Schema before = schema(table("bin", "a", List.of(CODE), List.of()));
    Schema after =
        new Schema(
            List.of(
                table("bin", "b", List.of(CODE, WEIGHT), List.of(index("bin_code"))),
                table("grade", "c", List.of(CODE), List.of())),
            List.of(new View("stock", "SELECT 1")),
            List.of());
    assertThat(StructureSummary.between(before, after).text())
        .isEqualTo("+1 table, +2 columns, +1 index, +1 view");
    assertThat(StructureSummary.between(after, before).text())
        .isEqualTo("-1 table, -2 columns, -1 index, -1 view");
    assertThat(StructureSummary.between(after, after).text()).isEqualTo("no change");
  }

  @Test
  void aColumnThatIsNotTheSameIsChangedAndSoIsATableWhoseTextAloneDiffers() {
    Column wide = new Column("code", "varchar(80)", false, Optional.empty(), false);
    Schema before = schema(table("bin", "a", List.of(CODE), List.of()));
    assertThat(
            StructureSummary.between(before, schema(table("bin", "b", List.of(wide), List.of())))
                .text())
        .isEqualTo("1 column changed");
    assertThat(
            StructureSummary.between(before, schema(table("bin", "b", List.of(CODE), List.of())))
                .text())
        .isEqualTo("1 table changed");
  }

  private static Schema schema(Table... tables) {
    return new Schema(List.of(tables), List.of(), List.of());
  }

  private static Table table(
      String name, String definition, List<Column> columns, List<Index> indexes) {
    return new Table(name, columns, List.of("code"), List.of(), indexes, definition);
  }

  private static Index index(String name) {
    return new Index(name, List.of("code"), false, false, false);
  }
}
