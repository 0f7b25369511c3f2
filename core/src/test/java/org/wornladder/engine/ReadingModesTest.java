package org.wornladder.engine;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.wornladder.ApplyOptions;
import org.wornladder.Ladder;
import org.wornladder.TestLadder;
import org.wornladder.project.Problem;
import org.wornladder.server.OwnClient;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/**
 * Statements behind a setting under which texts are read otherwise: each is read again and again
 * before it runs (for what it is, erases, locks, leaves behind), and must be read as it will be by
 * the database each time.
 */
class ReadingModesTest {
  @TempDir Path root;

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '`',
      value = {
        "POSTGRES | SET standard_conforming_strings = off; INSERT INTO bin VALUES ('a\\';b')",
        "POSTGRES | SET standard_conforming_strings = off; CREATE TABLE t (a text DEFAULT 'x\\'')",
        "POSTGRES | SET LOCAL standard_conforming_strings TO off; DELETE FROM bin WHERE w = '\\''",
        "POSTGRES | SET standard_conforming_strings = off; INSERT INTO bin VALUES ('\\'');"
            + " SET standard_conforming_strings = on; INSERT INTO bin VALUES ('\\')",
        "MARIADB | SET sql_mode = 'NO_BACKSLASH_ESCAPES'; INSERT INTO bin VALUES ('a\\')",
        "MARIADB | SET sql_mode = 'NO_BACKSLASH_ESCAPES'; CREATE TABLE t (a text DEFAULT '\\')",
        "MARIADB | SET sql_mode = 'ANSI_QUOTES'; CREATE TABLE \"t\\\" (a int)",
        "MARIADB | SET sql_mode = 'ANSI_QUOTES'; ALTER TABLE bin ADD \"c;\\\" int",
        "MARIADB | SET sql_mode = 'ORACLE'; CREATE TABLE \"o\\\" (\"a;\\\" int)",
        "MARIADB | SET sql_mode = 'NO_BACKSLASH_ESCAPES'; INSERT INTO bin VALUES ('\\');"
            + " SET sql_mode = ''; INSERT INTO bin VALUES ('\\'')"
      })
  void areReadUnderTheSettingsBeforeThem(Kind kind, String statements) throws Exception {
    String table = "CREATE TABLE bin (w varchar(20));";
    TestDatabase ours = TestDatabase.make(kind, root.resolve("ours"));
    TestLadder ladder = TestLadder.on(ours, root.resolve("project"));
    ladder.rung("0001-bin", table, "DROP TABLE bin;");
    ladder.file("rungs/0002-modes.sql", "--| no way down: none\n--| up\n" + statements + ";\n");
    assertThat(Ladder.check(ladder.root()).problems())
        .noneMatch(problem -> problem.severity() == Problem.Severity.ERROR);
    ladder.open().preview(Optional.empty(), ApplyOptions.ALL);
    ladder.apply();
    if (OwnClient.isHere(kind)) {
      TestDatabase theirs = TestDatabase.make(kind, root.resolve("theirs"));
      // The client psql takes a setting in when a line ends.
      String begin = kind == Kind.POSTGRES ? "BEGIN;\n" : "";
      String end = kind == Kind.POSTGRES ? "COMMIT;\n" : "";
      String script = begin + table + "\n" + statements.replace("; ", ";\n") + ";\n" + end;
      assertThat(OwnClient.run(theirs, root, List.of(script))).isEmpty();
      assertThat(ours.query("SELECT w FROM bin")).isEqualTo(theirs.query("SELECT w FROM bin"));
    }
  }
}
