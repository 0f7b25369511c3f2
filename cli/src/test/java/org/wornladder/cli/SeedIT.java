package org.wornladder.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.BufferedWriter;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Reference data and made-up rows, and a fresh start, through the program. */
class SeedIT {
  private static final String GRADES = "code,name,low\nA,First,70\nB,\"\",40\n";

  @TempDir Path folder;
  private Workspace work;

  @BeforeEach
  void project() {
    work =
        Workspace.hollowfield(folder)
            .rung(
                "0001-grades",
                "CREATE TABLE grade (code text NOT NULL PRIMARY KEY, name text NOT NULL,"
                    + " low integer CHECK (low >= 0), since date);\n"
                    + "CREATE TABLE variety (id integer PRIMARY KEY, name text NOT NULL UNIQUE,"
                    + " grade_code text REFERENCES grade (code));",
                "DROP TABLE variety;\nDROP TABLE grade;")
            .file("seeds/grade.csv", GRADES);
    seeds("- { table: grade, extra: delete }");
  }

  private void seeds(String... entries) {
    String settings = work.text("ladder.yaml").replaceFirst("(?s)seeds:.*", "");
    work.file("ladder.yaml", settings + "seeds:\n  " + String.join("\n  ", entries) + "\n");
  }

  @Test
  void theFirstDayAndEveryDayAfterIt() {
    work.ladder("rebuild")
        .exits(0)
        .says("dev was empty.", "dev is at 0001.", "grade  2 added", "Its rows are seeded.");
    work.ladder("seed").exits(0).says("2 unchanged", "Nothing changed.");
    work.file("seeds/grade.csv", GRADES.replace("70", "75"));
    work.ladder("seed", "--dry-run")
        .exits(0)
        .says("1 updated", "updated  code=A  line 2", "low  70 → 75", "Nothing was written");
    work.ladder("seed").exits(0).says("grade  1 updated, 1 unchanged");
    work.ladder("history").says("seeded", "grade", "2 added", "1 updated, 1 unchanged");
    work.ladder("rebuild").exits(3).complains("2 tables", "add --yes");
    work.ladder("rebuild", "--yes", "--no-seed").exits(0).says("dev was emptied.");
    assertThat(work.query("dev", "SELECT count(*) FROM grade")).containsExactly("0");
    work.ladder("apply", "--seed").exits(0).says("Nothing waits.", "grade  2 added");
  }

  @Test
  void aGuardedEnvironmentIsToldWhatItWouldLose() {
    work.ladder("apply", "test").exits(0);
    work.ladder("apply", "live", "--confirm", "live").exits(0);
    work.execute("live", "INSERT INTO grade (code, name) VALUES ('Z', 'old'), ('Y', 'older')");
    work.ladder("seed", "live")
        .exits(3)
        .complains("2 new rows, and lose 2 rows of grade", "--confirm live");
    work.ladder("seed", "live", "--yes").exits(3);
    assertThat(work.query("live", "SELECT count(*) FROM grade")).containsExactly("2");
    work.ladder("seed", "live", "--confirm", "live").exits(0).says("2 deleted");
    work.ladder("rebuild", "live", "--confirm", "live.db").exits(3).complains("guarded");
    work.ladder("rebuild", "test", "--yes").exits(3).complains("not disposable");
    work.ladder("seed", "live", "--sample", "grade", "--confirm", "live")
        .exits(3)
        .complains("no rows are made up there");
  }

  @Test
  void driftKnowsRowsToo() throws IOException {
    work.ladder("rebuild").exits(0);
    work.ladder("drift").exits(0).says("Rows       the rows are what the files say");
    work.execute("dev", "UPDATE grade SET low = 1 WHERE code = 'A'");
    work.execute("dev", "DELETE FROM grade WHERE code = 'B'");
    work.ladder("drift")
        .exits(1)
        .says("grade  1 missing, 1 different", "Its rows are not what the seeds say.");
    JsonNode drift =
        new ObjectMapper().readTree(work.ladder("drift", "--format", "json").exits(1).out());
    assertThat(drift.at("/seeds/differing/0/added").asInt()).isEqualTo(1);
    work.ladder("seed", "--pull", "grade").exits(0).says("seeds/grade.csv  1 changed, 1 removed");
    assertThat(work.text("seeds/grade.csv")).isEqualTo("code,name,low\nA,First,1\n");
    work.ladder("drift").exits(0);
    work.ladder("seed", "--pull", "gradde").exits(2).complains("there is no seed of gradde");
  }

