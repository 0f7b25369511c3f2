package org.wornladder.engine.postgres;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.wornladder.Against;
import org.wornladder.RefusedException;
import org.wornladder.RollbackOptions;
import org.wornladder.StatementFailedException;
import org.wornladder.TestLadder;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/** Statements that wait for what follows them, and the rows of a bulk load: who is told of what. */
class PostgresMessageTest {
  @TempDir Path root;
  private TestDatabase database;
  private TestLadder ladder;

  @BeforeEach
  void project() {
    database = TestDatabase.make(Kind.POSTGRES, root);
    ladder = TestLadder.on(database, root);
    ladder.rung("0001-bins", "CREATE TABLE bin (id int PRIMARY KEY);", "DROP TABLE bin;");
    ladder.apply();
  }

  private void fails(String up, int line) {
    ladder.file("rungs/0002-wrong.sql", "--| up\n" + up + "\n--| no way down: a test\n");
    assertThatThrownBy(ladder::apply)
        .isInstanceOfSatisfying(
            StatementFailedException.class,
            e ->
                assertThat(e.failure().place())
                    .as(up)
                    .startsWith("rungs/0002-wrong.sql:" + line + ":"));
    assertThat(database.events()).endsWith("failed");
    assertThat(ladder.open().drift(Optional.of("dev"), Against.EXPECTED, false).structure())
        .isEmpty();
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "INSERT INTO nowhere VALUES (1);",
        "INSERT INTO bin VALUES (1), (1) -- a comment at the end\n;",
        "COPY bin (id) FROM stdin;\n1\nx\n\\.\n"
      })
  void aStatementThatStandsAloneIsToldWithItsPlace(String statement) {
    fails(statement, 2);
  }

  @Test
  void ofSeveralStatementsTheOneThatFailedIsTold() {
    fails("INSERT INTO bin VALUES (1);\nINSERT INTO bin VALUES (1);\nSELECT 1;", 3);
    fails("SELECT 1;\nCOPY bin (id) FROM stdin;\n1\nx\n\\.\n", 3);
    fails("INSERT INTO bin VALUES (1);\nSELECT 1;\nSELECT 1 / 0;", 4);
  }

  @Test
  void aStatementThatEndsInACommentIsWholeAndItsEntryToo() {
    ladder.rung("0002-rows", "INSERT INTO bin VALUES (7) -- the last\n;", "DELETE FROM bin;");
    ladder.apply();
    assertThat(database.query("SELECT id FROM bin")).isEqualTo(List.of("7"));
    assertThat(database.events()).containsExactly("applied", "applied");
    assertThat(database.query("SELECT max(elapsed_ms) < 10000 FROM ladder_journal"))
        .containsExactly("t");
  }

  @Test
  void aScriptMayThrowAwayWhatTheSessionHadPrepared() {
    ladder.rung("0002-trees", "DEALLOCATE ALL; CREATE TABLE tree (id int);", "DROP TABLE tree;");
    assertThat(ladder.apply().structure().text()).isEqualTo("1 table and 1 column added");
    ladder.rung("0003-rows", "CREATE TABLE row (id int);", "DROP TABLE row; DEALLOCATE ALL;");
    ladder.rung("0004-crates", "CREATE TABLE crate (id int);", "DEALLOCATE ALL;");
    assertThat(ladder.apply().structure().text()).isEqualTo("2 tables and 2 columns added");
    assertThat(ladder.rollback(new RollbackOptions.To(2)).structure().text())
        .isEqualTo("1 table and 1 column dropped");
    assertThat(ladder.open().drift(Optional.of("dev"), Against.EXPECTED, false).structure())
        .isEmpty();
  }

  @Test
  void aRefusedPlanLeavesTheSessionWhole() {
    ladder.rung("0001-bins", "CREATE TABLE bin (id bigint PRIMARY KEY);", "DROP TABLE bin;");
    ladder.rung("0002-trees", "CREATE TABLE tree (id int);", "DROP TABLE tree;");
    assertThatThrownBy(ladder::apply)
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("worn");
    assertThat(database.events()).containsExactly("applied");
    ladder.rung("0001-bins", "CREATE TABLE bin (id int PRIMARY KEY);", "DROP TABLE bin;");
    assertThat(ladder.apply().structure().text()).isEqualTo("1 table and 1 column added");
  }

  @Test
  void ofAConditionThatLostTheSessionTheLossIsTold() {
    ladder.file(
        "rungs/0002-lost.sql",
        "--| when-sql: SELECT pg_terminate_backend(pg_backend_pid())\n"
            + "--| up\nSELECT 1;\n--| no way down: a test\n");
    assertThatThrownBy(ladder::apply).hasStackTraceContaining("terminating connection due to");
  }
}
