package org.wornladder.execution;

import static org.assertj.core.api.Assertions.assertThat;
import static org.wornladder.execution.NothingLostTest.ALL;
import static org.wornladder.execution.NothingLostTest.end;
import static org.wornladder.execution.NothingLostTest.ladder;

import java.io.BufferedReader;
import java.io.File;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.spi.ToolProvider;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.api.parallel.ResourceLock;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.wornladder.TestLadder;
import org.wornladder.execution.NothingLostTest.End;
import org.wornladder.server.InterruptedEngine;
import org.wornladder.server.KilledRun;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.DriverKind;

/**
 * Kills at every step of a run: what follows is a plain run, and it ends where an undisturbed one
 * ends. Where the client holds the files, its process is killed; where a server does, a connection
 * that ends without a word is all that the server sees of it, and a process is killed now and then.
 */
@Order(1)
@ResourceLock("org.wornladder.server.InterruptedEngine")
class KillTest {
  private static final int PROCESS_EVERY = 10;

  /**
   * A process takes long to start, and what a server sees of every step is in NothingLostTest:
   * {@code -Dladder.everyKill=true} kills at every step here too.
   */
  private static final int STRIDE = Boolean.getBoolean("ladder.everyKill") ? 1 : 3;

  @TempDir Path root;

  /** The class path of a process, as jars: only then does it start from an archive of classes. */
  private static String classPath;

  @BeforeAll
  static void makeClassPath(@TempDir Path folder) {
    String ours =
        System.getProperty("surefire.test.class.path", System.getProperty("java.class.path"));
    List<String> jars = new ArrayList<>();
    for (String element : ours.split(File.pathSeparator)) {
      Path jar = folder.resolve(jars.size() + ".jar");
      boolean isFolder = Files.isDirectory(Path.of(element));
      if (isFolder) {
        ToolProvider tool = ToolProvider.findFirst("jar").orElseThrow();
        int code = tool.run(System.out, System.err, "cf", jar.toString(), "-C", element, ".");
        assertThat(code).isZero();
      }
      jars.add(isFolder ? jar.toString() : element);
    }
    classPath = String.join(File.pathSeparator, jars);
  }

  @ParameterizedTest
  @MethodSource("org.wornladder.server.TestDatabase#allKinds")
  void afterAKillAtAnyStepAPlainRunEndsWhereAnUndisturbedOneEnds(Enum<?> kind) throws Exception {
    TestDatabase calm = TestDatabase.make(kind, Files.createDirectories(root.resolve("calm")));
    TestDatabase database =
        TestDatabase.make(kind, Files.createDirectories(root.resolve("killed")));
    if (kind instanceof DriverKind) {
      // An embedded database closes with its last connection, which takes long.
      try (Connection one = calm.connect();
          Connection other = database.connect()) {
        endsWhereAnUndisturbedOneEnds(calm, database);
      }
    } else {
      endsWhereAnUndisturbedOneEnds(calm, database);
    }
  }

  private void endsWhereAnUndisturbedOneEnds(TestDatabase calm, TestDatabase database)
      throws Exception {
    TestLadder undisturbed = ladder(calm, root.resolve("calm"));
    undisturbed.apply();
    End up = end(undisturbed, calm);
    undisturbed.rollback(ALL);
    End down = end(undisturbed, calm);
    TestLadder ladder = ladder(database, root.resolve("killed"));
    if (isProcessKilled(database, PROCESS_EVERY)) {
      // One that is not killed writes the archive with which the others start faster.
      ladder.settings(interrupted(database), "");
      assertThat(processIsKilled(ladder, "apply", Integer.MAX_VALUE)).isFalse();
      ladder.settings(database, "").rollback(ALL);
    }
    int killed = 0;
    int stride = isProcessKilled(database, PROCESS_EVERY) ? STRIDE : 1;
    for (int step = 1; killed(ladder, database, "apply", step); step += stride, killed++) {
      ladder.apply();
      assertThat(end(ladder, database)).as("apply killed at step %d", step).isEqualTo(up);
      ladder.rollback(ALL);
    }
    for (int step = stride; killedOnTheWayDown(ladder, database, step); step += stride, killed++) {
      ladder.rollback(ALL);
      assertThat(end(ladder, database)).as("rollback killed at step %d", step).isEqualTo(down);
    }
    assertThat(killed * stride).isGreaterThan(12);
  }

  private static TestDatabase interrupted(TestDatabase database) {
    return new TestDatabase(database.name(), InterruptedEngine.PREFIX + database.url());
  }

  /** An embedded database of a driver lives on in this process, and sees its connection end. */
  private static boolean isProcessKilled(TestDatabase database, int step) {
    return switch (database.name()) {
      case "SQLITE", "H2" -> true;
      case "POSTGRES", "MARIADB" -> step % PROCESS_EVERY == 0;
      default -> false;
    };
  }

  private boolean killedOnTheWayDown(TestLadder ladder, TestDatabase database, int step)
      throws Exception {
    ladder.apply();
    return killed(ladder, database, "rollback", step);
  }

  /** Runs and is killed at a step; false if it ended before. */
  private boolean killed(TestLadder ladder, TestDatabase database, String command, int step)
      throws Exception {
    ladder.settings(interrupted(database), "");
    boolean killed =
        isProcessKilled(database, step)
            ? processIsKilled(ladder, command, step)
            : clientDies(ladder, command, step);
    ladder.settings(database, "");
    return killed;
  }

  private static boolean clientDies(TestLadder ladder, String command, int step) {
    InterruptedEngine.at(
        now -> {
          if (now >= step) {
            throw new InterruptedEngine.DeadClient();
          }
        });
    try {
      if (command.equals("apply")) {
        ladder.apply();
      } else {
        ladder.rollback(ALL);
      }
      return false;
    } catch (InterruptedEngine.DeadClient e) {
      return true;
    } finally {
      InterruptedEngine.at(now -> {});
    }
  }

  private boolean processIsKilled(TestLadder ladder, String command, int step) throws Exception {
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
                classPath,
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
    assertThat(said).as("what the process says at step %d", step).matches("here|steps \\d+");
    return said.equals("here");
  }
}
