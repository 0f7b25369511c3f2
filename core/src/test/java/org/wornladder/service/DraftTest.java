package org.wornladder.service;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.wornladder.Against;
import org.wornladder.Draft;
import org.wornladder.DraftOptions;
import org.wornladder.DraftQuestions;
import org.wornladder.ProjectException;
import org.wornladder.RefusedException;
import org.wornladder.RollbackOptions;
import org.wornladder.RunListener;
import org.wornladder.StatementFailedException;
import org.wornladder.TestLadder;
import org.wornladder.change.Difference;
import org.wornladder.change.RenameCandidate;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/** Rungs written from a difference: they run, both ways, and rows stay. */
class DraftTest {
  private static final String GROWER =
      "CREATE TABLE grower (id integer NOT NULL PRIMARY KEY, name varchar(40), fax varchar(20));";
  private static final String BIN =
      "CREATE TABLE bin (code varchar(10) NOT NULL PRIMARY KEY, wt decimal(8,2), grower_id integer,"
          + " CONSTRAINT bin_grower FOREIGN KEY (grower_id) REFERENCES grower (id)"
          + " ON DELETE CASCADE);";
  private static final String HEAVY = "CREATE VIEW heavy AS SELECT b.code FROM bin b;";

  @TempDir Path root;
  private TestDatabase database;
  private TestLadder ladder;

  private void on(Kind kind) {
    database = TestDatabase.make(kind, root);
    ladder = TestLadder.on(database, root);
    ladder.rung(
        "0001-bins",
        GROWER
            + BIN
            + HEAVY
            + "INSERT INTO grower (id, name, fax) VALUES (1, 'Ann', '7'), (2, NULL, '8');"
            + "INSERT INTO bin (code, wt, grower_id) VALUES ('a', 120, 1), ('b', 80, 2);",
        "DROP VIEW heavy; DROP TABLE bin; DROP TABLE grower;");
    ladder.apply();
    declare(GROWER, BIN, HEAVY);
  }

  private void declare(String grower, String bin, String heavy) {
    ladder.file("schema/tables/grower.sql", grower);
    ladder.file("schema/tables/bin.sql", bin);
    ladder.file("schema/views/heavy.sql", heavy);
  }

  private Draft draft(DraftOptions options) {
    return ladder.open().draft(options, DraftQuestions.UNANSWERED);
  }

  private static DraftOptions options(
      List<String> only, Map<String, String> renamed, Map<String, String> fills) {
    return new DraftOptions(
        "bins in order", Optional.empty(), false, true, only, List.of(), renamed, fills);
  }

  private List<Path> rungs() throws Exception {
    try (var files = Files.list(root.resolve("rungs"))) {
      return files.sorted().toList();
    }
  }

  private List<Difference> drift(Against against) {
    return ladder.open().drift(Optional.of("dev"), against, false).structure();
  }

  @ParameterizedTest
  @EnumSource
  void whatIsDeclaredBecomesARungThatRunsBothWaysAndKeepsRows(Kind kind) {
    on(kind);
    declare(
        GROWER
            .replace("name varchar(40)", "name varchar(60) NOT NULL")
            .replace(", fax varchar(20)", ""),
        BIN.replace("wt decimal(8,2)", "wt decimal(10,2) DEFAULT 1 CHECK (wt > 0)")
            .replace(" ON DELETE CASCADE", "")
            .replace("grower_id integer", "grower_id integer, grade char(1)"),
        HEAVY.replace("b.code", "b.code, b.wt"));
    Draft draft = draft(options(List.of(), Map.of(), Map.of("grower.name", "'none'")));
    assertThat(draft.notProved()).isEmpty();
    assertThat(draft.file()).contains("rungs/0002-bins-in-order.sql");
    ladder.apply();
    assertThat(drift(Against.SCHEMA)).isEmpty();
    assertThat(database.query("SELECT name FROM grower ORDER BY id"))
        .containsExactly("Ann", "none");
    assertThat(database.query("SELECT code FROM bin ORDER BY code")).containsExactly("a", "b");
    assertThat(draft(DraftOptions.of("again")).isEmpty()).isTrue();
    ladder.rollback(new RollbackOptions.Last(1));
    assertThat(drift(Against.EXPECTED)).isEmpty();
    assertThat(database.query("SELECT fax FROM grower ORDER BY id"))
        .containsExactly("NULL", "NULL");
    assertThat(database.query("SELECT grower_id FROM bin ORDER BY code")).containsExactly("1", "2");
  }

