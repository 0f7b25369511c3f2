package org.wornladder.service;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.wornladder.Against;
import org.wornladder.ApplyOptions;
import org.wornladder.Fold;
import org.wornladder.FoldOptions;
import org.wornladder.FoldQuestions;
import org.wornladder.RefusedException;
import org.wornladder.RollbackOptions;
import org.wornladder.RunListener;
import org.wornladder.Status;
import org.wornladder.TestLadder;
import org.wornladder.journal.Event;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/** One rung in the place of many: for new databases, while old ones go on as they are. */
class FoldTest {
  @TempDir Path root;
  private TestDatabase old;
  private TestDatabase fresh;
  private TestLadder ladder;

  private void on(Kind kind) {
    old = TestDatabase.make(kind, make("old"));
    fresh = TestDatabase.make(kind, make("fresh"));
    ladder = TestLadder.on(old, root);
    ladder.settings(old, " }\n  new: { url: '" + fresh.url() + "', disposable: true");
    ladder.rung(
        "0001-growers",
        "CREATE TABLE grower (id "
            + kind.identity()
            + ", name varchar(40) NOT NULL, boss integer REFERENCES grower (id), fax varchar(9));\n"
            + "INSERT INTO grower (name) VALUES ('Ann'), ('O''Neil \\ ;'), ('--| up'), ('@@{x}');",
        "DROP TABLE grower;");
    ladder.rung(
        "0002-bins",
        "CREATE TABLE bin (code varchar(10) NOT NULL PRIMARY KEY, grower_id integer NOT NULL"
            + " REFERENCES grower (id), weight decimal(8,2), packed timestamp NULL, raw "
            + (kind == Kind.POSTGRES ? "bytea" : kind == Kind.H2 ? "varbinary(9)" : "blob")
            + ", ok boolean, note varchar(40));\n"
            + "INSERT INTO bin (code, grower_id, weight, packed, ok, note) VALUES\n"
            + "  ('b', 1, 1.50, '2026-09-01 06:30:00', TRUE, 'two\nlines'),\n"
            + "  ('a', 2, NULL, NULL, FALSE, 'äpfel');\n"
            + "UPDATE bin SET raw = "
            + (kind == Kind.POSTGRES ? "'\\x00ff27'" : "X'00ff27'")
            + " WHERE code = 'a';",
        "DROP TABLE bin;");
    ladder.rung(
        "0003-slim",
        "ALTER TABLE grower DROP COLUMN fax;\nUPDATE grower SET boss = 1 WHERE id > 1;\n"
            + "DELETE FROM grower WHERE id = 4;\n"
            + "CREATE INDEX by_weight ON bin (weight);\n"
            + "CREATE VIEW heavy AS SELECT code FROM bin WHERE weight > 1;\n"
            + counting(kind),
        "SELECT 1;");
    ladder.rung("0004-later", "CREATE TABLE later (id integer PRIMARY KEY);", "DROP TABLE later;");
    ladder.apply();
  }

  /** What counts by itself, and what would fire for rows. */
  private static String counting(Kind kind) {
    return switch (kind) {
      case SQLITE ->
          "CREATE TABLE tally (id integer PRIMARY KEY AUTOINCREMENT);\n"
              + "INSERT INTO tally VALUES (8), (9);\nDELETE FROM tally WHERE id = 9;\n"
              + "CREATE TRIGGER noted AFTER INSERT ON bin BEGIN DELETE FROM grower; END;";
      case POSTGRES ->
          "CREATE SEQUENCE tally;\nSELECT nextval('tally'), nextval('tally');\n"
              + "CREATE TABLE pick (id integer, season integer, PRIMARY KEY (id, season))"
              + " PARTITION BY LIST (season);\n"
              + "CREATE TABLE pick_1 PARTITION OF pick FOR VALUES IN (1);\n"
              + "INSERT INTO pick VALUES (1, 1), (2, 1);\n"
              + "CREATE TABLE kept (id integer PRIMARY KEY);\n"
              + "CREATE TABLE cooled (celsius integer) INHERITS (kept);\n"
              + "INSERT INTO cooled VALUES (1, 4);\nINSERT INTO kept VALUES (7);";
      case MARIADB ->
          "CREATE SEQUENCE tally;\nSELECT nextval(tally);\n"
              + "CREATE TRIGGER noted AFTER INSERT ON bin FOR EACH ROW DELETE FROM grower;";
      case H2 -> "CREATE SEQUENCE tally;\nSELECT NEXT VALUE FOR tally;";
    };
  }

