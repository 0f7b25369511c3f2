package org.wornladder.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.nio.file.Path;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;
import org.wornladder.StatementFailedException;
import org.wornladder.StatementFailedException.Failure;
import org.wornladder.TestLadder;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/** What is said of a statement that a database refuses: where in it, and what of its rows. */
class FailurePlaceTest {
  @TempDir Path root;

  private Failure failure(Kind kind, String up) {
    TestDatabase database = TestDatabase.make(kind, root);
    TestLadder ladder = TestLadder.on(database, root);
    ladder.file("rungs/0001-bins.sql", "--| up\n" + up + "\n--| down\nSELECT 1;\n");
    return catchThrowableOfType(StatementFailedException.class, ladder::apply).failure();
  }

  @ParameterizedTest
  @EnumSource
  void whatTheParserDoesNotUnderstandIsShownByLineAndColumn(Kind kind) {
    String first = "CREATE TABLE bin (id integer);\n";
    Failure failure = failure(kind, first + "SELECT id,\n  1 AS ü\n  FROM bin WHEER 3;");
    assertThat(failure.place()).startsWith("rungs/0001-bins.sql:5:");
    // WHEER may be another name of the table; H2's mark stands behind the token.
    assertThat(failure.place()).endsWith(kind == Kind.H2 ? ":19" : ":18");
  }

  @ParameterizedTest
  @EnumSource
  void aStatementAloneIsNoDifference(Kind kind) {
    Failure failure = failure(kind, "\n  CREATE TABLE bin\n  (id integer,,\n  code integer);");
    String place =
        switch (kind) {
          // It says no more than which token it is, and this one is there twice.
          case SQLITE -> "3:3";
          case POSTGRES -> "4:15";
          // Behind the token.
          case MARIADB -> "4:16";
          case H2 -> "5:3";
        };
    assertThat(failure.place()).isEqualTo("rungs/0001-bins.sql:" + place);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "CREATE VIEW light AS SELECT¶  'a' AS \uD83C\uDF4E, nowt¶FROM (SELECT 1 AS id) x;|3:14",
        "CREATE FUNCTION ripe() RETURNS integer LANGUAGE plpgsql AS $$ BEGIN¶  RETRN 1;¶END $$;|3:3",
        "CREATE FUNCTION ripe() RETURNS integer LANGUAGE sql AS $$¶SELECT¶  nope $$;|4:3",
        "DO $$ BEGIN¶  PERFORM 1;¶  PERFORM nope();¶END $$;|4:3",
        "SELECT 1;¶SELECT 2;¶SELECT nope;|4:8"
      })
  void postgresNamesTheCharacter(String up, String place) {
    Failure failure = failure(Kind.POSTGRES, up.replace('¶', '\n'));
    assertThat(failure.place()).isEqualTo("rungs/0001-bins.sql:" + place);
  }

  @ParameterizedTest
  @EnumSource
  void valuesOfARowAreNoPartOfTheMessage(Kind kind) {
    Failure failure =
        failure(
            kind,
            "CREATE TABLE bin (code varchar(20) PRIMARY KEY);\n"
                + "INSERT INTO bin VALUES ('cox-orange'), ('cox-orange');");
    assertThat(failure.message()).doesNotContain("cox-orange");
    assertThat(failure.values().isPresent()).isEqualTo(kind != Kind.SQLITE);
    failure.values().ifPresent(values -> assertThat(values).contains("cox-orange"));
  }

  @ParameterizedTest
  @EnumSource(names = "POSTGRES")
  void whatDependsIsNamed(Kind kind) {
    Failure failure =
        failure(
            kind,
            "CREATE TABLE bin (id integer);\nCREATE VIEW light AS SELECT id FROM bin;\n"
                + "DROP TABLE bin;");
    assertThat(failure.message()).contains("view light depends on table bin");
    assertThat(failure.values()).isEmpty();
  }

  @ParameterizedTest
  @EnumSource(names = "POSTGRES")
  void theFunctionInWhichItHappenedIsNamed(Kind kind) {
    Failure failure =
        failure(
            kind,
            "CREATE FUNCTION ripe() RETURNS integer LANGUAGE plpgsql AS $$ BEGIN\n"
                + "  RETURN 1 / 0;\nEND $$;\nSELECT ripe();");
    assertThat(failure.message()).isEqualTo("division by zero, in function ripe(), line 2");
    assertThat(failure.place()).isEqualTo("rungs/0001-bins.sql:5:1");
  }
}
