package org.wornladder.engine;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.wornladder.ApplyOptions;
import org.wornladder.RunListener;
import org.wornladder.TestLadder;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/** Whatever a rung says of its session, the next one finds it as it was. */
class SessionBetweenRungsTest {
  @TempDir Path root;

  /** What a session is like, in one line. */
  private static String state(Kind kind) {
    return switch (kind) {
      case POSTGRES ->
          "SELECT concat_ws(' ', current_user, current_schema(), current_setting('TimeZone'),"
              + " current_setting('lock_timeout'), current_setting('work_mem'),"
              + " to_regclass('pg_temp.crate'))";
      case MARIADB ->
          "SELECT concat_ws(' ', current_role(), database(), @@time_zone, @@sql_mode,"
              + " @@lock_wait_timeout, @@innodb_lock_wait_timeout, @@foreign_key_checks,"
              + " @@default_storage_engine, @@sql_safe_updates)";
      case H2 ->
          "SELECT concat_ws(' ', current_schema, lock_timeout(), @crate,"
              + " (SELECT setting_value FROM information_schema.settings"
              + " WHERE setting_name = 'TIME ZONE'), (SELECT count(*)"
              + " FROM information_schema.session_state WHERE state_key LIKE 'TABLE%'))";
      case SQLITE -> "SELECT foreign_keys FROM pragma_foreign_keys";
    };
  }

  private static List<String> changes(Kind kind, String role) {
    return switch (kind) {
      case POSTGRES ->
          List.of(
              "CREATE TEMPORARY TABLE crate (id int)",
              "SET search_path = pg_catalog",
              "SET TIME ZONE 'Asia/Tokyo'",
              "SET lock_timeout = '7s'",
              "SET work_mem = '9MB'",
              "SET ROLE " + role);
      case MARIADB ->
          List.of(
              "SET ROLE " + role,
              "SET time_zone = '+09:00'",
              "SET sql_mode = ''",
              "SET lock_wait_timeout = 7",
              "SET innodb_lock_wait_timeout = 7",
              "SET foreign_key_checks = 0",
              "SET default_storage_engine = 'MEMORY'",
              "SET sql_safe_updates = 1",
              "USE information_schema");
      case H2 ->
          List.of(
              "CREATE SCHEMA packing",
              "CREATE LOCAL TEMPORARY TABLE crate (id int)",
              "SET @crate = 5",
              "SET LOCK_TIMEOUT 7000",
              "SET TIME ZONE 'Asia/Tokyo'",
              "SET SCHEMA_SEARCH_PATH packing",
              "SET SCHEMA packing");
      case SQLITE -> List.of("PRAGMA foreign_keys = OFF");
    };
  }

  @ParameterizedTest
  @CsvSource({"POSTGRES, false", "POSTGRES, true", "MARIADB, false", "H2, false", "SQLITE, false"})
  void isAsItWas(Kind kind, boolean together) {
    TestDatabase database = TestDatabase.make(kind, root);
    String role = "packer_" + Long.toHexString(System.nanoTime());
    boolean roles = kind == Kind.POSTGRES || kind == Kind.MARIADB;
    if (roles) {
      database.execute("CREATE ROLE " + role);
    }
    String note = "INSERT INTO seen (step, what) VALUES (STEP, (" + state(kind) + "));";
    String outside = kind == Kind.SQLITE ? "--| run: outside-transaction\n" : "";
    TestLadder ladder = TestLadder.on(database, root);
    ladder
        .rung(
            "0001-seen",
            "CREATE TABLE seen (step int, what varchar(500));\n" + note.replace("STEP", "1"),
            "DROP TABLE seen;")
        .file(
            "rungs/0002-changes.sql",
            outside
                + "--| up\n"
                + String.join(";\n", changes(kind, role))
                + ";\n--| no way down: it is over with the rung\n");
    ladder.rung("0003-seen-again", note.replace("STEP", "2"), "DELETE FROM seen WHERE step = 2;");
    try {
      ladder
          .open()
          .apply(
              Optional.of("dev"),
              new ApplyOptions(OptionalLong.empty(), together, Optional.empty()),
              TestLadder.YES,
              RunListener.SILENT);
      assertThat(database.query("SELECT count(*) FROM seen WHERE what IS NOT NULL"))
          .containsExactly("2");
      assertThat(database.query("SELECT DISTINCT what FROM seen")).hasSize(1);
      assertThat(ladder.open().history(Optional.of("dev")).history().broken()).isEmpty();
    } finally {
      if (roles) {
        database.execute("DROP ROLE " + role);
      }
    }
  }
}
