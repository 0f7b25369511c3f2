package org.wornladder.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import org.wornladder.AdoptOptions;
import org.wornladder.Against;
import org.wornladder.ApplyOptions;
import org.wornladder.ClientSqlScript;
import org.wornladder.DriftReport;
import org.wornladder.Ladder;
import org.wornladder.PullApproval;
import org.wornladder.PullOptions;
import org.wornladder.RebuildApproval;
import org.wornladder.RebuildOptions;
import org.wornladder.RehearseOptions;
import org.wornladder.RollbackOptions;
import org.wornladder.RunListener;
import org.wornladder.SeedListener;
import org.wornladder.SeedOptions;
import org.wornladder.TestLadder;

/** Does all that can be done with an environment, for tests of what may not take part in it. */
public final class EveryCommand {
  private static final Optional<String> DEV = Optional.of("dev");

  private EveryCommand() {}

  /**
   * Reads, seeds, rolls back, applies, adopts and rebuilds {@code dev}, which has four rungs and
   * one seed of two rows, not written yet.
   *
   * @param elsewhere an empty folder
   * @return what drift there was
   */
  public static DriftReport run(TestLadder project, TestDatabase database, Path elsewhere) {
    DriftReport drift = reads(project);
    waiting(project);
    seeds(project);
    erases(project);
    project.rollback(new RollbackOptions.To(2));
    project.apply();
    adopts(database, TestLadder.on(database, elsewhere));
    String name = database.url().replaceAll(".*/|\\?.*", "");
    project
        .open()
        .rebuild(
            DEV,
            new RebuildOptions(OptionalLong.empty(), true),
            RebuildApproval.given(Optional.of(name), true),
            RunListener.SILENT,
            SeedListener.SILENT);
    return drift;
  }

  private static DriftReport reads(TestLadder project) {
    try (Ladder ladder = project.open()) {
      assertThat(ladder.status(DEV).rungs()).hasSize(4);
      assertThat(ladder.history(DEV).history().entries()).isNotEmpty();
      assertThat(ladder.show(DEV).schema().tables()).isNotEmpty();
      assertThat(ladder.showTable(DEV, "grade", 5).table().name()).isEqualTo("grade");
      assertThat(ladder.ddl(DEV, Optional.empty()).script().statements()).isNotEmpty();
      ladder.preview(DEV, ApplyOptions.ALL);
      ladder.previewRollback(DEV, new RollbackOptions(new RollbackOptions.To(0), false, false));
      ladder.mendScript(DEV, Against.EXPECTED, false);
      ladder.compare("env:dev", "expected:dev", true);
      ladder.checkAgainst(DEV, Optional.empty());
      return ladder.drift(DEV, Against.EXPECTED, true);
    }
  }

  /** What is done with a rung that waits, which then goes again. */
  private static void waiting(TestLadder project) {
    project.rung(
        "0099-probe", "ALTER TABLE grade ADD CONSTRAINT probe UNIQUE (code);", "SELECT 1;");
    try (Ladder ladder = project.open()) {
      assertThat(ladder.preview(DEV, ApplyOptions.ALL, true).risks()).isNotEmpty();
      assertThat(ladder.rehearse(DEV, RehearseOptions.EXPECTED).rungs()).hasSize(1);
      assertThat(ladder.script(DEV, ApplyOptions.ALL, ClientSqlScript.Content.UP_AND_SEEDS).text())
          .contains("probe");
    }
    project.delete("rungs/0099-probe.sql");
  }

  private static void seeds(TestLadder project) {
    try (Ladder ladder = project.open()) {
      ladder.seed(DEV, SeedOptions.ALL);
    }
    String file = project.text("seeds/grade.csv");
    project.file("seeds/grade.csv", file.replace("best", "better"));
    try (Ladder ladder = project.open()) {
      assertThat(seeded(ladder)).isEqualTo("1 updated, 1 unchanged");
      project.file("seeds/grade.csv", file);
      assertThat(ladder.drift(DEV, Against.EXPECTED, false).seeds().differing()).isNotEmpty();
      ladder.pull(DEV, new PullOptions(List.of("grade"), false), PullApproval.GIVEN);
      assertThat(project.text("seeds/grade.csv")).contains("better");
    }
  }

  /** Rows change in batches, are kept aside before they go, and come back. */
  private static void erases(TestLadder project) {
    project.file(
        "rungs/0098-words.sql",
        "--| in-batches-of: 1 by code\n--| up\nUPDATE grade SET words = 'good!';\n"
            + "--| down\nSELECT 1;\n");
    project.rung("0099-gone", "DELETE FROM grade;", "SELECT 1;");
    ApplyOptions keeping = ApplyOptions.builder().attic(true).build();
    try (Ladder ladder = project.open()) {
      ladder.apply(DEV, keeping, TestLadder.YES, RunListener.SILENT);
      assertThat(ladder.attic(DEV)).hasSize(1);
    }
    project.rollback(new RollbackOptions.Last(1));
    project.rung(
        "0099-gone",
        "ALTER TABLE grade DROP COLUMN words;",
        "ALTER TABLE grade ADD COLUMN words text;");
    try (Ladder ladder = project.open()) {
      ladder.apply(DEV, keeping, TestLadder.YES, RunListener.SILENT);
    }
    project.rollback(new RollbackOptions.Last(2));
    try (Ladder ladder = project.open()) {
      assertThat(ladder.attic(DEV)).isEmpty();
      assertThat(ladder.showTable(DEV, "grade", 5).rows())
          .hasSize(2)
          .allMatch(row -> row.toString().contains("!"));
    }
    project.delete("rungs/0098-words.sql");
    project.delete("rungs/0099-gone.sql");
  }

  private static String seeded(Ladder ladder) {
    return ladder.seed(DEV, SeedOptions.ALL).results().get(0).counts().text();
  }

  private static void adopts(TestDatabase database, TestLadder project) {
    database.execute("DROP TABLE ladder_journal", "DROP TABLE ladder_snapshot");
    project
        .open()
        .adopt(
            DEV,
            new AdoptOptions(List.of(), List.of(), List.of("grade")),
            TestLadder.YES,
            RunListener.SILENT);
  }
}
