package org.wornladder.engine;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.wornladder.engine.mariadb.MariadbEngine;
import org.wornladder.engine.postgres.PostgresEngine;
import org.wornladder.sql.Place;
import org.wornladder.sql.Statement;

/** Which statements reach out of their database, and where a scratch database's URL leads. */
class ExternalStatementsTest {
  private static String reached(Engine engine, String sql) {
    return engine.reachesOut(new Statement(sql, Place.of("test"), engine.dialect())).orElse("");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "CREATE ROLE reader|role",
        "create user reader|user",
        "ALTER SYSTEM SET work_mem = 1|system",
        "DROP DATABASE other|database",
        "COMMENT ON DATABASE other IS 'x'|database",
        "CREATE USER MAPPING FOR reader SERVER far|user mapping",
        "CREATE FOREIGN DATA WRAPPER near|foreign data",
        "GRANT pg_monitor TO reader|roles of the server",
        "GRANT SELECT ON bin TO reader|''",
        "CREATE TABLE role (id int)|''",
        "CREATE SCHEMA audit|''",
        "CREATE OR REPLACE VIEW server AS SELECT 1|''",
        "INSERT INTO bin SELECT 1|''"
      })
  void ofPostgres(String sql, String reached) {
    assertThat(reached(new PostgresEngine(), sql)).isEqualTo(reached);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "CREATE USER reader|user",
        "GRANT SELECT ON bin TO reader|roles of the server",
        "USE other|another database",
        "CREATE TABLE other.bin (id int)|the database other",
        "INSERT INTO other . bin VALUES (1)|the database other",
        "CREATE VIEW v AS SELECT 1 FROM other.bin|the database other",
        "CREATE TABLE t (id int REFERENCES other.bin (id))|the database other",
        "SELECT a.id FROM bin a JOIN crate b ON a.id = b.id|''",
        "UPDATE bin SET bin.n = 1|''",
        "CREATE INDEX i ON bin (n)|''"
      })
  void ofMariadb(String sql, String reached) {
    assertThat(reached(new MariadbEngine(), sql)).isEqualTo(reached);
  }

  @ParameterizedTest
  @CsvSource({
    "postgres://u:p@host:5432/live?sslmode=require, postgres://u:p@host:5432/s?sslmode=require",
    "postgres://host, postgres://host/s",
    "jdbc:postgresql:live, jdbc:postgresql:s",
    "jdbc:mariadb://a:1/live?user=u&password=a/b, jdbc:mariadb://a:1/s?user=u&password=a/b"
  })
  void theUrlOfAnotherDatabase(String url, String other) {
    assertThat(ServerScratch.withDatabase(url, "s")).isEqualTo(other);
  }
}
