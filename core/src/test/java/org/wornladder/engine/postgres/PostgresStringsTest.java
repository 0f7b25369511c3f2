package org.wornladder.engine.postgres;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.wornladder.TestLadder;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/** A value stays a value where a backslash escapes in plain strings, by whoever's setting. */
class PostgresStringsTest {
  private static final String HARMFUL = "\\'); DROP TABLE bin; --";

  @TempDir Path root;

  @ParameterizedTest
  @ValueSource(strings = {"", "SET standard_conforming_strings = off;"})
  void aValueCannotLeaveItsString(String before) {
    TestDatabase database = TestDatabase.make(Kind.POSTGRES, root);
    database.execute(
        "DO $$ BEGIN EXECUTE format('ALTER DATABASE %I SET standard_conforming_strings = off',"
            + " current_database()); END $$");
    TestLadder ladder = TestLadder.on(database, root);
    ladder.file(
        "ladder.yaml",
        ladder.text("ladder.yaml")
            + "values: { word: \""
            + HARMFUL.replace("\\", "\\\\")
            + "\" }\n");
    ladder
        .rung("0001-bins", "CREATE TABLE bin (word text);", "DROP TABLE bin;")
        .rung(
            "0002-words",
            before + "INSERT INTO bin VALUES (@{word:text}); INSERT INTO bin VALUES ('a\\b');",
            "DELETE FROM bin;");
    ladder.apply();
    assertThat(database.query("SELECT word FROM bin WHERE length(word) > 3"))
        .containsExactly(HARMFUL);
  }
}
