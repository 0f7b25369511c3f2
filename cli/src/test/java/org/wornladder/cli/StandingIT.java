package org.wornladder.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Scripts that are run again whenever their text changes. */
class StandingIT {
  @TempDir Path folder;
  private Workspace work;

  @BeforeEach
  void project() {
    work = Workspace.hollowfield(folder).tables(1);
    view("stock", "SELECT id, '@{season}' AS season FROM bin_1");
  }

  private void view(String name, String query, String... directives) {
    work.file(
        "standing/" + name + ".sql",
        String.join("\n", directives)
            + "\n--| up\nCREATE VIEW %s AS %s;\n--| down\nDROP VIEW %s;\n"
                .formatted(name, query, name));
  }

  private String definition(String view) {
    return String.join(
        "", work.query("dev", "SELECT sql FROM sqlite_schema WHERE name = '" + view + "'"));
  }

  @Test
  void itRunsAfterTheRungsAndAgainWhenItsTextOrAValueChanges() {
    work.ladder("apply").exits(0).says("1 rung and standing scripts", "1 view added");
    work.ladder("apply").exits(0).says("Nothing waits");
    assertThat(definition("stock")).contains("'2026'");
    work.file("ladder.yaml", work.text("ladder.yaml").replace("\"2026\"", "\"2027\""));
    work.ladder("status").says("standing  stock  changed");
    work.ladder("preview")
        .says("standing stock  take down: changed", "standing stock  run: changed");
    work.ladder("apply").exits(0).says("Standing scripts in", "1 view changed");
    assertThat(definition("stock")).contains("'2027'");
  }

  @Test
  void whatNeedsAnotherGoesDownBeforeItAndUpAfterIt() {
    view("all_stock", "SELECT * FROM stock", "--| needs: stock");
    work.ladder("apply").exits(0);
    assertThat(work.events("dev"))
        .containsExactly("applied bin 1", "standing-run stock", "standing-run all_stock");
    view("stock", "SELECT id FROM bin_1");
    work.ladder("apply").exits(0).complains("stock, all_stock");
    assertThat(work.events("dev")).endsWith("standing-run stock", "standing-run all_stock");
  }

  @Test
  void aScriptThatRunsAlwaysRunsAlways() {
    work.file("standing/count.sql", "--| always\n--| up\nINSERT INTO bin_1 DEFAULT VALUES;\n");
    work.ladder("apply").exits(0);
    work.ladder("apply").exits(0);
    assertThat(work.query("dev", "SELECT count(*) FROM bin_1")).containsExactly("3");
  }

  @Test
  void aScriptWhoseFileIsGoneIsTakenDown() {
    work.ladder("apply").exits(0);
    work.delete("standing/stock.sql");
    work.ladder("status").says("standing  stock  gone");
    work.ladder("preview").says("its file is gone", "DROP VIEW stock");
    work.ladder("apply").exits(0).says("1 view dropped");
    assertThat(work.events("dev")).endsWith("standing-removed stock");
  }

  @Test
  void aRungLiftsAScriptThatStandsInItsWay() {
    work.ladder("apply").exits(0);
    work.file(
        "rungs/0002-code.sql",
        "--| up\nALTER TABLE bin_1 ADD COLUMN code text;\nALTER TABLE bin_1 DROP COLUMN code;\n");
    work.rung(
        "0003-rename", "ALTER TABLE bin_1 RENAME TO crate;", "ALTER TABLE crate RENAME TO bin_1;");
    work.file("rungs/0003-rename.sql", "--| lifts: stock\n" + work.text("rungs/0003-rename.sql"));
    view("stock", "SELECT id FROM crate");
    work.ladder("preview").says("take down: lifted by 0003", "run: put back");
    work.ladder("apply").exits(0).says("dev is at 0003");
    assertThat(definition("stock")).contains("crate");
    // The way back restores the view as it was before the rung.
    work.ladder("rollback").exits(0);
    assertThat(definition("stock")).contains("bin_1", "'2026'");
    work.ladder("apply").exits(0);
    assertThat(definition("stock")).contains("crate");
  }

  @Test
  void goingBackToNothingLeavesNoViewBehind() {
    work.ladder("apply").exits(0);
    work.ladder("rollback", "--to", "0").exits(0).says("1 view dropped");
    assertThat(definition("stock")).isEmpty();
    work.ladder("apply").exits(0).says("1 view added");
  }

  @Test
  void aFailingScriptLeavesTheRungsInPlace() {
    work.file("standing/wrong.sql", "--| up\nCREATE VIEW wrong AS SELEC 1;\n");
    work.ladder("apply")
        .exits(5)
        .complains("standing/wrong.sql:2:22", "the step before it is in place");
    assertThat(work.tablesOf("dev")).containsExactly("bin_1");
    assertThat(work.events("dev")).endsWith("standing-failed stock, wrong");
  }

  @Test
  void scriptsWaitUntilAllRungsAreInPlace() {
    work.tables(2);
    work.ladder("apply", "--to", "1").exits(0).complains("standing scripts wait");
    assertThat(definition("stock")).isEmpty();
  }
}
