package org.wornladder.engine.sqlite;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.wornladder.StatementFailedException;
import org.wornladder.TestLadder;

/** Tables that a rung makes anew: foreign keys are off for it, and proved before it commits. */
class RebuiltTableTest {
  @TempDir Path root;
  private TestLadder ladder;

  @BeforeEach
  void twoTables() {
    ladder =
        new TestLadder(root)
            .rung(
                "0001-bins",
                "CREATE TABLE grower (id integer PRIMARY KEY, name text);"
                    + "CREATE TABLE bin (code text PRIMARY KEY, grower_id integer NOT NULL"
                    + " REFERENCES grower (id) ON DELETE CASCADE);"
                    + "INSERT INTO grower VALUES (1, 'Ann');"
                    + "INSERT INTO bin VALUES ('a', 1);",
                "DROP TABLE bin; DROP TABLE grower;");
    ladder.apply();
  }

  private void rebuild(String copied) {
    ladder.rung(
        "0002-growers",
        "PRAGMA foreign_keys = OFF;"
            + "CREATE TABLE grower_new (id integer PRIMARY KEY, name text NOT NULL);"
            + copied
            + "DROP TABLE grower;"
            + "ALTER TABLE grower_new RENAME TO grower;",
        "SELECT 1;");
  }

  @Test
  void rowsThatPointToItStayAndForeignKeysAreOnAgain() {
    rebuild("INSERT INTO grower_new SELECT id, name FROM grower;");
    ladder.rung(
        "0003-keys",
        "CREATE TABLE was AS SELECT foreign_keys FROM pragma_foreign_keys;",
        "DROP TABLE was;");
    ladder.apply();
    assertThat(ladder.query("SELECT code FROM bin")).containsExactly("a");
    assertThat(ladder.query("SELECT foreign_keys FROM was")).containsExactly("1");
  }

  @Test
  void aRungThatLeavesRowsPointingNowhereIsUndone() {
    rebuild("");
    assertThatThrownBy(ladder::apply)
        .isInstanceOf(StatementFailedException.class)
        .hasMessageContaining("1 row of bin would point to no row of grower");
    assertThat(ladder.query("SELECT name FROM grower")).containsExactly("Ann");
    assertThat(ladder.query("SELECT code FROM bin")).containsExactly("a");
  }

  @Test
  void whatWasBrokenBeforeIsNoReasonToRefuse() {
    ladder.execute("INSERT INTO bin VALUES ('b', 7)");
    rebuild("INSERT INTO grower_new SELECT id, name FROM grower;");
    ladder.apply();
    assertThat(ladder.query("SELECT code FROM bin ORDER BY 1")).containsExactly("a", "b");
  }
}