  @ParameterizedTest
  @EnumSource
  void aRenamedColumnKeepsItsValuesOnceAPersonSaysThatItIsOne(Kind kind) throws Exception {
    on(kind);
    declare(GROWER, BIN.replace("wt ", "weight_kg "), HEAVY);
    Draft unsure = draft(DraftOptions.of("first"));
    assertThat(unsure.unanswered()).hasSize(1);
    assertThat(unsure.text()).contains("NOT SURE: is ");
    Files.delete(rungs().get(1));
    draft(options(List.of(), Map.of("bin.wt", "bin.weight_kg"), Map.of()));
    ladder.apply();
    assertThat(database.query("SELECT CAST(weight_kg AS integer) FROM bin ORDER BY code"))
        .containsExactly("120", "80");
    ladder.rollback(new RollbackOptions.Last(1));
    assertThat(database.query("SELECT CAST(wt AS integer) FROM bin ORDER BY code"))
        .containsExactly("120", "80");
    assertThat(drift(Against.EXPECTED)).isEmpty();
  }

  @ParameterizedTest
  @EnumSource
  void aRenamedTableKeepsItsRows(Kind kind) {
    on(kind);
    ladder.file("schema/tables/grower.sql", GROWER.replace("TABLE grower", "TABLE farmer"));
    ladder.file("schema/tables/bin.sql", BIN.replace("REFERENCES grower", "REFERENCES farmer"));
    Draft draft =
        ladder
            .open()
            .draft(
                DraftOptions.of("farmers"),
                new DraftQuestions() {
                  @Override
                  public Optional<Boolean> isRenamed(RenameCandidate candidate) {
                    return Optional.of(true);
                  }

                  @Override
                  public Optional<String> value(String column) {
                    return Optional.empty();
                  }
                });
    assertThat(draft.notProved()).isEmpty();
    ladder.apply();
    assertThat(database.query("SELECT fax FROM farmer ORDER BY id")).containsExactly("7", "8");
    assertThat(drift(Against.SCHEMA)).isEmpty();
    ladder.rollback(new RollbackOptions.Last(1));
    assertThat(database.query("SELECT fax FROM grower ORDER BY id")).containsExactly("7", "8");
  }

  @ParameterizedTest
  @EnumSource
  void aRequiredColumnIsFilledForTheRowsThatAreThere(Kind kind) {
    on(kind);
    declare(GROWER.replace("fax", "grade char(1) NOT NULL, fax"), BIN, HEAVY);
    assertThatThrownBy(() -> draft(options(List.of(), Map.of(), Map.of("bin.code", "'x'"))))
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("no row needs a value in bin.code");
    draft(options(List.of(), Map.of(), Map.of("grower.grade", "'U'")));
    ladder.apply();
    assertThat(database.query("SELECT grade FROM grower")).containsExactly("U", "U");
    assertThat(draft(DraftOptions.of("again")).isEmpty()).isTrue();
  }

  @ParameterizedTest
  @EnumSource
  void withoutAValueTheRiskIsSaidAndTheRunFailsWithNothingLost(Kind kind) {
    on(kind);
    declare(GROWER.replace("name varchar(40)", "name varchar(40) NOT NULL"), BIN, HEAVY);
    Draft draft = draft(DraftOptions.of("names"));
    assertThat(draft.risks()).extracting(risk -> risk.kind().label()).contains("may-fail");
    assertThat(draft.text()).containsIgnoringCase("WHERE name IS NULL");
    assertThatThrownBy(ladder::apply).isInstanceOf(StatementFailedException.class);
    assertThat(database.query("SELECT id FROM grower")).containsExactlyInAnyOrder("1", "2");
    assertThat(database.query("SELECT code FROM bin")).containsExactlyInAnyOrder("a", "b");
  }

  @ParameterizedTest
  @EnumSource
  void nothingThatDiffersIsNoRungUnlessOneIsWanted(Kind kind) throws Exception {
    on(kind);
    assertThat(draft(DraftOptions.of("nothing")).isEmpty()).isTrue();
    assertThat(rungs()).hasSize(1);
    DraftOptions empty =
        new DraftOptions(
            "later", Optional.empty(), true, true, List.of(), List.of(), Map.of(), Map.of());
    assertThat(draft(empty).file()).contains("rungs/0002-later.sql");
  }

  @ParameterizedTest
  @EnumSource
  void aDatabaseMayBeWhatIsWantedUnlessItLagsBehind(Kind kind) {
    on(kind);
    DraftOptions fromDev =
        new DraftOptions(
            "by hand", Optional.of("dev"), false, false, List.of(), List.of(), Map.of(), Map.of());
    database.execute("ALTER TABLE bin ADD COLUMN grade char(1)");
    assertThat(draft(fromDev).written()).hasSize(1);
    ladder.rung("0002-later", "CREATE TABLE crate (id integer);", "DROP TABLE crate;");
    assertThatThrownBy(() -> draft(fromDev))
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("dev lags behind the ladder");
  }

