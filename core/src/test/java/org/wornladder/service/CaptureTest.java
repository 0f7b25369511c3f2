package org.wornladder.service;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.zonky.test.db.postgres.embedded.EmbeddedPostgres;
import java.nio.file.Path;
import java.util.Optional;
import org.junit.jupiter.api.Assumptions;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.wornladder.CapturedCallers;
import org.wornladder.RefusedException;
import org.wornladder.RehearseOptions;
import org.wornladder.TestLadder;
import org.wornladder.server.MariadbServer;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;
import org.wornladder.sql.Dialects;

/** Callers out of the statistics of the servers that keep some. */
class CaptureTest {
  private static final Optional<String> DEV = Optional.of("dev");

  @TempDir Path root;

  private void countsAndRehearses(TestDatabase database) {
    TestLadder ladder = TestLadder.on(database, root);
    ladder.rung(
        "0001-bins", "CREATE TABLE bin (id integer PRIMARY KEY, w integer);", "DROP TABLE bin;");
    ladder.apply();
    for (int i = 0; i < 3; i++) {
      database.query("SELECT w FROM bin WHERE id = " + i + " AND w < 7");
    }
    database.execute("INSERT INTO bin (id, w) VALUES (1, 2)");
    CapturedCallers captured = ladder.open().captureCallers(DEV);
    assertThat(captured.isComplete()).isTrue();
    assertThat(captured.statements())
        .anyMatch(
            one -> one.replaceAll("[`\" ]", "").matches("(?i)SELECTwFROMbinWHEREid=:p1ANDw<:p2"))
        .anyMatch(one -> one.startsWith("INSERT INTO") && one.contains(":p2"))
        .noneMatch(one -> one.contains("ladder_journal") || one.contains("CREATE TABLE"));
    ladder.file("callers/counted.sql", captured.text());
    ladder.rung("0002-weights", "ALTER TABLE bin DROP COLUMN w;", "SELECT 1;");
    assertThat(ladder.open().rehearse(DEV, RehearseOptions.EXPECTED).rungs().get(0).brokenCallers())
        .isNotEmpty()
        .allMatch(caller -> caller.place().startsWith("callers/counted.sql"));
  }

  @Test
  void postgresWithItsExtension() throws Exception {
    try (EmbeddedPostgres server =
        EmbeddedPostgres.builder()
            .setServerConfig("shared_preload_libraries", "pg_stat_statements")
            .setServerConfig("fsync", "off")
            .start()) {
      TestDatabase database =
          new TestDatabase(Kind.POSTGRES, server.getJdbcUrl("postgres", "postgres"));
      database.execute("CREATE SCHEMA counted");
      database.execute("CREATE EXTENSION pg_stat_statements SCHEMA counted");
      countsAndRehearses(database);
    }
  }

  @Test
  void mariadbWithItsPerformanceSchema() {
    Assumptions.assumeTrue(MariadbServer.isOurs());
    // The other tests fill the server's statistics, which then count no new statements.
    MariadbServer.execute("TRUNCATE TABLE performance_schema.events_statements_summary_by_digest");
    countsAndRehearses(TestDatabase.make(Kind.MARIADB, root));
  }

  @Test
  void fullStatisticsAreSaid() throws Exception {
    try (EmbeddedPostgres server =
        EmbeddedPostgres.builder()
            .setServerConfig("shared_preload_libraries", "pg_stat_statements")
            .setServerConfig("pg_stat_statements.max", "100")
            .setServerConfig("fsync", "off")
            .start()) {
      TestDatabase database =
          new TestDatabase(Kind.POSTGRES, server.getJdbcUrl("postgres", "postgres"));
      database.execute("CREATE EXTENSION pg_stat_statements");
      TestLadder ladder = TestLadder.on(database, root).tables(1);
      ladder.apply();
      for (int i = 1; i < 150; i++) {
        database.query("SELECT 1" + ", 1".repeat(i));
      }
      assertThat(ladder.open().captureCallers(DEV).isComplete()).isFalse();
    }
  }

  @ParameterizedTest
  @EnumSource(mode = EnumSource.Mode.EXCLUDE, names = "MARIADB")
  void whereNothingIsCountedItIsSaidWhatWouldCount(Kind kind) {
    TestLadder ladder = TestLadder.on(TestDatabase.make(kind, root), root).tables(1);
    ladder.apply();
    assertThatThrownBy(() -> ladder.open().captureCallers(DEV))
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("statements");
  }

  @Test
  void marksInTextsStay() {
    assertThat(
            CaptureService.withParameters(
                "SELECT '$1 ?', $1 FROM \"a?\" WHERE b = $2", Dialects.POSTGRES))
        .isEqualTo("SELECT '$1 ?', :p1 FROM \"a?\" WHERE b = :p2");
  }
}
