package org.wornladder.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.stream.IntStream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The way back, when it is needed. */
class RollbackIT {
  @TempDir Path folder;
  private Workspace work;

  @BeforeEach
  void project() {
    work = Workspace.hollowfield(folder);
  }

  @Test
  void aWayDownThatFailsLeavesTheRungInPlace() {
    work.tables(1)
        .rung(
            "0002-wrong",
            "CREATE TABLE grade (code text);",
            "DROP TABLE grade;\nDROP TABLE nowhere;");
    work.ladder("apply").exits(0);
    work.ladder("rollback")
        .exits(5)
        .complains(
            "0002 failed on dev: no such table: nowhere",
            "rungs/0002-wrong.sql:5:1",
            "correct the way down");
    assertThat(work.tablesOf("dev")).containsExactly("bin_1", "grade");
    assertThat(work.events("dev")).endsWith("rollback-failed wrong");
    work.ladder("status").says("dev is at 0002");
    // The way down may be mended: the way up is still the one that ran.
    work.rung("0002-wrong", "CREATE TABLE grade (code text);", "DROP TABLE grade;");
    work.ladder("rollback").exits(0).says("dev is at 0001");
  }

  @Test
  void aRungThatIsKnownToBeOneWayIsPointedOutAndStays() {
    work.file(
        "rungs/0001-fax.sql",
        "--| no way down: fax numbers are gone for good\n--| up\nCREATE TABLE grower (name text);\n");
    work.ladder("preview").exits(0).says("one-way: fax numbers are gone for good");
    work.ladder("apply").exits(0);
    work.ladder("status").says("in place, one-way");
    work.ladder("rollback")
        .exits(3)
        .complains("0001 has no way down: fax numbers are gone for good", "restore a backup");
    assertThat(work.tablesOf("dev")).containsExactly("grower");
  }

  @Test
  void nothingIsTakenBackIfOneOfThemCannotBe() {
    work.tables(1)
        .file("rungs/0002-one-way.sql", "--| no way down: gone\n--| up\nSELECT 1;\n")
        .rung("0003-bins", "CREATE TABLE bin (code text);", "DROP TABLE bin;");
    work.ladder("apply").exits(0);
    work.ladder("rollback", "--to", "0").exits(3).complains("0002 has no way down");
    assertThat(work.tablesOf("dev")).containsExactly("bin", "bin_1");
    work.ladder("rollback").exits(0).complains("0003");
  }

  @Test
  void afterAKillInTheMiddleTheNextRollBackGoesOn() throws Exception {
    work.tables(150).ladder("apply").exits(0);
    Process process = work.start("rollback", "--to", "0");
    while (process.isAlive() && work.events("dev").size() < 180) {
      Thread.sleep(2);
    }
    process.destroyForcibly().waitFor(20, TimeUnit.SECONDS);
    int left = work.tablesOf("dev").size();
    assertThat(work.events("dev")).hasSize(150 + 150 - left);
    work.ladder("rollback", "--to", "0").exits(0);
    assertThat(work.tablesOf("dev")).isEmpty();
    List<String> back =
        IntStream.rangeClosed(1, 150).mapToObj(i -> "rolled-back bin " + (151 - i)).toList();
    assertThat(work.events("dev").subList(150, 300)).isEqualTo(back);
    work.ladder("history").exits(0);
  }

  @Test
  void aKillWhileAllIsOneTransactionLeavesNothing() throws Exception {
    work.tables(100)
        .rung(
            "0101-slow",
            "CREATE TABLE slow AS WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n"
                + " WHERE i < 200000000) SELECT max(i) AS i FROM n;",
            "DROP TABLE slow;");
    Process process = work.start("apply", "--together");
    Path journal = folder.resolve("data/dev.db-journal");
    while (process.isAlive() && !java.nio.file.Files.exists(journal)) {
      Thread.sleep(5);
    }
    Thread.sleep(300);
    process.destroyForcibly().waitFor(20, TimeUnit.SECONDS);
    work.ladder("status").exits(0).says("dev has no rung in place");
    assertThat(work.tablesOf("dev")).isEmpty();
  }

  @Test
  void secretsComeFromDotEnvAndStayHidden() {
    work.variable("READER_PASSWORD", "")
        .file("ladder.yaml", work.text("ladder.yaml").replace("READER_PASSWORD", "FROM_FILE"))
        .file(".env", "FROM_FILE='hush-4711'\n")
        .rung(
            "0001-reader",
            "CREATE TABLE reader (word text CHECK (word <> @{reader_password:text}));\n"
                + "INSERT INTO reader VALUES (@{reader_password:text});",
            "DROP TABLE reader;");
    // Run checks that the secret stands in no output, with and without the details of an error.
    work.ladder("preview").exits(0).says("'***'");
    work.ladder("apply").exits(5).complains("CHECK constraint failed", "***");
    work.ladder("apply", "--format", "json").exits(5);
    assertThat(
            work.run(
                    List.of(
                        Workspace.DISTRIBUTION.resolve("bin/ladder").toString(),
                        "apply",
                        "--verbose"))
                .code())
        .isEqualTo(5);
    assertThat(work.query("dev", "SELECT note || script FROM ladder_journal"))
        .noneMatch(text -> text.contains("hush-4711"));
  }

  @Test
  void ofTwoRungsWithOneNumberOneMovesToTheEndWhereItRanToo() {
    work.tables(2);
    work.ladder("apply").exits(0);
    work.rung("0002-crates", "CREATE TABLE crate (id integer);", "DROP TABLE crate;");
    work.rung("0003-more", "CREATE TABLE more (id integer);", "DROP TABLE more;");
    work.ladder("status").exits(2).complains("has the same number", "ladder renumber rungs/0002-");
    work.ladder("renumber", "2").exits(3).complains("two files have the number 2");
    work.ladder("renumber", "rungs/0002-bin-2.sql")
        .exits(3)
        .complains("on dev: its journal would change");
    work.ladder("renumber", "rungs/0002-bin-2.sql", "--yes")
        .exits(0)
        .says("rungs/0002-bin-2.sql is now rungs/0004-bin-2.sql; on the record of dev");
    work.ladder("status").exits(0).says("0004", "0002", "late");
    work.file(
        "ladder.yaml",
        work.text("ladder.yaml").replace("disposable: true", "disposable: true, late: allow"));
    work.ladder("apply").exits(0);
    assertThat(work.tablesOf("dev")).containsExactly("bin_1", "bin_2", "crate", "more");
    work.ladder("rollback", "--to", "0").exits(0);
    assertThat(work.tablesOf("dev")).isEmpty();
    work.ladder("history").exits(0).says("renumbered", "it was 0002");
  }

  @Test
  void aRungThatAGuardedEnvironmentHasKeepsItsNumber() {
    work.tables(1);
    work.ladder("apply").exits(0);
    work.ladder("apply", "test").exits(0);
    work.ladder("apply", "live", "--confirm", "live").exits(0);
    work.ladder("renumber", "1").exits(3).complains("in place on live, which is guarded");
    work.ladder("renumber", "7").exits(3).complains("there is no rung 7");
    assertThat(work.tablesOf("live")).containsExactly("bin_1");
  }
}
