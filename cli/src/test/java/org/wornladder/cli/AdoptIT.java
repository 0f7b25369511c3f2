package org.wornladder.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A database that has existed for years is taken under management, through the program. */
class AdoptIT {
  @TempDir Path folder;
  private Workspace work;

  @BeforeEach
  void databases() {
    work = Workspace.hollowfield(folder);
    for (String environment : new String[] {"test", "live"}) {
      work.execute(environment, "CREATE TABLE grade (code text PRIMARY KEY, label text NOT NULL)");
      work.execute(environment, "INSERT INTO grade VALUES ('A', 'Extra'), ('B', '')");
      work.execute(environment, "CREATE VIEW labels AS SELECT label FROM grade");
      work.execute(environment, "CREATE TABLE legacy_fax (id integer)");
    }
  }

  @Test
  void fromHereOnEverythingIsOnRecord() {
    work.ladder("adopt", "live").exits(3).complains("live is guarded");
    assertThat(work.folder().resolve("schema")).doesNotExist();
    work.ladder(
            "adopt", "live", "--confirm", "live", "--except", "table:legacy_*", "--rows", "grade")
        .exits(0)
        .says("wrote  schema/tables/grade.sql", "wrote  schema/views/labels.sql")
        .says("wrote  seeds/grade.csv", "wrote  rungs/0001-adopted-structure.sql")
        .says("Nothing was run there.");
    assertThat(work.text("seeds/grade.csv")).isEqualTo("code,label\nA,Extra\nB,\"\"\n");
    assertThat(work.text("rungs/0001-adopted-structure.sql"))
        .contains("--| no way down:", "CREATE TABLE grade", "CREATE VIEW labels")
        .doesNotContain("legacy");
    work.ladder("status", "live").exits(0).says("0001", "one-way");
    work.ladder("drift", "live").exits(0);
    work.ladder("rollback", "live", "--confirm", "live").exits(3).complains("no way down");
    assertThat(work.tablesOf("live")).contains("grade", "legacy_fax");
    work.ladder("adopt", "live", "--confirm", "live").exits(3).complains("on record already");
    work.ladder("apply", "dev").exits(0);
    work.ladder("compare", "env:dev", "env:live").exits(0);
  }

  @Test
  void anotherEnvironmentIsMarkedOnlyIfItIsTheSame() {
    work.execute("test", "ALTER TABLE grade ADD COLUMN fax text");
    work.ladder("adopt", "live", "--confirm", "live").exits(0);
    work.ladder("adopt", "test")
        .exits(1)
        .says("test  is not what", "not expected  column grade.fax", "Nothing was recorded.");
    assertThat(work.query("test", "SELECT name FROM sqlite_schema WHERE name LIKE 'ladder%'"))
        .isEmpty();
    work.execute("test", "ALTER TABLE grade DROP COLUMN fax");
    work.ladder("adopt", "test").exits(0).says("test is on record");
    work.ladder("adopt", "test", "--format", "json").exits(3);
  }

  @Test
  void whatIsWrongIsSaidBeforeAnythingIsWritten() {
    work.ladder("adopt", "dev").exits(3).complains("nothing is there");
    work.ladder("adopt", "test", "--only", "grade").exits(2).complains("KIND:NAME");
    work.ladder("adopt", "test", "--rows", "nowhere").exits(2).complains("there is no table");
    assertThat(work.folder().resolve("schema")).doesNotExist();
    work.ladder("drift", "test")
        .exits(1)
        .says("next  ladder adopt test  takes what is there under management");
    work.ladder("drift", "test", "--mend", "all.sql").exits(3).complains("nothing is on record");
    assertThat(work.folder().resolve("all.sql")).doesNotExist();
    work.ladder("drift", "test", "--as-rung", "all").exits(3).complains("ladder adopt test");
    assertThat(work.query("test", "SELECT name FROM sqlite_schema WHERE name LIKE 'ladder%'"))
        .isEmpty();
    work.rung("0001-own", "CREATE TABLE own (id int);", "DROP TABLE own;");
    work.ladder("adopt", "test").exits(3).complains("has rungs already");
  }
}
