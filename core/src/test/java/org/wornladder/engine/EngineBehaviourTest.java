package org.wornladder.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.wornladder.AcceptedFileApproval;
import org.wornladder.ApplyOptions;
import org.wornladder.Ladder;
import org.wornladder.ProjectException;
import org.wornladder.RefusedException;
import org.wornladder.RollbackOptions;
import org.wornladder.RunListener;
import org.wornladder.RunResult;
import org.wornladder.StatementFailedException;
import org.wornladder.TestLadder;
import org.wornladder.schema.Column;
import org.wornladder.schema.Index;
import org.wornladder.schema.Schema;
import org.wornladder.schema.Snapshot;
import org.wornladder.schema.Table;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/** What every engine must do; where it cannot, it says so, and that is what it does. */
class EngineBehaviourTest {
  private static final String ORCHARD =
      """
      CREATE TABLE orchard (id integer PRIMARY KEY, name varchar(40) NOT NULL, hectares decimal(6,2) DEFAULT 1.5);
      CREATE TABLE block (
        orchard_id integer NOT NULL,
        label varchar(20) NOT NULL,
        PRIMARY KEY (label, orchard_id),
        FOREIGN KEY (orchard_id) REFERENCES orchard (id) ON DELETE CASCADE
      );
      CREATE UNIQUE INDEX orchard_name ON orchard (name);
      CREATE VIEW labels AS SELECT label FROM block;
      INSERT INTO orchard (id, name) VALUES (1, 'Nether Field; it''s low');
      """;
  private static final String ORCHARD_DOWN =
      "DROP VIEW labels;\nDROP TABLE block;\nDROP TABLE orchard;";

  private static final String ALL = "org.wornladder.server.TestDatabase#allKinds";

  @TempDir Path root;

  private TestDatabase database;
  private TestLadder ladder;

  private void on(Enum<?> kind) {
    database = TestDatabase.make(kind, root);
    ladder = TestLadder.on(database, root);
  }

  private Schema structure() {
    return ladder.open().show(Optional.of("dev")).schema();
  }

  private boolean has(String table) {
    return structure().table(table).isPresent();
  }

  @ParameterizedTest
  @MethodSource(ALL)
  void aRungIsAppliedShownAndTakenBack(Enum<?> kind) {
    on(kind);
    ladder.rung("0001-orchards", ORCHARD, ORCHARD_DOWN);
    RunResult outcome = ladder.apply();
    // MariaDB indexes the columns of a foreign key without a name under the column's name.
    String indexes = kind == Kind.MARIADB ? "2 indexes" : "1 index";
    assertThat(outcome.structure().text())
        .isEqualTo("2 tables, 5 columns, 1 foreign key, " + indexes + " and 1 view added");
    Schema schema = structure();
    Table block = schema.table("block").orElseThrow();
    assertThat(block.primaryKey()).map(String::toLowerCase).containsExactly("label", "orchard_id");
    assertThat(block.foreignKeys()).singleElement().extracting("onDelete").isEqualTo("CASCADE");
    Table orchard = schema.table("orchard").orElseThrow();
    assertThat(orchard.columns()).map(Column::nullable).endsWith(false, true);
    assertThat(orchard.indexes())
        .filteredOn(index -> !index.fromConstraint())
        .singleElement()
        .matches(Index::unique);
    assertThat(schema.names(org.wornladder.schema.Kind.VIEW)).hasSize(1);
    assertThat(ladder.open().show(Optional.of("dev")).rowCounts()).containsValue(1L);
    assertThat(database.query("SELECT name FROM orchard"))
        .containsExactly("Nether Field; it's low");
    assertThat(ladder.open().showTable(Optional.of("dev"), "orchard", 5).rows()).hasSize(1);
    assertThat(ladder.apply().done()).isEmpty();
    ladder.rollback(new RollbackOptions.Last(1));
    assertThat(structure().snapshot().withoutRights()).isEqualTo(Snapshot.EMPTY);
    assertThat(ladder.open().history(Optional.of("dev")).history().broken()).isEmpty();
  }