  @Test
  void whatNoLongerFitsIsFoundByCheck() {
    work.ladder("apply").exits(0);
    work.ladder("check").exits(0).says("1 rung and 1 seed read");
    work.file("seeds/grade.csv", GRADES.replace("low", "lowest"));
    work.file("seeds/old.csv", "a\n");
    work.ladder("check").exits(0).says("seeds/old.csv", "no seed in ladder.yaml names this file");
    work.ladder("check", "--against", "dev")
        .exits(1)
        .says("seeds/grade.csv:1", "table grade has no column lowest");
    work.ladder("seed").exits(2).complains("table grade has no column lowest", "grade.csv:1");
    work.file("seeds/grade.csv", "code,name,low\nA,First\n");
    work.ladder("check").exits(1).says("seeds/grade.csv:2", "this line has 2 fields");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '`',
      textBlock =
          """
          code,name,low\\nA,First,many\\n|seeds/grade.csv:2|column low: this is not a whole number
          code,name,low\\nA,,1\\n|seeds/grade.csv:2|column name: there is no value
          code,name,low\\n,x,1\\n|seeds/grade.csv:2|column code: there is no value
          code,name,low\\nA,x,1\\nA,y,2\\n|seeds/grade.csv:3|the key (code) occurs here again
          code,name,since\\nA,x,20260831\\n|seeds/grade.csv:2|column since: this is not a date
          code,low\\nA,1\\n|seeds/grade.csv:1|column name of grade must have a value
          name,low\\nA,1\\n|seeds/grade.csv:1|the key's column code is not in the file
          code,name\\n|seeds/grade.csv|the file has no row, and extra: delete would empty grade
          code,name,low\\nA,x,1\\nB,x,-1\\n|seeds/grade.csv:3|CHECK constraint failed
          """)
  void badInputIsToldWithItsPlaceAndNothingIsWritten(String rows, String place, String words) {
    work.ladder("apply").exits(0);
    work.execute("dev", "INSERT INTO grade (code, name) VALUES ('X', 'stands')");
    work.file("seeds/grade.csv", rows.replace("\\n", "\n"));
    Workspace.Run run = work.ladder("seed");
    assertThat(run.code()).isIn(2, 3, 5);
    run.complains(words, place);
    assertThat(work.query("dev", "SELECT code FROM grade")).containsExactly("X");
  }

  @Test
  void aTableWithoutAKeyAndARowThatPointsNowhere() {
    work.rung("0002-fax", "CREATE TABLE fax (line text);", "DROP TABLE fax;");
    work.ladder("apply").exits(0);
    work.file("seeds/fax.csv", "line\nx\n")
        .file("seeds/variety.csv", "id,name,grade_code\n1,M,Q\n");
    seeds("- table: fax");
    work.ladder("seed").exits(2).complains("table fax has no primary key", "write key:");
    seeds("- table: variety");
    work.ladder("seed")
        .exits(2)
        .complains("column grade_code: it points to a row of grade that is not there", ":2");
    seeds("- table: nowhere");
    work.ladder("seed").exits(2).complains("there is no table nowhere on dev yet");
    seeds("- { table: grade, only-in: [nowhere] }", "- { table: grade }");
    work.ladder("status").exits(2).complains("only-in names 'nowhere'", "grade is seeded twice");
  }

  @Test
  void jsonSaysTheSame() throws IOException {
    work.ladder("apply").exits(0);
    JsonNode planned =
        new ObjectMapper()
            .readTree(work.ladder("seed", "--dry-run", "--format", "json").exits(0).out());
    assertThat(planned.at("/written").asBoolean()).isFalse();
    assertThat(planned.at("/seeds/0/rows/1/fields/1/after").asText()).isEmpty();
    JsonNode rebuilt =
        new ObjectMapper()
            .readTree(work.ladder("rebuild", "--yes", "--format", "json").exits(0).out());
    assertThat(rebuilt.at("/emptied/0/count").asInt()).isEqualTo(2);
    assertThat(rebuilt.at("/seeded/seeds/0/added").asInt()).isEqualTo(2);
    assertThat(rebuilt.at("/applied/at").asInt()).isEqualTo(1);
  }