  @Test
  void patternsTakeSomeDifferencesAndMustNameOne() {
    on(Kind.SQLITE);
    declare(GROWER.replace("fax ", "fax2 "), BIN.replace("wt ", "weight_kg "), HEAVY);
    Draft draft = draft(options(List.of("column:bin.*"), Map.of(), Map.of()));
    assertThat(draft.written()).hasSize(2);
    assertThatThrownBy(() -> draft(options(List.of("table:crate"), Map.of(), Map.of())))
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("table:crate names nothing that differs");
  }

  @ParameterizedTest
  @ValueSource(strings = {"bin.height=bin.width", "bin.wt=bin.code", "crate=box", "bin=grower"})
  void aRenameOfWhatIsNotThereOrToWhatIsThereIsRefused(String pair) {
    on(Kind.SQLITE);
    declare(GROWER, BIN.replace("wt ", "weight_kg "), HEAVY);
    Map<String, String> renamed = Map.of(pair.split("=")[0], pair.split("=")[1]);
    assertThatThrownBy(() -> draft(options(List.of(), renamed, Map.of())))
        .isInstanceOf(RefusedException.class);
  }

  @Test
  void withoutDeclaredFilesNothingIsDroppedByADraft() throws Exception {
    on(Kind.SQLITE);
    for (String file : List.of("tables/bin.sql", "tables/grower.sql", "views/heavy.sql")) {
      Files.delete(root.resolve("schema").resolve(file));
    }
    assertThatThrownBy(() -> draft(DraftOptions.of("nothing")))
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("schema/ has no files");
  }

  @Test
  void aFileThatDoesNotBuildIsNamed() {
    on(Kind.SQLITE);
    ladder.file("schema/tables/crate.sql", "CREATE TABLE crate (id integer REFERENCES);");
    assertThatThrownBy(() -> draft(DraftOptions.of("crates")))
        .isInstanceOfSatisfying(
            ProjectException.class,
            e ->
                assertThat(e.problems())
                    .extracting(problem -> problem.place().toString())
                    .containsExactly("schema/tables/crate.sql:1:1"));
  }

  @ParameterizedTest
  @EnumSource
  void anObjectThatTwoFilesDeclareIsNamedWithBoth(Kind kind) {
    on(kind);
    String replacing = kind == Kind.SQLITE ? "CREATE VIEW" : "CREATE OR REPLACE VIEW";
    ladder.file("schema/views/one.sql", replacing + " seen AS SELECT 1 AS a;\n");
    ladder.file("schema/views/two.sql", "\n" + replacing + " seen AS SELECT 2 AS a;\n");
    assertThatThrownBy(() -> draft(DraftOptions.of("views")))
        .hasMessage("view seen is declared here again; first at schema/views/one.sql:1:1")
        .isInstanceOfSatisfying(
            ProjectException.class,
            e ->
                assertThat(e.problems())
                    .extracting(problem -> problem.place().toString())
                    .containsExactly("schema/views/two.sql:2:1"));
  }

  @ParameterizedTest
  @EnumSource
  void aForeignKeyAloneComesAndGoes(Kind kind) {
    on(kind);
    ladder.file(
        "schema/tables/grower.sql",
        GROWER.replaceFirst(
            "fax varchar\\(20\\)",
            "fax varchar(20), boss integer, CONSTRAINT grower_boss FOREIGN KEY (boss) REFERENCES"
                + " grower (id)"));
    assertThat(draft(DraftOptions.of("bosses")).notProved()).isEmpty();
    ladder.file(
        "schema/tables/grower.sql",
        GROWER.replaceFirst("fax varchar\\(20\\)", "fax varchar(20), boss integer"));
    assertThat(draft(DraftOptions.of("no rule")).notProved()).isEmpty();
    ladder.apply();
    ladder.rollback(new RollbackOptions.To(1));
    assertThat(drift(Against.EXPECTED)).isEmpty();
  }

  @ParameterizedTest
  @EnumSource
  void theNewestRungIsExtendedAndDevHasItAgain(Kind kind) {
    on(kind);
    ladder.rung("0002-crates", "CREATE TABLE crate (id integer);", "DROP TABLE crate;");
    ladder.apply();
    ladder.file("schema/tables/crate.sql", "CREATE TABLE crate (id integer, wood varchar(9));");
    Draft draft =
        ladder
            .open()
            .extendNewestRung(
                DraftOptions.of("more"),
                DraftQuestions.UNANSWERED,
                (rung, takenBack, others) -> assertThat(takenBack).contains("dev"),
                RunListener.SILENT);
    assertThat(draft.file()).contains("rungs/0002-crates.sql");
    assertThat(database.query("SELECT wood FROM crate")).isEmpty();
    assertThat(drift(Against.SCHEMA)).isEmpty();
    ladder.rollback(new RollbackOptions.Last(1));
    assertThat(drift(Against.EXPECTED)).isEmpty();
  }

