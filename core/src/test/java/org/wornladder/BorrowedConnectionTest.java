package org.wornladder;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.zaxxer.hikari.HikariConfig;
import com.zaxxer.hikari.HikariDataSource;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.wornladder.server.SqlDataSource;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/** Connections of a program's own pool, which go back to it as they came. */
class BorrowedConnectionTest {
  private static final Optional<String> DEV = Optional.of("dev");
  @TempDir Path root;

  @ParameterizedTest
  @EnumSource
  void scratchDatabasesAreOthers(Kind kind) throws Exception {
    TestDatabase database = TestDatabase.make(kind, root);
    TestLadder project = TestLadder.on(database, root);
    project.rung("0001-bins", "CREATE TABLE bin (id integer PRIMARY KEY);", "DROP TABLE bin;");
    Ladder ladder =
        Ladder.builder()
            .project(root)
            .environment("dev", new SqlDataSource(database.url()))
            .build();
    ladder.apply(DEV, ApplyOptions.ALL);
    database.execute("INSERT INTO bin VALUES (7)");
    project.rung(
        "0002-crates",
        "DELETE FROM bin; CREATE TABLE crate (id integer PRIMARY KEY);",
        "DROP TABLE crate;");
    List<String> events = database.events();
    Ladder again =
        Ladder.builder()
            .project(root)
            .environment("dev", new SqlDataSource(database.url()))
            .build();
    if (kind == Kind.MARIADB) {
      // Its driver does not give the password away with which a scratch database could be opened.
      assertThatThrownBy(() -> again.rehearse(DEV, RehearseOptions.EXPECTED))
          .hasMessageContaining("a scratch database needs connections of its own");
    } else {
      again.rehearse(DEV, RehearseOptions.EXPECTED);
    }
    assertThat(database.query("SELECT id FROM bin")).containsExactly("7");
    assertThat(database.events()).isEqualTo(events);
  }

  /** A query for all settings of a session as one text. */
  private static String state(Kind kind) {
    return switch (kind) {
      case POSTGRES ->
          "SELECT string_agg(name || '=' || setting, ' ' ORDER BY name) || current_user ||"
              + " session_user FROM pg_settings WHERE name NOT LIKE 'transaction%'";
      case MARIADB ->
          "SELECT concat(group_concat(variable_name, '=', session_value ORDER BY variable_name),"
              + " database()) FROM information_schema.system_variables WHERE variable_name NOT IN"
              + " ('TIMESTAMP', 'LAST_INSERT_ID', 'IDENTITY', 'RAND_SEED1', 'RAND_SEED2',"
              + " 'LAST_GTID', 'INSERT_ID', 'ERROR_COUNT', 'WARNING_COUNT', 'IN_TRANSACTION') AND"
              + " variable_name NOT LIKE 'GTID%'";
      case H2 ->
          "SELECT lock_timeout() || current_schema || (SELECT setting_value FROM"
              + " information_schema.settings WHERE setting_name = 'TIME ZONE')";
      case SQLITE ->
          "SELECT (SELECT * FROM pragma_foreign_keys) || ' ' || (SELECT * FROM"
              + " pragma_busy_timeout) || ' ' || (SELECT * FROM pragma_query_only) || ' ' ||"
              + " (SELECT * FROM pragma_journal_mode)";
    };
  }

  /** What the program sets in its connection, and what a rung leaves in it. */
  private static List<String> settings(Kind kind) {
    return switch (kind) {
      case POSTGRES ->
          List.of("SET timezone = 'Asia/Tokyo'; SET lock_timeout = '7s'", "SET work_mem = '8MB';");
      case MARIADB ->
          List.of(
              "SET SESSION time_zone = '+09:00', sql_mode = 'ANSI_QUOTES', group_concat_max_len ="
                  + " 1000000",
              "SET sql_mode = 'NO_BACKSLASH_ESCAPES'; SET NAMES latin1;");
      case H2 -> List.of("SET LOCK_TIMEOUT 4711", "SET LOCK_TIMEOUT 3;");
      case SQLITE -> List.of("PRAGMA busy_timeout = 4711", "PRAGMA busy_timeout = 3;");
    };
  }

