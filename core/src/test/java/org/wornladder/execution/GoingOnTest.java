package org.wornladder.execution;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.wornladder.RefusedException;
import org.wornladder.RollbackOptions;
import org.wornladder.StatementFailedException;
import org.wornladder.TestLadder;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/** A rung that goes on in another session finds there what it had set up in the first one. */
class GoingOnTest {
  @TempDir Path root;
  private TestDatabase database;
  private TestLadder ladder;

  private void rung(Kind kind, String header, String... statements) {
    database = TestDatabase.make(kind, root);
    ladder = TestLadder.on(database, root);
    String up = String.join(";\n", statements) + ";\n";
    ladder.file(
        "rungs/0001-crates.sql",
        header + "--| up\n" + up + "--| down\nDROP TABLE IF EXISTS crate;\n");
  }

  /** Until somebody makes the table that is missing, it stops there. */
  private void stopsAndGoesOn() {
    assertThatThrownBy(ladder::apply)
        .isInstanceOf(StatementFailedException.class)
        .message()
        .containsIgnoringCase("missing");
    database.execute("CREATE TABLE missing (id integer)");
    ladder.apply();
    assertThat(ladder.open().status(Optional.of("dev")).at()).isEqualTo(1);
  }

  @Test
  void onMariadbVariablesChecksAndPreparedStatements() {
    rung(
        Kind.MARIADB,
        "",
        "SET @season = '2026', @crates := 3",
        "SET @checks = @@foreign_key_checks, foreign_key_checks = 0",
        "CREATE TABLE crate (season varchar(9), checks int, crates int)",
        "PREPARE fill FROM 'INSERT INTO crate VALUES (?, @@foreign_key_checks, @crates)'",
        "INSERT INTO missing VALUES (1)",
        "EXECUTE fill USING @season",
        "SET foreign_key_checks = @checks",
        "INSERT INTO crate VALUES ('later', @@foreign_key_checks, @crates)");
    stopsAndGoesOn();
    assertThat(database.query("SELECT concat_ws(' ', season, checks, crates) FROM crate"))
        .containsExactly("2026 0 3", "later 1 3");
  }

  @Test
  void onMariadbWhatWasWorkedOutIsNotWorkedOutAgain() {
    rung(
        Kind.MARIADB,
        "",
        "CREATE TABLE crate (id integer)",
        "INSERT INTO crate VALUES (7)",
        "SELECT max(id) INTO @highest FROM crate",
        "INSERT INTO crate VALUES (8)",
        "INSERT INTO missing VALUES (1)",
        "DELETE FROM crate WHERE id > @highest");
    assertThatThrownBy(ladder::apply).isInstanceOf(StatementFailedException.class);
    database.execute("CREATE TABLE missing (id integer)");
    assertThatThrownBy(ladder::apply)
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("0001 cannot go on")
        .hasMessageContaining("@highest");
    assertThat(database.query("SELECT count(*) FROM crate")).containsExactly("2");
    ladder.rollback(new RollbackOptions.To(0));
    ladder.apply();
    assertThat(database.query("SELECT id FROM crate")).containsExactly("7");
  }

  @Test
  void onMariadbATemporaryTableThatIsDoneWithIsNotMissed() {
    rung(
        Kind.MARIADB,
        "",
        "CREATE TEMPORARY TABLE IF NOT EXISTS `late` AS SELECT 7 AS id",
        "CREATE TABLE crate AS SELECT id FROM late",
        "INSERT INTO missing VALUES (1)",
        "INSERT INTO crate VALUES (8) /* later */");
    stopsAndGoesOn();
    assertThat(database.query("SELECT id FROM crate ORDER BY id")).containsExactly("7", "8");
  }

  @Test
  void onPostgresOutsideATransactionPathAndRole() {
    rung(
        Kind.POSTGRES,
        "--| run: outside-transaction\n",
        "CREATE SCHEMA packing",
        "SET search_path = packing, public",
        "SELECT set_config('lock_timeout', '7s', false)",
        "CREATE TABLE crate (waits text)",
        "INSERT INTO missing VALUES (1)",
        "INSERT INTO crate SELECT current_setting('lock_timeout')",
        "CREATE INDEX CONCURRENTLY crate_waits ON crate (waits)");
    stopsAndGoesOn();
    assertThat(database.query("SELECT waits FROM packing.crate")).containsExactly("7s");
    assertThat(database.query("SELECT schemaname FROM pg_indexes WHERE tablename = 'crate'"))
        .containsExactly("packing");
  }

  @Test
  void onPostgresATemporaryTable() {
    rung(
        Kind.POSTGRES,
        "--| run: outside-transaction\n",
        "CREATE TEMP TABLE late AS SELECT 7 AS id",
        "INSERT INTO missing VALUES (1)",
        "CREATE TABLE crate AS SELECT id FROM LATE");
    assertThatThrownBy(ladder::apply).isInstanceOf(StatementFailedException.class);
    database.execute("CREATE TABLE missing (id integer)");
    assertThatThrownBy(ladder::apply)
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("what it had put into late went with the session");
  }

  @Test
  void onSqliteAnotherDatabaseAndWhatItDoesNotCheck() {
    rung(
        Kind.SQLITE,
        "--| run: outside-transaction\n",
        "ATTACH ':memory:' AS cold",
        "PRAGMA foreign_keys = OFF",
        "CREATE TABLE crate (id integer, checked integer)",
        "INSERT INTO missing VALUES (1)",
        "CREATE TABLE cold.late (id integer)",
        "INSERT INTO crate SELECT 7, foreign_keys FROM pragma_foreign_keys");
    stopsAndGoesOn();
    assertThat(database.query("SELECT id || ' ' || checked FROM crate")).containsExactly("7 0");
  }

  @Test
  void onH2SchemaAndVariables() {
    rung(
        Kind.H2,
        "",
        "CREATE SCHEMA packing",
        "CREATE TABLE crate (season varchar(9), place varchar(20))",
        "SET @season = '2026'",
        "SET SCHEMA packing",
        "INSERT INTO public.missing VALUES (1)",
        "INSERT INTO public.crate VALUES (@season, current_schema)");
    stopsAndGoesOn();
    assertThat(database.query("SELECT concat_ws(' ', season, place) FROM crate"))
        .containsExactly("2026 PACKING");
  }
}