  private static String nextTally(TestDatabase database) {
    if (database.kind() == Kind.SQLITE) {
      database.execute("INSERT INTO tally DEFAULT VALUES");
      return database.query("SELECT max(id) FROM tally").get(0);
    }
    return database
        .query(
            switch (database.kind()) {
              case POSTGRES -> "SELECT nextval('tally')";
              case MARIADB -> "SELECT nextval(tally)";
              default -> "SELECT NEXT VALUE FOR tally";
            })
        .get(0);
  }

  private Path make(String folder) {
    return root.resolve(folder).toFile().mkdirs() ? root.resolve(folder) : root;
  }

  private Fold fold(long upTo) {
    return ladder
        .open()
        .fold(new FoldOptions(upTo, "folded", false, true), FoldQuestions.KEEP_ROWS);
  }

  private void applyTo(String environment) {
    ladder
        .open()
        .apply(Optional.of(environment), ApplyOptions.ALL, TestLadder.YES, RunListener.SILENT);
  }

  private static List<String> contents(TestDatabase database) {
    return List.of(
        database
            .query("SELECT concat(id, name, '-', coalesce(boss, 0)) FROM grower ORDER BY id")
            .toString(),
        database
            .query(
                "SELECT concat(code, grower_id, coalesce(weight, 0), coalesce(note, '')) FROM bin"
                    + " ORDER BY code")
            .toString(),
        database.query("SELECT raw FROM bin WHERE code = 'b'").toString(),
        database.query("SELECT count(*) FROM bin WHERE ok AND raw IS NULL").toString());
  }

  @ParameterizedTest
  @EnumSource
  void aNewDatabaseIsBuiltFromTheFoldAndAnOldOneGoesOn(Kind kind) throws Exception {
    on(kind);
    Fold fold = fold(3);
    assertThat(fold.folded()).containsExactly("0001", "0002", "0003");
    assertThat(fold.rows())
        .extracting(one -> one.table().toLowerCase(Locale.ROOT) + " " + one.count())
        .contains("grower 3", "bin 2");
    assertThat(Files.list(root.resolve("rungs/folded"))).hasSize(3);
    assertThat(Files.list(root.resolve("rungs"))).hasSize(3);
    ladder.apply();
    applyTo("new");
    assertThat(contents(fresh)).isEqualTo(contents(old));
    assertThat(ladder.open().compare("env:dev", "env:new", false).differences()).isEmpty();
    for (TestDatabase database : List.of(old, fresh)) {
      database.execute("INSERT INTO grower (name) VALUES ('next')");
      assertThat(database.query("SELECT id FROM grower WHERE name = 'next'")).hasSize(1);
    }
    assertThat(old.query("SELECT max(id) FROM grower"))
        .isEqualTo(fresh.query("SELECT max(id) FROM grower"));
    // MariaDB forgets the numbers that it keeps at hand, as it does when it is restarted.
    assertThat(Long.parseLong(nextTally(fresh)))
        .isGreaterThanOrEqualTo(Long.parseLong(nextTally(old)));
    Status status = ladder.open().status(Optional.of("dev"));
    assertThat(status.rungs())
        .extracting(line -> line.label() + " " + line.state() + " " + line.detail())
        .containsExactly("0003 IN_PLACE stands for 0001 to 0003, which ran here", "0004 IN_PLACE ");
    ladder.apply();
    assertThat(ladder.open().history(Optional.of("dev")).history().entries())
        .filteredOn(entry -> entry.event() == Event.FOLDED)
        .hasSize(1);
    assertThat(ladder.open().drift(Optional.of("dev"), Against.RUNGS, false).structure()).isEmpty();
  }

