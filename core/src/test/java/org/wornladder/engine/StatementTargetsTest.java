package org.wornladder.engine;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.wornladder.engine.StatementTarget.Change;
import org.wornladder.engine.StatementTarget.Kind;
import org.wornladder.engine.StatementTarget.Name;
import org.wornladder.sql.Dialect;
import org.wornladder.sql.Dialects;
import org.wornladder.sql.Place;
import org.wornladder.sql.Statement;

/** What a statement leaves behind, read off its first words. */
class StatementTargetsTest {
  private static Statement statement(String text) {
    return statement(text, Dialects.MARIADB);
  }

  private static Statement statement(String text, Dialect dialect) {
    return new Statement(text, Place.of("test"), dialect);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "CREATE TABLE bin (id integer)                      | MAKES  | TABLE     | bin     | ''",
        "create table `farm`.`Bin x` (id integer)           | MAKES  | TABLE     | farm.Bin x | ''",
        "CREATE TABLE IF NOT EXISTS bin (id integer)        | MAKES  | TABLE     | bin     | ''",
        "CREATE UNIQUE INDEX bin_code ON bin (code)         | MAKES  | INDEX     | bin_code | bin",
        "ALTER TABLE /* wide */ bin ADD COLUMN w integer    | ALTERS | TABLE     | bin     | ''",
        "DROP INDEX bin_code ON bin                         | DROPS  | INDEX     | bin_code | bin",
        "DROP VIEW IF EXISTS light                          | DROPS  | VIEW      | light   | ''",
        "CREATE OR REPLACE PROCEDURE fill() BEGIN END       | MAKES  | PROCEDURE | fill    | ''",
        "CREATE TRIGGER t BEFORE INSERT ON bin FOR EACH ROW SET NEW.id = 1 | MAKES | TRIGGER | t | bin"
      })
  void itsThingIsKnown(String text, Change change, Kind kind, String name, String table) {
    assertThat(StatementTargets.of(statement(text)))
        .hasValueSatisfying(
            thing -> {
              assertThat(thing.change()).isEqualTo(change);
              assertThat(thing.kind()).isEqualTo(kind);
              assertThat(thing.name().text()).isEqualTo(name);
              assertThat(thing.table().text()).isEqualTo(table);
            });
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "DROP TABLE a, b",
        "RENAME TABLE a TO b",
        "ALTER TABLE a RENAME TO b",
        "INSERT INTO bin VALUES (1)",
        "CALL fill(3)",
        "CREATE TEMPORARY TABLE t (id integer)",
        "TRUNCATE TABLE bin"
      })
  void whatIsNotOneThingIsLeftToAPerson(String text) {
    assertThat(StatementTargets.of(statement(text))).isEmpty();
    assertThat(StatementTargets.isRepeatable(statement(text))).isFalse();
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "VACUUM bin",
        "CREATE OR REPLACE VIEW light AS SELECT 1",
        "DROP TABLE IF EXISTS bin",
        "CREATE TABLE IF NOT EXISTS bin (id integer)",
        "GRANT SELECT ON bin TO reader"
      })
  void whatMayRunTwiceIsNeverInDoubt(String text) {
    assertThat(StatementTargets.isRepeatable(statement(text))).isTrue();
  }

  @Test
  void plainNamesAreFoldedWhereTheEngineFoldsThem() {
    Statement index =
        statement("CREATE INDEX CONCURRENTLY Bin_Code ON \"Bin\" (code)", Dialects.POSTGRES);
    assertThat(StatementTargets.of(index))
        .contains(
            new StatementTarget(
                Change.MAKES, Kind.INDEX, new Name("", "bin_code"), new Name("", "Bin")));
  }

  @Test
  void aDotInsideQuotesPartsNothing() {
    Statement table = statement("CREATE TABLE `farm`.`a.b` (id integer)");
    assertThat(StatementTargets.of(table).orElseThrow().name()).isEqualTo(new Name("farm", "a.b"));
    assertThat(StatementTargets.of(statement("DROP TABLE `.`")).orElseThrow().name())
        .isEqualTo(new Name("", "."));
  }
}
