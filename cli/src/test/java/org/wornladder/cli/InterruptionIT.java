package org.wornladder.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.BufferedReader;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.api.parallel.Isolated;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Kills, signals and crowds: nothing is done twice, nothing is half done. */
@Isolated
class InterruptionIT {
  private static final int RUNGS = 200;

  @TempDir Path folder;

  @ParameterizedTest
  @ValueSource(ints = {1, 60, 130})
  void afterAKillTheNextApplyGoesOn(int rungsBefore) throws Exception {
    Workspace work = Workspace.hollowfield(folder).tables(RUNGS);
    Process process = work.start("apply");
    waitForRungs(work, rungsBefore);
    process.destroyForcibly().waitFor(20, TimeUnit.SECONDS);
    int done = work.tablesOf("dev").size();
    assertThat(work.events("dev")).hasSize(done);
    work.ladder("status").exits(0).says("dev is at");
    work.ladder("apply").exits(0);
    assertWhole(work);
  }

  @Test
  void atATerminationSignalTheRunningRungIsFinished() throws Exception {
    Workspace work =
        Workspace.hollowfield(folder)
            .tables(RUNGS)
            .rung(
                "0021-bin-21",
                "CREATE TABLE bin_21 (id integer PRIMARY KEY);\n"
                    + "WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 9000000)"
                    + " INSERT INTO bin_21 SELECT max(i) FROM n;",
                "DROP TABLE bin_21;");
    Process process = work.start("apply");
    waitForRungs(work, 20);
    process.destroy();
    assertThat(process.waitFor(60, TimeUnit.SECONDS)).isTrue();
    assertThat(process.exitValue()).isNotZero();
    assertThat(work.events("dev")).hasSize(21).endsWith("applied bin 21");
    assertThat(folder.resolve("data/dev.db-journal")).doesNotExist();
    work.ladder("apply").exits(0);
    assertWhole(work);
  }

  @Test
  void aPipelinesLogShowsARungWhenItIsDone() throws Exception {
    Workspace work =
        Workspace.hollowfield(folder)
            .tables(1)
            .rung(
                "0002-slow",
                "CREATE TABLE slow AS WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n"
                    + " WHERE i < 300000000) SELECT max(i) AS i FROM n;",
                "DROP TABLE slow;");
    Process process = work.start(ProcessBuilder.Redirect.PIPE, "apply");
    try (BufferedReader progress = process.errorReader()) {
      assertThat(progress.readLine()).contains("0001", "applied");
      assertThat(process.isAlive()).isTrue();
    } finally {
      process.destroyForcibly().waitFor(20, TimeUnit.SECONDS);
    }
  }

  private static void assertWhole(Workspace work) {
    List<String> expected =
        IntStream.rangeClosed(1, RUNGS).mapToObj(i -> "applied bin " + i).toList();
    assertThat(work.events("dev")).isEqualTo(expected);
    assertThat(work.tablesOf("dev")).hasSize(RUNGS);
    for (int i : new int[] {1, 61, RUNGS}) {
      assertThat(work.query("dev", "SELECT count(*) FROM bin_" + i)).containsExactly("1");
    }
    work.ladder("history").exits(0);
  }

  private void waitForRungs(Workspace work, int count) throws Exception {
    for (long end = System.nanoTime() + 60_000_000_000L; System.nanoTime() < end; ) {
      if (Files.exists(folder.resolve("data/dev.db")) && rungs(work) >= count) {
        return;
      }
      Thread.sleep(2);
    }
    throw new IllegalStateException("the rungs never came");
  }

  private static int rungs(Workspace work) {
    try (Connection connection = work.connect("dev");
        Statement sql = connection.createStatement();
        var rows = sql.executeQuery("SELECT count(*) FROM ladder_journal")) {
      return rows.getInt(1);
    } catch (SQLException e) {
      return 0;
    }
  }

  @Test
  void ofTwentyThatApplyAtOnceOneWorksAndTheOthersFindNothingToDo() throws Exception {
    Workspace work = Workspace.hollowfield(folder).tables(30);
    twentyApply(work);
    assertThat(work.events("dev"))
        .isEqualTo(IntStream.rangeClosed(1, 30).mapToObj(i -> "applied bin " + i).toList());
    assertThat(folder.resolve("data/dev.db-ladder-lock")).isEmptyFile();
  }

  @Test
  void ofTwentyThatApplyAtOnceOnH2EachRungRunsOnce() throws Exception {
    Workspace work = Workspace.hollowfield(folder).tables(5);
    String url = "jdbc:h2:" + folder.resolve("data/dev");
    work.file("ladder.yaml", "name: hollowfield\nenvironments:\n  dev: { url: '" + url + "' }\n");
    twentyApply(work);
    JsonNode history =
        new ObjectMapper().readTree(work.ladder("history", "--format", "json").exits(0).out());
    assertThat(history.get("entries"))
        .filteredOn(entry -> entry.get("event").asText().equals("applied"))
        .map(entry -> entry.get("rung").asInt())
        .containsExactly(1, 2, 3, 4, 5);
  }

  private static void twentyApply(Workspace work) throws Exception {
    List<Process> crowd = new ArrayList<>();
    for (int i = 0; i < 20; i++) {
      crowd.add(work.start("apply", "--lock-wait", "110"));
    }
    for (Process process : crowd) {
      assertThat(process.waitFor(120, TimeUnit.SECONDS)).isTrue();
      assertThat(process.exitValue()).isZero();
    }
  }

  @Test
  void aLockThatIsHeldIsWaitedForAndThenGivenUp() throws Exception {
    Workspace work =
        Workspace.hollowfield(folder)
            .rung(
                "0001-slow",
                "CREATE TABLE slow AS WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n"
                    + " WHERE i < 30000000) SELECT max(i) AS i FROM n;",
                "DROP TABLE slow;");
    Process first = work.start("apply");
    Path lock = folder.resolve("data/dev.db-ladder-lock");
    while (!Files.exists(lock) || Files.size(lock) == 0) {
      Thread.sleep(5);
    }
    work.ladder("apply", "--lock-wait", "0")
        .exits(4)
        .complains(
            "another process is changing this database: process " + first.pid(), "--lock-wait");
    work.ladder("status").exits(0);
    work.ladder("apply").exits(0).says("Nothing waits").complains("waiting for process");
    assertThat(first.waitFor(60, TimeUnit.SECONDS)).isTrue();
    assertThat(work.events("dev")).containsExactly("applied slow");
  }

  @Test
  void aDatabaseThatAnotherProgramHoldsIsWaitedFor() throws Exception {
    Workspace work = Workspace.hollowfield(folder).tables(1);
    try (Connection other = work.connect("dev");
        Statement sql = other.createStatement()) {
      sql.execute("BEGIN EXCLUSIVE");
      work.ladder("apply", "--lock-wait", "1")
          .exits(4)
          .complains("another program holds the database");
      Process waiting = work.start("apply");
      Thread.sleep(1500);
      assertThat(waiting.isAlive()).isTrue();
      sql.execute("COMMIT");
      assertThat(waiting.waitFor(30, TimeUnit.SECONDS)).isTrue();
      assertThat(waiting.exitValue()).isZero();
    }
    assertThat(work.tablesOf("dev")).containsExactly("bin_1");
  }
}