  @ParameterizedTest
  @MethodSource(ALL)
  void aFailingStatementLeavesWhatTheEngineDeclares(Enum<?> kind) {
    on(kind);
    ladder.rung(
        "0001-bins",
        "CREATE TABLE bin (code varchar(9) PRIMARY KEY);\nINSERT INTO bin VALUES ('a'), ('a');",
        "DROP TABLE bin;");
    assertThatThrownBy(ladder::apply).isInstanceOf(StatementFailedException.class);
    assertThat(ladder.open().history(Optional.of("dev")).history().broken()).isEmpty();
    boolean undone = database.can(Ability.TRANSACTIONAL_DDL);
    assertThat(has("bin")).isEqualTo(!undone);
    if (undone) {
      assertThat(database.events()).containsExactly("failed");
      return;
    }
    assertThat(database.events())
        .containsExactly("up-started", "statement-started", "statement-done", "statement-failed");
    // A stuck rung is taken back as far as it came.
    ladder.rollback(new RollbackOptions.Last(1));
    assertThat(has("bin")).isFalse();
    assertThat(database.events())
        .endsWith("down-started", "statement-started", "statement-done", "rolled-back");
  }

  @ParameterizedTest
  @MethodSource(ALL)
  void aRungOfRowsAloneIsAllOrNothingEverywhere(Enum<?> kind) {
    on(kind);
    ladder.tables(1);
    ladder.rung(
        "0002-rows",
        "INSERT INTO bin_1 VALUES (1);\nINSERT INTO bin_1 VALUES (1);",
        "DELETE FROM bin_1;");
    assertThatThrownBy(ladder::apply).isInstanceOf(StatementFailedException.class);
    assertThat(database.query("SELECT count(*) FROM bin_1")).containsExactly("0");
    assertThat(database.events()).endsWith("failed");
    ladder.rung(
        "0002-rows",
        "INSERT INTO bin_1 VALUES (1);\nINSERT INTO bin_1 VALUES (2);",
        "DELETE FROM bin_1;");
    ladder.apply();
    assertThat(database.query("SELECT count(*) FROM bin_1")).containsExactly("2");
    assertThat(database.events()).endsWith("applied");
  }

  @ParameterizedTest
  @MethodSource(ALL)
  void aStuckRungGoesOnAfterItsLastDoneStatement(Enum<?> kind) {
    on(kind);
    ladder.rung(
        "0001-bins",
        "CREATE TABLE bin (id integer);\nCREATE TABLE bin (id integer);",
        "DROP TABLE bin;");
    assertThatThrownBy(ladder::apply).isInstanceOf(StatementFailedException.class);
    ladder.rung(
        "0001-bins",
        "CREATE TABLE bin (id integer);\nCREATE TABLE bin_2 (id integer);",
        "DROP TABLE bin;");
    if (!database.can(Ability.TRANSACTIONAL_DDL)) {
      assertThatThrownBy(ladder::apply)
          .isInstanceOf(RefusedException.class)
          .hasMessageContaining("was edited since");
      ladder
          .open()
          .acceptFile(
              Optional.of("dev"),
              1,
              "mended",
              TestLadder.YES,
              AcceptedFileApproval.given(false),
              RunListener.SILENT);
    }
    ladder.apply();
    assertThat(has("bin_2")).isTrue();
  }

  @ParameterizedTest
  @MethodSource(ALL)
  void allTogetherIsAPromiseOnlyWhereItCanBeKept(Enum<?> kind) {
    on(kind);
    ladder.tables(2).rung("0003-broken", "CREATE TABLE bin_1 (id integer);", "DROP TABLE x;");
    ApplyOptions together =
        new ApplyOptions(java.util.OptionalLong.empty(), true, Optional.empty());
    Ladder open = ladder.open();
    if (database.can(Ability.TRANSACTIONAL_DDL)) {
      assertThatThrownBy(
              () -> open.apply(Optional.of("dev"), together, TestLadder.YES, RunListener.SILENT))
          .isInstanceOf(StatementFailedException.class);
    } else {
      assertThatThrownBy(
              () -> open.apply(Optional.of("dev"), together, TestLadder.YES, RunListener.SILENT))
          .isInstanceOf(RefusedException.class)
          .hasMessageContaining("cannot undo changes of structure");
    }
    assertThat(has("bin_1")).isFalse();
  }

  @ParameterizedTest
  @MethodSource(ALL)
  void conditionsAreAskedOfTheDatabase(Enum<?> kind) {
    on(kind);
    ladder.tables(1);
    ladder.file(
        "rungs/0002-when.sql",
        """
        --| when: table bin_1 exists
        --| when: column bin_1.id exists
        --| when: column bin_1.weight missing
        --| when: view bin_1 missing
        --| when: index bin_weight missing
        --| when-sql: SELECT count(*) + 1 FROM bin_1
        --| up
        ALTER TABLE bin_1 ADD COLUMN weight integer;
        """);
    ladder.file(
        "rungs/0003-not.sql",
        """
        --| when-sql: SELECT count(*) FROM bin_1
        --| otherwise: pass
        --| up
        CREATE TABLE never (id integer);
        """);
    ladder.apply();
    assertThat(structure().table("bin_1").orElseThrow().columns()).hasSize(2);
    assertThat(has("never")).isFalse();
    assertThat(database.events()).endsWith("passed-over");
  }

