package org.wornladder.engine.postgres;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.wornladder.Against;
import org.wornladder.ApplyOptions;
import org.wornladder.RollbackOptions;
import org.wornladder.RunListener;
import org.wornladder.RunResult;
import org.wornladder.StatementFailedException;
import org.wornladder.TestLadder;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/**
 * Rungs that travel many in one message: each is still one transaction, told and recorded alone.
 */
class PostgresBatchTest {
  private static final int RUNGS = 40;

  @TempDir Path root;
  private TestDatabase database;
  private TestLadder ladder;
  private final List<String> told = new ArrayList<>();

  private final RunListener listener =
      new RunListener() {
        @Override
        public void stepDone(RunResult.Done done, int index) {
          told.add(index + " " + done.step().label());
        }
      };

  @BeforeEach
  void project() {
    database = TestDatabase.make(Kind.POSTGRES, root);
    ladder = TestLadder.on(database, root).tables(RUNGS);
  }

  private void apply(boolean together) {
    ApplyOptions options = new ApplyOptions(OptionalLong.empty(), together, Optional.empty());
    ladder.open().apply(Optional.of("dev"), options, TestLadder.YES, listener);
  }

  @ParameterizedTest
  @ValueSource(booleans = {true, false})
  void allAreInPlaceAndTheChainHolds(boolean together) {
    apply(together);
    assertThat(told).hasSize(RUNGS).startsWith("1 0001").endsWith("40 0040");
    assertThat(database.events()).hasSize(RUNGS).containsOnly("applied");
    assertThat(ladder.open().history(Optional.of("dev")).history().broken()).isEmpty();
    assertThat(ladder.open().drift(Optional.of("dev"), Against.EXPECTED, false).structure())
        .isEmpty();
    ladder.rollback(new RollbackOptions.To(3));
    assertThat(database.events()).hasSize(2 * RUNGS - 3);
    assertThat(ladder.open().status(Optional.of("dev")).at()).isEqualTo(3);
  }

  @ParameterizedTest
  @ValueSource(ints = {2, 3, 17, 39, 40})
  void whatStandsBeforeOneThatFailsIsInPlaceAndItIsToldWithItsPlace(int wrong) {
    ladder.rung("%04d-bin-%d".formatted(wrong, wrong), "CREATE TABLE bin_1 (n int);", "SELECT 1;");
    assertThatThrownBy(() -> apply(false))
        .isInstanceOfSatisfying(
            StatementFailedException.class,
            e -> {
              String file = "rungs/%04d-bin-%d.sql:2:1".formatted(wrong, wrong);
              assertThat(e.failure().place()).isEqualTo(file);
              assertThat(e.failure().statement()).contains("CREATE TABLE bin_1 (n int)");
              assertThat(e.failure().completed()).isEqualTo(wrong - 1);
            });
    assertThat(told).hasSize(wrong - 1);
    assertThat(database.events()).hasSize(wrong).endsWith("failed");
    ladder.rung("%04d-bin-%d".formatted(wrong, wrong), "SELECT 7;", "SELECT 1;");
    apply(false);
    assertThat(ladder.open().status(Optional.of("dev")).at()).isEqualTo(RUNGS);
    assertThat(ladder.open().history(Optional.of("dev")).history().broken()).isEmpty();
  }

  @Test
  void togetherTheOneThatFailsIsToldWithItsPlaceAndNothingIsLeft() {
    ladder.rung("0023-bin-23", "CREATE TABLE bin_1 (n int);", "SELECT 1;");
    assertThatThrownBy(() -> apply(true))
        .isInstanceOfSatisfying(
            StatementFailedException.class,
            e -> assertThat(e.failure().place()).isEqualTo("rungs/0023-bin-23.sql:2:1"));
    assertThat(database.query("SELECT count(*) FROM pg_tables WHERE tablename LIKE 'bin%'"))
        .containsExactly("0");
    assertThat(database.events()).containsExactly("failed");
  }

  @ParameterizedTest
  @ValueSource(booleans = {true, false})
  void whatTookLongIsRecordedWhereItTookLong(boolean together) {
    ladder.rung(
        "0020-bin-20", "CREATE TABLE bin_20 AS SELECT 1 AS n FROM pg_sleep(1.5);", "SELECT 1;");
    apply(together);
    assertThat(slowest()).isEqualTo("20");
    assertThat(database.query("SELECT count(*) FROM ladder_journal WHERE elapsed_ms < 0"))
        .containsExactly("0");
  }

  /** The rung that slept; on a loaded machine others may take long too, but not as long. */
  private String slowest() {
    String bySleep = "SELECT rung FROM ladder_journal WHERE elapsed_ms >= 1500";
    return database.query(bySleep + " ORDER BY elapsed_ms DESC LIMIT 1").get(0);
  }

