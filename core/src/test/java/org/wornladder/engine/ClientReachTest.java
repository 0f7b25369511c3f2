package org.wornladder.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.wornladder.Ladder;
import org.wornladder.ProjectException;
import org.wornladder.TestLadder;
import org.wornladder.UnreachableException;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/** A rung reaches its database, and nothing of the machine where the tool runs. */
class ClientReachTest {
  @TempDir Path root;

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '\u0001',
      value = {
        "MARIADB|LOAD DATA LOCAL INFILE '/etc/passwd' INTO TABLE bin",
        "MARIADB|LOAD /* x */ DATA LOW_PRIORITY LOCAL INFILE '/etc/passwd' INTO TABLE bin",
        "MARIADB|LOAD XML LOCAL INFILE '/etc/passwd' INTO TABLE bin",
        "MARIADB|/*! LOAD DATA LOCAL INFILE '/etc/passwd' INTO TABLE bin */",
        "SQLITE|ATTACH 'other.db' AS other",
        "SQLITE|VACUUM INTO 'copy.db'",
        "SQLITE|SELECT load_extension('x.so')",
        "H2|RUNSCRIPT FROM 'x.sql'",
        "H2|SCRIPT TO 'x.sql'",
        "H2|BACKUP TO 'x.zip'",
        "H2|INSERT INTO bin SELECT * FROM CSVREAD('x.csv')",
        "H2|CALL CSVWRITE('x.csv', 'SELECT 1')",
        "H2|INSERT INTO bin VALUES (FILE_READ('/etc/passwd'))",
        "H2|SELECT \"FILE_READ\"('/etc/passwd')",
        "H2|CREATE ALIAS leave FOR \"java.lang.System.exit\"",
        "H2|CREATE OR REPLACE ALIAS leave AS $$ void leave() {} $$",
        "H2|CREATE LINKED TABLE other ('', 'jdbc:h2:mem:', '', '', 'x')",
      })
  void whatReachesTheMachineIsRefusedUnlessTheEnvironmentAllowsIt(Kind kind, String sql) {
    TestDatabase database = TestDatabase.make(kind, root);
    TestLadder ladder = TestLadder.on(database, root);
    ladder.file(
        "rungs/0001-bins.sql",
        "--| run: outside-transaction\n--| up\n" + sql + ";\n--| down\nSELECT 1;\n");
    assertThatThrownBy(ladder::apply)
        .isInstanceOf(ProjectException.class)
        .hasMessageContaining("this ");
    assertThat(Ladder.check(root).problems()).anyMatch(problem -> problem.isError());
    ladder.settings(database, ", client-files: allow");
    assertThat(Ladder.check(root).problems()).noneMatch(problem -> problem.isError());
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "MARIADB|CREATE TABLE bin (local int, data varchar(9))",
        "H2|CREATE TABLE bin (alias int, linked int)",
        "SQLITE|CREATE TABLE bin (attach int)"
      })
  void wordsAloneAreNoReason(Kind kind, String sql) {
    TestLadder ladder = TestLadder.on(TestDatabase.make(kind, root), root);
    ladder.rung("0001-bins", sql + ";", "DROP TABLE bin;");
    assertThat(ladder.apply().done()).hasSize(1);
  }

  @Test
  void aConditionReachesNoMoreThanAStatement() {
    TestDatabase database = TestDatabase.make(Kind.H2, root);
    TestLadder ladder = TestLadder.on(database, root);
    ladder.file(
        "rungs/0001-bins.sql",
        "--| when-sql: SELECT length(FILE_READ('ladder.yaml'))\n--| up\nSELECT 1;\n--| down\nSELECT 1;\n");
    assertThatThrownBy(ladder::apply)
        .isInstanceOf(ProjectException.class)
        .hasMessageContaining("a file of this machine");
  }

  @Test
  void aUrlThatRunsStatementsIsRefused() {
    TestDatabase database = TestDatabase.make(Kind.H2, root);
    TestDatabase running =
        new TestDatabase(Kind.H2, database.url() + ";INIT=CREATE TABLE sneak (id integer)");
    TestLadder ladder = TestLadder.on(running, root).tables(1);
    assertThatThrownBy(ladder::apply)
        .isInstanceOf(UnreachableException.class)
        .hasMessageContaining("the url holds INIT=");
    ladder.settings(running, ", client-files: allow").apply();
  }
}
