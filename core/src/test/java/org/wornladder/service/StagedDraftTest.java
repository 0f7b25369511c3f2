package org.wornladder.service;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.wornladder.Against;
import org.wornladder.ApplyOptions;
import org.wornladder.Draft;
import org.wornladder.DraftOptions;
import org.wornladder.DraftQuestions;
import org.wornladder.RefusedException;
import org.wornladder.RollbackOptions;
import org.wornladder.RunListener;
import org.wornladder.TestLadder;
import org.wornladder.change.Differences;
import org.wornladder.schema.Snapshot;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/** A change as several rungs, between which the old program and the new one both work. */
class StagedDraftTest {
  private static final String BIN =
      "CREATE TABLE bin (id integer NOT NULL PRIMARY KEY, wt integer NOT NULL,"
          + " grower_id integer, old varchar(20) NOT NULL);";
  private static final String OLD_PROGRAM =
      "INSERT INTO bin (id, wt, grower_id, old) VALUES (%d, 7, 1, 'o')";
  private static final String NEW_PROGRAM =
      "INSERT INTO bin (id, weight_kg, grower_id, grade) VALUES (%d, 8, 1, 'A')";

  @TempDir Path root;
  private TestDatabase database;
  private TestLadder ladder;
  private int id = 100;

  private void on(Kind kind) {
    database = TestDatabase.make(kind, root);
    ladder = TestLadder.on(database, root);
    ladder.rung(
        "0001-bins",
        "CREATE TABLE grower (id integer NOT NULL PRIMARY KEY);\n"
            + BIN
            + "\nINSERT INTO grower VALUES (1);\n"
            + "INSERT INTO bin VALUES (1, 5, 1, 'x'), (2, 6, NULL, 'y');",
        "DROP TABLE bin; DROP TABLE grower;");
    ladder.apply();
    ladder.file(
        "schema/tables/grower.sql", "CREATE TABLE grower (id integer NOT NULL PRIMARY KEY);");
    ladder.file(
        "schema/tables/bin.sql",
        "CREATE TABLE bin (id integer NOT NULL PRIMARY KEY, weight_kg integer NOT NULL, grower_id"
            + " integer, grade char(1) NOT NULL, CONSTRAINT bin_grower FOREIGN KEY (grower_id)"
            + " REFERENCES grower (id));\nCREATE INDEX by_grade ON bin (grade);");
  }

  private List<Draft> draft(boolean write) {
    DraftOptions options =
        new DraftOptions(
            "better bins",
            Optional.empty(),
            false,
            write,
            List.of(),
            List.of(),
            Map.of("bin.wt", "weight_kg", "bin.old", ""),
            Map.of("bin.grade", "'U'"));
    return ladder.open().draftInStages(options, DraftQuestions.UNANSWERED);
  }

  private void runs(String program) {
    database.execute(program.formatted(id++));
  }

  private Snapshot structure() {
    return ladder.open().show(Optional.of("dev")).schema().snapshot();
  }

  @ParameterizedTest
  @EnumSource
  void bothProgramsWorkUntilTheOldOneIsGone(Kind kind) {
    on(kind);
    Snapshot before = structure();
    List<Draft> stages = draft(true);
    assertThat(stages).allSatisfy(stage -> assertThat(stage.notProved()).isEmpty());
    assertThat(stages)
        .extracting(
            stage -> stage.file().orElseThrow().replaceAll(".*better-bins-(.*)\\.sql", "$1"))
        .startsWith("expand", "indexes", "fill-grade", "fill-weight-kg", "require")
        .endsWith("contract");
    for (int i = 0; i < stages.size(); i++) {
      ladder
          .open()
          .apply(
              Optional.of("dev"),
              ApplyOptions.builder().to(i + 2).build(),
              TestLadder.YES,
              RunListener.SILENT);
      if (i < 4) {
        runs(OLD_PROGRAM);
        if (!stages.get(i).file().orElseThrow().contains("fill")) {
          runs(NEW_PROGRAM);
        }
      } else {
        runs(NEW_PROGRAM);
      }
    }
    assertThat(database.query("SELECT count(*) FROM bin WHERE weight_kg IS NULL OR grade IS NULL"))
        .containsExactly("0");
    assertThat(database.query("SELECT weight_kg FROM bin WHERE id < 3 ORDER BY id"))
        .containsExactly("5", "6");
    assertThat(
            Differences.butForOrder(
                ladder.open().drift(Optional.of("dev"), Against.SCHEMA, false).structure()))
        .isEmpty();
    database.execute("DELETE FROM bin WHERE id > 2");
    ladder.rollback(new RollbackOptions.Last(1));
    assertThat(database.query("SELECT wt FROM bin ORDER BY id")).containsExactly("5", "6");
    database.execute("UPDATE bin SET old = 'again'");
    ladder.rollback(new RollbackOptions.To(1));
    assertThat(Differences.butForOrder(Differences.between(before, structure()))).isEmpty();
  }

  @Test
  void nothingIsWrittenForATrialOrForATableOfAnotherName() {
    on(Kind.SQLITE);
    assertThat(draft(false)).hasSizeGreaterThan(4).allMatch(stage -> stage.file().isEmpty());
    assertThat(root.resolve("rungs").toFile().list()).hasSize(1);
    ladder.file("schema/tables/bin.sql", BIN);
    ladder.file(
        "schema/tables/grower.sql", "CREATE TABLE farmer (id integer NOT NULL PRIMARY KEY);");
    DraftOptions renaming =
        new DraftOptions(
            "farmers",
            Optional.empty(),
            false,
            true,
            List.of(),
            List.of(),
            Map.of("grower", "farmer"),
            Map.of());
    assertThatThrownBy(() -> ladder.open().draftInStages(renaming, DraftQuestions.UNANSWERED))
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("a table's new name cannot be staged");
    ladder.file(
        "schema/tables/grower.sql", "CREATE TABLE grower (id integer NOT NULL PRIMARY KEY);");
    assertThat(ladder.open().draftInStages(DraftOptions.of("x"), DraftQuestions.UNANSWERED))
        .isEmpty();
  }
}
