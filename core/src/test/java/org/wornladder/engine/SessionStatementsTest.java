package org.wornladder.engine;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.wornladder.sql.Dialects;
import org.wornladder.sql.Place;
import org.wornladder.sql.Statement;

class SessionStatementsTest {
  private static Statement statement(String text) {
    return new Statement(text, Place.of("rungs/0001-crates.sql"), Dialects.MARIADB);
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "SET @a = 1, @b := 'pear'",
        "/* first */ set foreign_key_checks = 0",
        "SET @old = @@sql_mode, sql_mode = ''",
        "SET sql_mode = replace(@@sql_mode, 'ANSI', '')",
        "USE packing",
        "ATTACH 'cold.db' AS cold",
        "SELECT pg_catalog.set_config('search_path', 'packing', false)",
        "SET NAMES utf8mb4",
        "PREPARE fill FROM @text"
      })
  void setsUpTheSame(String text) {
    assertThat(SessionStatements.setsUp(statement(text))).isTrue();
    assertThat(SessionStatements.left(statement(text))).isEmpty();
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "SET STATEMENT max_statement_time = 1 FOR INSERT INTO crate VALUES (1)",
        "INSERT INTO crate VALUES (@a)",
        "SELECT set_config('x.y', name, false) FROM crate",
        "UPDATE crate SET season = '2026'",
        "CREATE TABLE crate (id int)",
        "EXECUTE fill",
        "SET @a = (SELECT max(id) FROM crate)",
        "SET @a = last_insert_id()"
      })
  void doesMoreOrSomethingElseTheNextTime(String text) {
    assertThat(SessionStatements.setsUp(statement(text))).isFalse();
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "SET @a = (SELECT max(id) FROM crate), @b = 5 | @a @b",
        "SET @a := last_insert_id() | @a",
        "SELECT max(id), min(id) INTO @high, @low FROM crate | @high @low",
        "SELECT id INTO OUTFILE 'crates' FROM crate WHERE @a | @a",
        "CREATE TEMPORARY TABLE IF NOT EXISTS late (id int) | late",
        "CREATE OR REPLACE TEMPORARY TABLE `late one` (id int) | `late one`",
        "CREATE LOCAL TEMPORARY TABLE late (id int) | late",
        "CREATE TABLE temporary_crate (id int) | ''",
        "SELECT 1 | ''"
      })
  void whatIsGoneWithTheSession(String text, String names) {
    assertThat(String.join(" ", SessionStatements.left(statement(text)))).isEqualTo(names);
  }

  @ParameterizedTest
  @CsvSource({
    "INSERT INTO crate VALUES (@high), @high, true",
    "INSERT INTO crate VALUES (@HIGH), @high, true",
    "INSERT INTO crate VALUES (@higher), @high, false",
    "INSERT INTO crate SELECT @@high, @high, false",
    "INSERT INTO later SELECT 1, late, false",
    "INSERT INTO crate SELECT id FROM db.LATE, late, true"
  })
  void speaksOfItByName(String text, String name, boolean speaks) {
    assertThat(SessionStatements.names(statement(text), name)).isEqualTo(speaks);
  }
}
