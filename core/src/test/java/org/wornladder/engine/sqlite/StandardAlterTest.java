package org.wornladder.engine.sqlite;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.wornladder.StatementFailedException;
import org.wornladder.TestLadder;

/** Standard changes of a table that SQLite lacks: rows, and all that is on the table, stay. */
class StandardAlterTest {
  private static final String BIN =
      """
      CREATE TABLE bin ( -- crates of fruit
        id integer PRIMARY KEY AUTOINCREMENT,
        code text DEFAULT 'x' /* the label */ UNIQUE,
        weight integer NOT NULL CHECK (weight > 0),
        grower_id integer CONSTRAINT by_grower REFERENCES grower (id) ON DELETE CASCADE,
        note text,
        CONSTRAINT two UNIQUE (code, weight)
      )""";

  @TempDir Path root;
  private TestLadder ladder;

  @BeforeEach
  void tables() {
    ladder =
        new TestLadder(root)
            .rung(
                "0001-bins",
                "CREATE TABLE grower (id integer PRIMARY KEY, name text);\n"
                    + BIN
                    + ";\nCREATE INDEX bin_note ON bin (note);\n"
                    + "CREATE VIEW heavy AS SELECT code FROM bin WHERE weight > 9;\n"
                    + "CREATE TRIGGER stamp AFTER INSERT ON bin BEGIN UPDATE grower SET name = name;"
                    + " END;\n"
                    + "CREATE TABLE lid (bin_id integer REFERENCES bin (id) ON DELETE CASCADE);\n"
                    + "INSERT INTO grower VALUES (1, 'Ann');\n"
                    + "INSERT INTO bin (id, code, weight, grower_id) VALUES (7, 'a', 5, 1);\n"
                    + "INSERT INTO lid VALUES (7);",
                "SELECT 1;");
    ladder.apply();
  }

  private String text() {
    return ladder.query("SELECT sql FROM sqlite_schema WHERE name = 'bin'").get(0);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "ALTER COLUMN code SET NOT NULL|code text NOT NULL DEFAULT 'x' /* the label */ UNIQUE",
        "ALTER weight DROP NOT NULL|weight integer  CHECK (weight > 0)",
        "ALTER COLUMN weight SET DEFAULT 3|weight integer DEFAULT 3 NOT NULL CHECK (weight > 0)",
        "ALTER COLUMN code SET DEFAULT 'y'|code text DEFAULT 'y'  /* the label */ UNIQUE",
        "ALTER COLUMN code DROP DEFAULT|code text  /* the label */ UNIQUE",
        "ALTER COLUMN note SET DATA TYPE varchar(20)|note varchar(20),",
        "ALTER COLUMN note TYPE varchar(20)|note varchar(20),",
        "ADD CONSTRAINT short CHECK (length(code) < 9)|CONSTRAINT short CHECK (length(code) < 9)",
        "ADD UNIQUE (note)|UNIQUE (note)",
        "ADD CONSTRAINT owner FOREIGN KEY (note) REFERENCES grower (id)|FOREIGN KEY (note) REFERENCES grower (id)",
        "DROP CONSTRAINT by_grower|grower_id integer ,",
        "DROP CONSTRAINT two|note text",
        "DROP COLUMN note|grower_id integer",
        "DROP COLUMN code|weight integer NOT NULL",
        "ALTER COLUMN weight SET DEFAULT 3, ADD UNIQUE (weight)|weight integer DEFAULT 3"
      })
  void isCarriedOutByMakingTheTableAnew(String change, String wanted) {
    boolean viewed = change.equals("DROP COLUMN code");
    ladder.rung(
        "0002-change",
        (viewed ? "DROP VIEW heavy;\n" : "") + "ALTER TABLE bin " + change + ";",
        "SELECT 1;");
    ladder.apply();
    assertThat(text()).contains(wanted).contains("-- crates of fruit");
    assertThat(ladder.query("SELECT id || ':' || weight FROM bin")).containsExactly("7:5");
    assertThat(ladder.query("SELECT bin_id FROM lid")).containsExactly("7");
    assertThat(ladder.query("SELECT seq FROM sqlite_sequence WHERE name = 'bin'"))
        .containsExactly("7");
    assertThat(ladder.query("SELECT name FROM sqlite_schema WHERE type = 'trigger'"))
        .containsExactly("stamp");
    assertThat(ladder.query("SELECT count(*) FROM pragma_foreign_key_check")).containsExactly("0");
    assertThat(ladder.query("SELECT name FROM sqlite_schema WHERE name LIKE 'ladder_old%'"))
        .isEmpty();
  }

  @Test
  void whatRowsDoNotAllowIsUndone() {
    String before = text();
    ladder.rung("0002-change", "ALTER TABLE bin ALTER COLUMN note SET NOT NULL;", "SELECT 1;");
    assertThatThrownBy(ladder::apply)
        .isInstanceOf(StatementFailedException.class)
        .hasMessageContaining("NOT NULL constraint failed: bin.note");
    assertThat(text()).isEqualTo(before);
    assertThat(ladder.query("SELECT bin_id FROM lid")).containsExactly("7");
  }

  @ParameterizedTest
  @CsvSource({
    "ALTER TABLE bin ALTER COLUMN crate SET NOT NULL",
    "ALTER TABLE bin DROP CONSTRAINT nonsense",
    "ALTER TABLE bin ALTER COLUMN note BECOME text",
    "ALTER TABLE crate ALTER COLUMN note SET NOT NULL"
  })
  void whatCannotBeMeantIsRefusedBySqliteItself(String statement) {
    ladder.rung("0002-change", statement + ";", "SELECT 1;");
    assertThatThrownBy(ladder::apply).isInstanceOf(StatementFailedException.class);
  }
}