  @ParameterizedTest
  @EnumSource
  void goBackToThePoolAsTheyCame(Kind kind) throws Exception {
    TestDatabase database = TestDatabase.make(kind, root);
    TestLadder project = TestLadder.on(database, root);
    project.rung(
        "0001-bins",
        settings(kind).get(1) + " CREATE TABLE bin (id integer PRIMARY KEY, at timestamp);",
        "DROP TABLE bin;");
    project.file("seeds/bin.csv", "id,at\n1,2026-08-31T06:30:00Z\n");
    project.file(
        "ladder.yaml",
        "name: hollowfield\nenvironments:\n  dev: { url: '"
            + database.url()
            + "', lock-timeout: 2s }\nseeds: [{ table: bin }]\n");
    HikariConfig config = new HikariConfig();
    config.setJdbcUrl(database.url());
    config.setMaximumPoolSize(1);
    config.setAutoCommit(false);
    try (HikariDataSource pool = new HikariDataSource(config)) {
      String before;
      try (Connection connection = pool.getConnection();
          Statement sql = connection.createStatement()) {
        for (String one : settings(kind).get(0).split("; ")) {
          sql.execute(one);
        }
        connection.commit();
        before = one(connection, state(kind));
      }
      Ladder ladder = Ladder.builder().project(root).environment("dev", pool).build();
      ladder.status(DEV);
      assertSame(pool, kind, before, "status");
      ladder.apply(DEV, ApplyOptions.ALL);
      assertSame(pool, kind, before, "apply");
      ladder.seed(DEV, SeedOptions.ALL);
      project.file("seeds/bin.csv", "id,at\n1,2026-08-31T06:31:00Z\n");
      ladder.seed(DEV, SeedOptions.ALL);
      assertSame(pool, kind, before, "seed");
      assertThat(ladder.drift(DEV, Against.EXPECTED, true)).matches(DriftReport::isClean);
      assertSame(pool, kind, before, "drift");
      try (Connection connection = pool.getConnection();
          Statement sql = connection.createStatement()) {
        assertThat(connection.getAutoCommit()).isFalse();
        sql.execute("INSERT INTO bin (id) VALUES (2)");
        connection.commit();
      }
      ladder.rollback(
          DEV, RollbackOptions.builder().last(1).build(), TestLadder.YES, RunListener.SILENT);
      assertSame(pool, kind, before, "rollback");
    }
  }

  private static void assertSame(HikariDataSource pool, Kind kind, String before, String after)
      throws SQLException {
    try (Connection connection = pool.getConnection()) {
      assertThat(one(connection, state(kind))).as(after).isEqualTo(before);
    }
  }

  private static String one(Connection connection, String query) throws SQLException {
    try (Statement sql = connection.createStatement();
        ResultSet row = sql.executeQuery(query)) {
      row.next();
      return row.getString(1);
    }
  }

  @ParameterizedTest
  @EnumSource(
      mode = EnumSource.Mode.INCLUDE,
      names = {"POSTGRES", "MARIADB"})
  void thatOnlyReadAreRefusedBeforeAnythingIsDone(Kind kind) {
    TestDatabase database = TestDatabase.make(kind, root);
    TestLadder.on(database, root).tables(3);
    HikariConfig config = new HikariConfig();
    config.setJdbcUrl(database.url());
    config.setReadOnly(true);
    try (HikariDataSource pool = new HikariDataSource(config)) {
      Ladder ladder = Ladder.builder().project(root).environment("dev", pool).build();
      assertThat(ladder.status(DEV).waiting()).isEqualTo(3);
      assertThatThrownBy(() -> ladder.apply(DEV, ApplyOptions.ALL))
          .isInstanceOf(UnreachableException.class)
          .hasMessageContaining("connections that only read");
    }
  }
}
