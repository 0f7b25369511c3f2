package org.wornladder.execution;

import static org.assertj.core.api.Assertions.assertThat;
import static org.wornladder.execution.NothingLostTest.ALL;
import static org.wornladder.execution.NothingLostTest.end;
import static org.wornladder.execution.NothingLostTest.ladder;

import java.io.BufferedReader;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.api.parallel.Execution;
import org.junit.jupiter.api.parallel.ExecutionMode;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.wornladder.TestLadder;
import org.wornladder.execution.NothingLostTest.End;
import org.wornladder.server.InterruptedEngine;
import org.wornladder.server.KilledRun;
import org.wornladder.server.MariadbServer;
import org.wornladder.server.PostgresServer;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/**
 * Kills at every step of a run: what follows is a plain run, and it ends where an undisturbed one
 * ends. Two engines at a time.
 */
class KillTest {
  @TempDir Path root;

  /** One after the other: a server that starts wants the machine for itself. */
  @BeforeAll
  static void servers() {
    PostgresServer.newDatabase();
    MariadbServer.newDatabase();
  }

  @ParameterizedTest
  @EnumSource
  @Execution(ExecutionMode.CONCURRENT)
  void afterAKillAtAnyStepAPlainRunEndsWhereAnUndisturbedOneEnds(Kind kind) throws Exception {
    TestDatabase calm = TestDatabase.make(kind, Files.createDirectories(root.resolve("calm")));
    TestLadder undisturbed = ladder(calm, root.resolve("calm"));
    undisturbed.apply();
    End up = end(undisturbed, calm);
    undisturbed.rollback(ALL);
    End down = end(undisturbed, calm);
    TestDatabase database =
        TestDatabase.make(kind, Files.createDirectories(root.resolve("killed")));
    TestLadder ladder = ladder(database, root.resolve("killed"));
    // One that is not killed writes the archive with which the others start faster.
    assertThat(killed(ladder, database, "apply", Integer.MAX_VALUE)).isFalse();
    ladder.rollback(ALL);
    int killed = 0;
    for (int step = 1; killed(ladder, database, "apply", step); step++, killed++) {
      ladder.apply();
      assertThat(end(ladder, database)).as("apply killed at step %d", step).isEqualTo(up);
      ladder.rollback(ALL);
    }
    for (int step = 1; killedOnTheWayDown(ladder, database, step); step++, killed++) {
      ladder.rollback(ALL);
      assertThat(end(ladder, database)).as("rollback killed at step %d", step).isEqualTo(down);
    }
    assertThat(killed).isGreaterThan(12);
  }

  private boolean killedOnTheWayDown(TestLadder ladder, TestDatabase database, int step)
      throws Exception {
    ladder.apply();
    return killed(ladder, database, "rollback", step);
  }

  /** Runs in a process of its own and kills it at a step; false if it ended before. */
  private boolean killed(TestLadder ladder, TestDatabase database, String command, int step)
      throws Exception {
    ladder.settings(
        new TestDatabase(database.kind(), InterruptedEngine.PREFIX + database.url()), "");
    Path archive = root.resolve("classes.jsa");
    String classes = Files.exists(archive) ? "SharedArchiveFile" : "ArchiveClassesAtExit";
    Process process =
        new ProcessBuilder(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-XX:" + classes + "=" + archive,
                "-Xlog:disable",
                "-XX:TieredStopAtLevel=1",
                "-XX:+UseSerialGC",
                "-cp",
                System.getProperty("java.class.path"),
                KilledRun.class.getName(),
                ladder.root().toString(),
                command,
                Integer.toString(step))
            .redirectError(ProcessBuilder.Redirect.INHERIT)
            .start();
    String said;
    try (BufferedReader lines =
        new BufferedReader(
            new InputStreamReader(process.getInputStream(), StandardCharsets.UTF_8))) {
      said = lines.readLine();
      if (said != null && said.equals("here")) {
        process.destroyForcibly();
      }
    }
    assertThat(process.waitFor(20, TimeUnit.SECONDS)).isTrue();
    ladder.settings(database, "");
    assertThat(said).as("what the process says at step %d", step).matches("here|steps \\d+");
    return said.equals("here");
  }
}