  @Test
  void aRungThatAGuardedEnvironmentHasIsNotExtended() {
    database = TestDatabase.make(Kind.SQLITE, root);
    ladder = TestLadder.on(database, root);
    ladder.file(
        "ladder.yaml",
        "name: hollowfield\nenvironments:\n  dev: { url: '%s', guarded: true }\n"
            .formatted(database.url()));
    ladder.rung("0001-bins", GROWER, "DROP TABLE grower;");
    ladder
        .open()
        .apply(
            Optional.of("dev"),
            org.wornladder.ApplyOptions.ALL,
            org.wornladder.Approval.given(Optional.of("dev"), false),
            RunListener.SILENT);
    ladder.file("schema/tables/grower.sql", GROWER.replace("fax", "fax2"));
    String before = ladder.text("rungs/0001-bins.sql");
    assertThatThrownBy(
            () ->
                ladder
                    .open()
                    .extendNewestRung(
                        DraftOptions.of("more"),
                        DraftQuestions.UNANSWERED,
                        (rung, takenBack, others) -> {},
                        RunListener.SILENT))
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("which is guarded");
    assertThat(ladder.text("rungs/0001-bins.sql")).isEqualTo(before);
  }

  @ParameterizedTest
  @EnumSource
  void aMissingWayDownIsWrittenFromTheStructuresAroundTheRung(Kind kind) {
    on(kind);
    ladder.file(
        "rungs/0002-grades.sql",
        "--| up\nCREATE TABLE grade (code char(1) NOT NULL PRIMARY KEY);\n"
            + "ALTER TABLE bin ADD COLUMN grade char(1);\n");
    ladder.apply();
    Draft draft = ladder.open().draftWayDown(2, true);
    assertThat(draft.notProved()).isEmpty();
    ladder.rollback(new RollbackOptions.Last(1));
    assertThat(drift(Against.EXPECTED)).isEmpty();
    assertThatThrownBy(() -> ladder.open().draftWayDown(2, true))
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("has a way down");
  }

  @ParameterizedTest
  @EnumSource
  void whatStandingScriptsMakeIsLeftToThem(Kind kind) {
    on(kind);
    ladder.file(
        "standing/stock.sql",
        "--| up\nCREATE VIEW stock AS SELECT code FROM bin;\n--| down\nDROP VIEW stock;\n");
    assertThat(draft(DraftOptions.of("nothing")).isEmpty()).isTrue();
    ladder.file("schema/views/stock.sql", "CREATE VIEW stock AS SELECT code, wt FROM bin;");
    Draft draft = draft(DraftOptions.of("nothing"));
    assertThat(draft.isEmpty()).isTrue();
    assertThat(draft.standing()).hasSize(1);
  }

  @ParameterizedTest
  @EnumSource
  void declaredFilesFollowTheLadderOrADatabase(Kind kind) {
    on(kind);
    ladder.rung("0002-heavy", "DROP VIEW heavy; CREATE TABLE crate (id integer);", "SELECT 1;");
    ladder.open().writeSchemaFiles(Optional.empty(), List.of());
    assertThat(draft(DraftOptions.of("nothing")).isEmpty()).isTrue();
    ladder.open().writeSchemaFiles(Optional.of("dev"), List.of());
    assertThat(drift(Against.SCHEMA)).isEmpty();
  }

  @ParameterizedTest
  @EnumSource
  void aDatabaseIsBroughtToWhatIsDeclaredWithoutARung(Kind kind) {
    on(kind);
    declare(GROWER.replace("fax varchar(20)", "fax varchar(30)"), BIN, HEAVY);
    assertThatThrownBy(
            () ->
                ladder
                    .open()
                    .applySchemaFiles(
                        "dev",
                        List.of(),
                        change -> {
                          throw RefusedException.of("no", "dev", "");
                        },
                        RunListener.SILENT))
        .isInstanceOf(RefusedException.class);
    assertThat(drift(Against.SCHEMA)).hasSize(1);
    ladder.open().applySchemaFiles("dev", List.of(), change -> {}, RunListener.SILENT);
    assertThat(drift(Against.SCHEMA)).isEmpty();
    assertThat(database.query("SELECT fax FROM grower ORDER BY id")).containsExactly("7", "8");
  }
}