  /** An answer of a script's own is none of the marks between the rungs, whatever it looks like. */
  @ParameterizedTest
  @ValueSource(booleans = {true, false})
  void statementsThatAnswerAndThatEndInACommentTravelToo(boolean together) {
    String row = "INSERT INTO bin_%d SELECT 1 FROM pg_sleep(%s) ";
    ladder.rung("0011-bin-11", row.formatted(1, "1.5") + "RETURNING 4711 AS mark;", "SELECT 1;");
    ladder.rung("0012-bin-12", row.formatted(2, "0") + "; -- pears", "SELECT 1;");
    ladder.rung("0013-bin-13", "DELETE FROM bin_1 RETURNING *; /* plums */", "SELECT 1;");
    ladder.rung(
        "0014-bin-14", "UPDATE bin_2 SET id = 5 RETURNING id AS ladder_marks;", "SELECT 1;");
    apply(together);
    assertThat(told).hasSize(RUNGS);
    assertThat(slowest()).isEqualTo("11");
    assertThat(ladder.open().history(Optional.of("dev")).history().broken()).isEmpty();
  }

  /** What a script does to the session's own settings and plans does no harm to the entries. */
  @ParameterizedTest
  @ValueSource(
      strings = {"DISCARD PLANS", "RESET ALL", "DEALLOCATE ALL", "SET ladder.even = 'plums'"})
  void entriesAreWrittenWhateverAScriptForgets(String statement) {
    ladder.rung("0020-bin-20", "SELECT 1;\n" + statement + ";", "SELECT 1;");
    apply(false);
    assertThat(ladder.open().status(Optional.of("dev")).at()).isEqualTo(RUNGS);
    assertThat(ladder.open().history(Optional.of("dev")).history().broken()).isEmpty();
    assertThat(database.query("SELECT count(*) FROM ladder_journal WHERE elapsed_ms < 0"))
        .containsExactly("0");
  }

  /** The marks of one long transaction are prepared too, and a script may forget them. */
  @ParameterizedTest
  @ValueSource(
      strings = {
        "DISCARD PLANS",
        "RESET ALL",
        "DEALLOCATE ALL",
        "DO $$ BEGIN EXECUTE 'DEALLOCATE ALL'; END $$"
      })
  void togetherAllAreInPlaceWhateverAScriptForgets(String statement) {
    ladder.rung("0020-bin-20", statement + ";", "SELECT 1;");
    apply(true);
    assertThat(told).hasSize(RUNGS);
    assertThat(database.events()).hasSize(RUNGS).containsOnly("applied");
    assertThat(ladder.open().history(Optional.of("dev")).history().broken()).isEmpty();
    assertThat(ladder.open().drift(Optional.of("dev"), Against.EXPECTED, false).structure())
        .isEmpty();
  }

  /** Whatever a rung says of the session is over with it, in one transaction too. */
  @ParameterizedTest
  @ValueSource(booleans = {true, false})
  void theNextRungFindsTheSessionAsItWas(boolean together) {
    ladder.rung(
        "0020-bin-20",
        "CREATE SCHEMA packing;\nSET search_path = packing;\nSET ROLE pg_monitor;",
        "SELECT 1;");
    ladder.rung("0021-bin-21", "CREATE TABLE crate AS SELECT current_user AS who;", "SELECT 1;");
    apply(together);
    assertThat(database.query("SELECT schemaname FROM pg_tables WHERE tablename = 'crate'"))
        .containsExactly("public");
    assertThat(database.query("SELECT who = session_user FROM crate")).containsExactly("t");
  }

  /** What is put back before a rung that fails is put back before what follows it too. */
  @ParameterizedTest
  @CsvSource({
    "true, CREATE TABLE bin_1 (n int);",
    "false, CREATE TABLE bin_1 (n int);",
    "true, SELECT 1; CREATE TABLE bin_1 (n int);",
    "false, SELECT 1; CREATE TABLE bin_1 (n int);"
  })
  void aFailureIsRecordedWhoeverARungBeforeItWas(boolean together, String failing) {
    ladder.rung("0020-bin-20", "SELECT 1;\nSET ROLE pg_monitor;", "SELECT 1;");
    ladder.rung("0021-bin-21", failing, "SELECT 1;");
    assertThatThrownBy(() -> apply(together)).isInstanceOf(StatementFailedException.class);
    assertThat(database.events()).hasSize(together ? 1 : 21).endsWith("failed");
    assertThat(ladder.open().history(Optional.of("dev")).history().broken()).isEmpty();
  }
}
