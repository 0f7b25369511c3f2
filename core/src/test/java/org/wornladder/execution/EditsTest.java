package org.wornladder.execution;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.wornladder.RefusedException;
import org.wornladder.TestLadder;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/** What an edit means is decided by how the environment's own engine reads the file. */
class EditsTest {
  @TempDir Path root;

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '\u0001',
      value = {
        "MARIADB|CREATE TABLE a (t varchar(40) DEFAULT 'it\\'s -- five')|five|six",
        "MARIADB|CREATE TABLE a (n int DEFAULT (5--1))|--1|--2",
        "MARIADB|CREATE TABLE a (n int /*M! DEFAULT 5 */)|5|6",
        "MARIADB|CREATE TABLE a (n int /*!50000 DEFAULT 5 */)|5|6",
        "MARIADB|CREATE TABLE a (n int DEFAULT 5 /* it's */)|5|6",
        "POSTGRES|CREATE TABLE a (t text DEFAULT E'it\\'s -- five')|five|six",
        "POSTGRES|CREATE TABLE a (t text DEFAULT E'it\\'s /* five')|five|six",
        "POSTGRES|CREATE TABLE a (n int /* a /* b */ c */ DEFAULT 5)|5|6",
        "POSTGRES|CREATE TABLE a (t text DEFAULT $x$ -- five $x$)|five|six",
        "SQLITE|CREATE TABLE a ([c--d] text)|c--d|c--e",
        "SQLITE|CREATE TABLE a ([c/*d] text)|c/*d|c/*e",
        "SQLITE|CREATE TABLE a (`c--d` text)|c--d|c--e",
        "H2|CREATE TABLE a (n int /* a /* b */ c */ DEFAULT 5)|5|6",
        "H2|CREATE TABLE a (t varchar DEFAULT $$ -- five $$)|five|six",
        "H2|CREATE TABLE a (n int DEFAULT 4 / 2)|4 / 2|6 / 2"
      })
  void anEditOfTheMeaningIsNoticedAndOneOfTheLayoutIsNot(
      Kind kind, String up, String before, String after) {
    TestDatabase database = TestDatabase.make(kind, root);
    TestLadder ladder = TestLadder.on(database, root);
    ladder.rung("0001-a", up + ";", "DROP TABLE a;").apply();
    ladder.rung(
        "0001-a",
        "-- a note\n" + up.replace("CREATE TABLE", "CREATE\n  TABLE") + ";",
        "DROP TABLE a;");
    assertThat(ladder.apply().done()).isEmpty();
    assertThat(up).contains(before);
    ladder.rung("0001-a", up.replace(before, after) + ";", "DROP TABLE a;");
    assertThatThrownBy(ladder::apply)
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("0001 is worn");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '\u0001',
      value = {
        "MARIADB|CREATE VIEW v AS SELECT 5--1 AS n|--1|--2",
        "POSTGRES|CREATE VIEW v AS SELECT E'it\\'s -- five' AS t|five|six",
        "SQLITE|CREATE VIEW v AS SELECT 1 AS [c--d]|c--d|c--e"
      })
  void aStandingScriptThatWasEditedSoRunsAgain(Kind kind, String up, String before, String after) {
    TestDatabase database = TestDatabase.make(kind, root);
    TestLadder ladder = TestLadder.on(database, root);
    ladder.file("standing/v.sql", "--| up\n" + up + ";\n--| down\nDROP VIEW v;\n").apply();
    assertThat(ladder.apply().done()).isEmpty();
    String edited = up.replace(before, after);
    ladder.file("standing/v.sql", "--| up\n" + edited + ";\n--| down\nDROP VIEW v;\n");
    assertThat(ladder.apply().done()).hasSize(1);
  }
}
