package org.wornladder.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import org.junit.jupiter.api.Test;
import org.wornladder.ProjectException;

class ShorthandTest {
  @Test
  void everyChangeHasItsWayBackInTheOppositeOrder() {
    RungDraft draft =
        new Shorthand()
            .createTable("bin (code text not null primary key, weight_kg decimal(8,2))")
            .addColumn("picking price decimal(10,2) default 0")
            .renameColumn("\"odd name\" a to b")
            .addIndex("unique bin (code, lower(weight_kg))")
            .dropColumn("grower fax text")
            .draft();
    assertThat(draft.up())
        .containsExactly(
            "CREATE TABLE bin (code text not null primary key, weight_kg decimal(8,2));",
            "ALTER TABLE picking ADD COLUMN price decimal(10,2) default 0;",
            "ALTER TABLE \"odd name\" RENAME COLUMN a TO b;",
            "CREATE UNIQUE INDEX bin_code_lower_weight_kg ON bin (code, lower(weight_kg));",
            "ALTER TABLE grower DROP COLUMN fax;");
    assertThat(draft.down())
        .containsExactly(
            "ALTER TABLE grower ADD COLUMN fax text;",
            "DROP INDEX bin_code_lower_weight_kg;",
            "ALTER TABLE \"odd name\" RENAME COLUMN b TO a;",
            "ALTER TABLE picking DROP COLUMN price;",
            "DROP TABLE bin;");
  }

  @Test
  void aColumnDroppedWithoutItsTypeIsOneWay() {
    RungDraft draft = new Shorthand().dropColumn("grower.fax").draft();
    assertThat(draft.text("Fax")).contains("--| no way down:").doesNotContain("--| down");
  }

  @Test
  void whatCannotBeReadIsToldWithAnExample() {
    Shorthand shorthand = new Shorthand();
    assertThatThrownBy(() -> shorthand.createTable("bin"))
        .hasMessage("'bin' is not what a short-hand to create table takes");
    assertThatThrownBy(() -> shorthand.addIndex("bin code")).isInstanceOf(ProjectException.class);
    assertThatThrownBy(() -> shorthand.renameColumn("bin a")).isInstanceOf(ProjectException.class);
    assertThatThrownBy(() -> shorthand.addColumn("bin a int; drop table bin"))
        .isInstanceOf(ProjectException.class);
  }
}