  @Test
  void aStopInTheMiddleOfManyRowsLeavesNothing() throws Exception {
    work.ladder("apply").exits(0);
    try (BufferedWriter rows = Files.newBufferedWriter(folder.resolve("seeds/grade.csv"))) {
      rows.write("code,name,low\n");
      for (int i = 0; i < 1_000_000; i++) {
        rows.write("g" + i + ",grade " + i + "," + i + "\n");
      }
    }
    for (boolean hard : new boolean[] {false, true}) {
      stopInTheMiddle(hard);
      assertThat(work.query("dev", "SELECT count(*) FROM grade")).containsExactly("0");
    }
    work.variable("JAVA_TOOL_OPTIONS", "-Xmx128m");
    work.ladder("seed").exits(0).says("1000000 added");
    work.ladder("seed").exits(0).says("1000000 unchanged");
  }

  /** Stops a run that has been at work for a while; sooner if it came to its end all the same. */
  private void stopInTheMiddle(boolean hard) throws Exception {
    for (long wait = 1200; ; wait /= 2) {
      Process seeding = work.start("seed");
      seeding.waitFor(wait, TimeUnit.MILLISECONDS);
      if (hard) {
        seeding.destroyForcibly();
      } else {
        seeding.destroy();
      }
      assertThat(seeding.waitFor(60, TimeUnit.SECONDS)).isTrue();
      if (seeding.exitValue() != 0) {
        return;
      }
      work.execute("dev", "DELETE FROM grade");
    }
  }

  @Test
  void aPullSaysWhatItWouldDoAndAsksBeforeItWritesOverEdits() {
    assumeTrue(work.run(List.of("sh", "-c", "command -v git")).code() == 0, "git is not here");
    work.ladder("rebuild").exits(0);
    work.execute("dev", "UPDATE grade SET name = 'Best' WHERE code = 'A'");
    String before = work.text("seeds/grade.csv");
    work.ladder("seed", "--pull", "grade", "--dry-run")
        .exits(0)
        .says("1 changed", "Nothing was written yet.", "ladder seed --pull grade");
    assertThat(work.text("seeds/grade.csv")).isEqualTo(before);
    git("init", "-q");
    git("add", "-A");
    git("-c", "user.name=x", "-c", "user.email=x@example.com", "commit", "-qm", "x");
    work.file("seeds/grade.csv", before + "D,Mine,1\n");
    work.ladder("seed", "--pull", "grade")
        .exits(3)
        .complains("seeds/grade.csv has edits that git does not have", "add --yes");
    assertThat(work.text("seeds/grade.csv")).contains("D,Mine,1");
    work.ladder("seed", "--pull", "grade", "--yes").exits(0).says("1 changed, 1 removed");
    assertThat(work.text("seeds/grade.csv")).contains("A,Best").doesNotContain("Mine");
  }

  private void git(String... args) {
    List<String> command = new ArrayList<>(List.of("git", "-C", folder.toString()));
    command.addAll(List.of(args));
    work.run(command).exits(0);
  }

  @Test
  void aFileThatIsThereIsNotWrittenOver() {
    work.ladder("rebuild").exits(0);
    work.execute("dev", "CREATE TABLE crate (id integer PRIMARY KEY)");
    work.file("mend.sql", "-- ours\n");
    work.ladder("drift", "--mend", "mend.sql").exits(3).complains("mend.sql is there already");
    assertThat(work.text("mend.sql")).isEqualTo("-- ours\n");
    work.ladder("drift", "--mend", "mend.sql", "--yes").exits(0);
    assertThat(work.text("mend.sql")).contains("DROP TABLE");
    work.ladder("seed", "--sample", "crate", "--write").exits(0).says("seeds/crate.sample.yaml");
    work.ladder("seed", "--sample", "crate", "--write").exits(3).complains("is there already");
    work.ladder("seed", "--write").exits(2).complains("--write leaves the guess of --sample");
  }

  @Test
  void upToARungTheSeedsOfTablesThatAreThereAreWritten() {
    work.file("rungs/0009-later.sql", "--| up\nCREATE TABLE later (id int PRIMARY KEY);\n");
    work.file(
        "ladder.yaml", work.text("ladder.yaml").replace("seeds:", "seeds:\n  - table: later"));
    work.file("seeds/later.csv", "id\n1\n");
    work.ladder("rebuild", "--yes", "--to", "1").exits(0).says("grade", "left out: later");
    work.ladder("apply", "--to", "1", "--seed").exits(0).says("left out: later");
    work.ladder("apply", "--seed").exits(0).says("later  1 added");
  }
}