  @ParameterizedTest
  @MethodSource(ALL)
  void standingScriptsFollowTheirText(Enum<?> kind) {
    on(kind);
    ladder.tables(1);
    ladder.file(
        "standing/ids.sql",
        "--| up\nCREATE VIEW ids AS SELECT id FROM bin_1;\n--| down\nDROP VIEW ids;\n");
    ladder.apply();
    ladder.file(
        "standing/ids.sql",
        "--| up\nCREATE VIEW ids AS SELECT id + 1 AS id FROM bin_1;\n--| down\nDROP VIEW ids;\n");
    ladder.apply();
    database.execute("INSERT INTO bin_1 VALUES (6)");
    assertThat(database.query("SELECT id FROM ids")).containsExactly("7");
    ladder.delete("standing/ids.sql");
    ladder.apply();
    assertThat(structure().names(org.wornladder.schema.Kind.VIEW)).isEmpty();
  }

  @ParameterizedTest
  @MethodSource(ALL)
  void aScriptThatEndsTheTransactionIsRefusedBeforeItRuns(Enum<?> kind) {
    on(kind);
    for (String word : List.of("COMMIT", "ROLLBACK", "BEGIN")) {
      ladder.rung("0001-bins", "CREATE TABLE bin (id integer);\n" + word + ";", "DROP TABLE bin;");
      assertThatThrownBy(ladder::apply)
          .isInstanceOf(ProjectException.class)
          .hasMessageContaining(word + " would begin or end the transaction");
      assertThat(has("bin")).isFalse();
    }
  }

  @ParameterizedTest
  @MethodSource(ALL)
  void oneAtATimeAndWhoWaitsIsToldWhoHoldsIt(Enum<?> kind) throws Exception {
    on(kind);
    ladder.tables(12);
    List<Thread> crowd = new ArrayList<>();
    List<Throwable> failures = new ArrayList<>();
    for (int i = 0; i < 6; i++) {
      Thread thread = new Thread(() -> ladder.apply());
      thread.setUncaughtExceptionHandler((t, e) -> failures.add(e));
      crowd.add(thread);
      thread.start();
    }
    for (Thread thread : crowd) {
      thread.join(60_000);
    }
    assertThat(failures).isEmpty();
    assertThat(database.events().stream().filter("applied"::equals)).hasSize(12);
  }

  @ParameterizedTest
  @MethodSource(ALL)
  void aJournalTableThatSomeoneElseMadeIsSaidSo(Enum<?> kind) {
    on(kind);
    String name = database.engine().quoting().name("ladder_journal");
    database.execute("CREATE TABLE " + name + " (id integer)");
    ladder.tables(1);
    assertThatThrownBy(ladder::apply).hasMessageContaining("is not a journal of this version");
    assertThat(has("bin_1")).isFalse();
  }

  @ParameterizedTest
  @MethodSource(ALL)
  void aJournalOfANewerVersionIsLeftAlone(Enum<?> kind) {
    on(kind);
    ladder.tables(1);
    ladder.apply();
    String name = database.engine().quoting().name("ladder_journal");
    database.execute(
        "UPDATE " + name + " SET " + database.journalColumn("event") + " = 'transplanted'");
    ladder.tables(2);
    assertThatThrownBy(ladder::apply)
        .hasMessageContaining("'transplanted', which this version does not know");
    assertThat(has("bin_2")).isFalse();
  }

  @ParameterizedTest
  @MethodSource(ALL)
  void quotedNamesAndStringsArriveAsTheyAre(Enum<?> kind) {
    on(kind);
    String name = database.engine().quoting().name("Bin \"of\" `März`");
    String text = database.engine().quoting().text("it's a \\ and a \"");
    ladder.rung(
        "0001-odd",
        "CREATE TABLE "
            + name
            + " (id integer, text varchar(40));\nINSERT INTO "
            + name
            + " VALUES (1, "
            + text
            + ");",
        "DROP TABLE " + name + ";");
    ladder.apply();
    assertThat(structure().tables()).map(Table::name).containsExactly("Bin \"of\" `März`");
    assertThat(database.query("SELECT text FROM " + name)).containsExactly("it's a \\ and a \"");
    ladder.rollback(new RollbackOptions.Last(1));
    assertThat(structure().tables()).isEmpty();
  }
}