  @ParameterizedTest
  @EnumSource
  void whatIsFoldedIsTakenBackByTheJournalAndTheMiddleIsRefused(Kind kind) {
    on(kind);
    fold(3);
    ladder.rollback(new RollbackOptions.Last(1));
    assertThatThrownBy(() -> ladder.rollback(new RollbackOptions.Last(1)))
        .hasMessageContaining("0003 ran before it was folded");
    RollbackOptions byJournal = RollbackOptions.builder().last(1).fromJournal(true).build();
    ladder.open().rollback(Optional.of("dev"), byJournal, TestLadder.YES, RunListener.SILENT);
    assertThatThrownBy(ladder::apply)
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("dev has 0001 to 0002 alone of those that 0003 stands for");
  }

  @ParameterizedTest
  @EnumSource
  void aFoldIsFoldedAgainForBothKindsOfDatabases(Kind kind) {
    on(kind);
    fold(2);
    applyTo("new");
    fold(4);
    for (String environment : List.of("dev", "new")) {
      applyTo(environment);
      assertThat(ladder.open().status(Optional.of(environment)).waiting()).isZero();
      assertThat(ladder.open().drift(Optional.of(environment), Against.EXPECTED, false).structure())
          .isEmpty();
    }
    assertThat(contents(fresh)).isEqualTo(contents(old));
  }

  @Test
  void rowsAreLeftOutWhereThatIsWantedAndFilesGo() {
    on(Kind.SQLITE);
    Fold fold =
        ladder
            .open()
            .fold(
                new FoldOptions(3, "in one", true, true), (table, rows) -> table.equals("grower"));
    assertThat(fold.file()).isEqualTo("rungs/0003-in-one.sql");
    assertThat(fold.movedTo()).isEmpty();
    assertThat(root.resolve("rungs/folded")).doesNotExist();
    assertThat(fold.text()).contains("INSERT INTO grower").doesNotContain("INSERT INTO bin");
  }

  @Test
  void aProjectOfTwoEnginesGetsASectionForEach() {
    TestDatabase one = TestDatabase.make(Kind.SQLITE, root);
    TestDatabase two = TestDatabase.make(Kind.H2, root);
    ladder = TestLadder.on(one, root);
    ladder.settings(one, " }\n  two: { url: '" + two.url() + "', disposable: true");
    ladder.rung("0001-growers", "CREATE TABLE grower (id integer);", "DROP TABLE grower;");
    ladder.rung(
        "0002-bins",
        "CREATE TABLE bin (id integer); INSERT INTO bin VALUES (7);",
        "DROP TABLE bin;");
    ladder.apply();
    Fold fold = fold(2);
    assertThat(fold.text()).contains("--| up on sqlite\n", "--| up on h2\n");
    applyTo("two");
    assertThat(two.query("SELECT id FROM bin")).containsExactly("7");
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "--| only-in: dev|it runs only in dev",
        "--| when: table x exists|it runs under a condition",
        "--| about: @{environment}|"
      })
  void whatIsNotTheSameEverywhereIsNotFolded(String line) {
    String[] parts = line.split("\\|", -1);
    String directive = String.join("|", parts[0], parts[1]);
    String reason = parts[2];
    ladder = TestLadder.on(TestDatabase.make(Kind.SQLITE, root), root);
    ladder.rung("0001-a", "CREATE TABLE a (id integer);", "DROP TABLE a;");
    ladder.file(
        "rungs/0002-b.sql",
        directive + "\n--| up\nCREATE TABLE b (e text DEFAULT @{environment});\n");
    assertThatThrownBy(() -> fold(2))
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("0002 cannot be folded: ")
        .hasMessageContaining(
            reason.isEmpty() ? "its value @{environment} is not the same everywhere" : reason);
    assertThat(root.resolve("rungs/0002-b.sql")).exists();
  }

  @Test
  void wornRungsAndNumbersThatAreNotThereAreRefused() {
    on(Kind.SQLITE);
    assertThatThrownBy(() -> fold(1)).hasMessageContaining("there is one rung alone");
    assertThatThrownBy(() -> fold(9)).hasMessageContaining("there is no rung 9");
    ladder.file("rungs/0002-bins.sql", ladder.text("rungs/0002-bins.sql").replace("8,2", "9,2"));
    assertThatThrownBy(() -> fold(3)).hasMessageContaining("0002 is worn or stuck on dev");
    assertThat(root.resolve("rungs/0001-growers.sql")).exists();
  }
}
