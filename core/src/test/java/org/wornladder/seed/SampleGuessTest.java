package org.wornladder.seed;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.wornladder.ProjectException;
import org.wornladder.SeedApproval;
import org.wornladder.SeedListener;
import org.wornladder.SeedOptions;
import org.wornladder.SeedOptions.SampleOrder;
import org.wornladder.SeedRunResult;
import org.wornladder.TestLadder;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/** Rows made by a guess: the database itself says whether they obey its constraints. */
class SampleGuessTest {
  /** A column with what a constraint says of it. */
  private static final List<String> CONSTRAINTS =
      List.of(
          "varchar(10) CHECK (c IN ('apple', 'pear', 'd''or'))",
          "varchar(10) CHECK (c = 'apple' OR c = 'pear')",
          "varchar(10) CHECK (c IS NULL OR c IN ('apple', 'pear'))",
          "integer CHECK (c BETWEEN 5 AND 9)",
          "integer CHECK (c > 5 AND c < 8)",
          "integer CHECK (c >= 5000)",
          "integer CHECK (5000 <= c)",
          "integer CHECK (c < 0)",
          "integer CHECK (c <= 100000)",
          "integer CHECK (c <> 0)",
          "integer CHECK (c IN (1, 2, 3))",
          "decimal(6,2) CHECK (c > 0 AND c <= 1)",
          "decimal(6,2) CHECK (c >= 0.5)",
          "decimal(6,2) CHECK (c > 999)",
          "varchar(40) CHECK (char_length(c) = 8)",
          "varchar(40) CHECK (char_length(c) >= 12)",
          "varchar(40) CHECK (char_length(c) BETWEEN 3 AND 5)",
          "varchar(40) CHECK (c <> '')",
          "date CHECK (c >= '2030-01-01')",
          "date CHECK (c > '2030-01-01' AND c < '2030-02-01')",
          "date CHECK (c < '2020-01-01')",
          "integer CHECK (c >= low)",
          "integer CHECK (low < c)",
          "date CHECK (c > since)",
          "varchar(12)",
          "varchar(1)",
          "char(3)",
          "smallint",
          "boolean",
          "time",
          "decimal(3,3)");

  @TempDir Path root;
  private TestDatabase database;
  private TestLadder ladder;
  private final List<String> unread = new ArrayList<>();

  private final SeedListener listener =
      new SeedListener() {
        @Override
        public void unread(String table, String rule) {
          unread.add(table + ": " + rule);
        }
      };

  private void on(Kind kind) {
    database = TestDatabase.make(kind, root);
    ladder = TestLadder.on(database, root);
  }

  private SeedRunResult sample(int rows, String... tables) {
    SampleOrder order = new SampleOrder(List.of(tables), OptionalLong.of(rows));
    return ladder
        .open()
        .seed(
            Optional.of("dev"),
            new SeedOptions(false, 0, order),
            SeedApproval.given(Optional.empty()),
            listener);
  }

  @ParameterizedTest
  @EnumSource
  void constraintsOfTheUsualFormsAreObeyed(Kind kind) {
    on(kind);
    String length = kind == Kind.SQLITE ? "length" : "char_length";
    for (int i = 0; i < CONSTRAINTS.size(); i++) {
      String column = CONSTRAINTS.get(i).replace("char_length", length);
      if (kind == Kind.SQLITE && column.equals("time")) {
        column = "text";
      }
      String table = "t" + i;
      database.execute(
          "CREATE TABLE "
              + table
              + " (id integer NOT NULL PRIMARY KEY, low integer, since date, c "
              + column.replaceFirst("(?<!\\w)CHECK.*", "")
              + (column.contains("CHECK") ? ", " + column.substring(column.indexOf("CHECK")) : "")
              + ")");
      assertThat(sample(40, table).results().get(0).counts().added()).as(column).isEqualTo(40);
      assertThat(database.query("SELECT count(*) FROM " + table + " WHERE c IS NOT NULL").get(0))
          .as(column)
          .isNotEqualTo("0");
    }
    assertThat(unread).isEmpty();
  }

  @ParameterizedTest
  @EnumSource
  void whatCannotBeReadIsSaidBeforeRowsAreMade(Kind kind) {
    on(kind);
    database.execute(
        "CREATE TABLE bin (id integer NOT NULL PRIMARY KEY, code varchar(8),"
            + " CHECK (code LIKE '?%' OR code NOT LIKE 'x_y'))");
    sample(5, "bin");
    assertThat(unread)
        .singleElement()
        .asString()
        .containsIgnoringCase("bin: CHECK")
        .contains("x_y");
  }

  @ParameterizedTest
  @EnumSource(names = {"POSTGRES", "H2"})
  void aDomainsRuleThatCannotBeReadIsSaidToo(Kind kind) {
    on(kind);
    database.execute(
        "CREATE DOMAIN bin_code AS varchar(20) CHECK (VALUE NOT LIKE 'x_y')",
        "CREATE TABLE bin (id integer NOT NULL PRIMARY KEY, code bin_code NOT NULL)");
    sample(5, "bin");
    assertThat(unread).singleElement().asString().contains("x_y");
  }

  @Test
  void rowsThatPointToRefusedOnesAreNotBlamed() {
    on(Kind.POSTGRES);
    database.execute(
        "CREATE DOMAIN bin_code AS varchar(20) CHECK (VALUE ~ '^[0-9]+$')",
        "CREATE TABLE bin (id integer PRIMARY KEY, code bin_code NOT NULL)",
        "CREATE TABLE label (id integer PRIMARY KEY, bin_id integer NOT NULL REFERENCES bin (id))");
    assertThatThrownBy(() -> sample(5, "label", "bin"))
        .isInstanceOf(ProjectException.class)
        .hasMessageContaining("bin_code")
        .hasMessageNotContaining("has no value to take");
  }

  @ParameterizedTest
  @EnumSource
  void severalTablesComeParentsFirstWithTreesAndCounters(Kind kind) {
    on(kind);
    database.execute(
        "CREATE TABLE grower (id integer NOT NULL PRIMARY KEY, name varchar(40) NOT NULL,"
            + " email varchar(80) NOT NULL UNIQUE, boss_id integer,"
            + " FOREIGN KEY (boss_id) REFERENCES grower (id))",
        "CREATE TABLE visit (grower_id integer NOT NULL, number integer NOT NULL,"
            + " PRIMARY KEY (grower_id, number), FOREIGN KEY (grower_id) REFERENCES grower (id))");
    assertThatThrownBy(() -> sample(10, "visit"))
        .isInstanceOf(ProjectException.class)
        .hasMessageContaining("has no value to take");
    sample(60, "visit", "grower");
    assertThat(database.query("SELECT count(*) FROM visit")).containsExactly("60");
    assertThat(database.query("SELECT count(*) FROM grower WHERE boss_id < id").get(0))
        .as("a tree, each row below one before it")
        .isNotEqualTo("0");
    assertThat(database.query("SELECT count(*) FROM grower WHERE boss_id >= id"))
        .containsExactly("0");
    assertThat(
            database.query(
                "SELECT count(*) FROM (SELECT grower_id FROM visit GROUP BY grower_id"
                    + " HAVING max(number) <> count(*)) x"))
        .as("numbers count within each parent")
        .containsExactly("0");
    assertThat(database.query("SELECT email FROM grower"))
        .allMatch(mail -> mail.endsWith("@example.com"));
    List<String> names = database.query("SELECT name FROM grower ORDER BY id");
    List<String> mails = database.query("SELECT email FROM grower ORDER BY id");
    for (int i = 0; i < names.size(); i++) {
      String plain = names.get(i).toLowerCase(java.util.Locale.ROOT).replaceAll("[^a-z0-9]+", ".");
      assertThat(mails.get(i)).startsWith(plain);
    }
  }

  @ParameterizedTest
  @EnumSource
  void twoTablesGetOtherPeople(Kind kind) {
    on(kind);
    for (String table : List.of("picker", "packer")) {
      database.execute(
          "CREATE TABLE "
              + table
              + " (id integer NOT NULL PRIMARY KEY, name varchar(60) NOT NULL)");
    }
    sample(20, "picker", "packer");
    assertThat(database.query("SELECT name FROM picker ORDER BY id"))
        .isNotEqualTo(database.query("SELECT name FROM packer ORDER BY id"));
  }

  @ParameterizedTest
  @EnumSource(names = {"POSTGRES", "H2"})
  void domainsListsAndDocuments(Kind kind) {
    on(kind);
    String list = kind == Kind.POSTGRES ? "text[]" : "varchar(20) array";
    database.execute(
        "CREATE DOMAIN share AS numeric(4,2) CHECK (VALUE > 0 AND VALUE <= 1)",
        "CREATE DOMAIN count AS integer CHECK (VALUE >= 0)",
        "CREATE TABLE bin (id integer NOT NULL PRIMARY KEY, part share NOT NULL, number count NOT"
            + " NULL CHECK (number >= 3 AND number > 7 AND number <= 9), tags "
            + list
            + " NOT NULL, facts "
            + (kind == Kind.POSTGRES ? "jsonb" : "json")
            + " NOT NULL, at time NOT NULL)");
    sample(20, "bin");
    assertThat(database.query("SELECT count(*) FROM bin")).containsExactly("20");
    assertThat(unread).isEmpty();
  }

  @ParameterizedTest
  @EnumSource
  void theGuessIsLeftAsAFileThatMakesTheSameRows(Kind kind) {
    on(kind);
    database.execute(
        "CREATE TABLE picking (id integer NOT NULL PRIMARY KEY, begun date NOT NULL,"
            + " ended date, kind varchar(9), weight decimal(6,1), note varchar(200),"
            + " CHECK (ended > begun), CHECK (kind IN ('hand', 'no')))");
    String order = "SELECT concat(id, ' ', begun, ' ', ended, ' ', kind, ' ', weight, note) FROM";
    sample(15, "picking");
    List<String> guessed = database.query(order + " picking ORDER BY id");
    database.execute("DELETE FROM picking");
    SampleOrder wanted = new SampleOrder(List.of("picking"), OptionalLong.of(15));
    assertThat(ladder.open().writeSample(Optional.of("dev"), wanted, false))
        .containsExactly("seeds/picking.sample.yaml");
    assertThat(ladder.text("seeds/picking.sample.yaml"))
        .contains("rows: 15", "after: ", "one-of: [hand, 'no']");
    ladder.settings(database, "");
    ladder.file("ladder.yaml", ladder.text("ladder.yaml") + "seeds: [{ table: picking }]\n");
    ladder
        .open()
        .seed(
            Optional.of("dev"),
            SeedOptions.ALL,
            SeedApproval.given(Optional.empty()),
            SeedListener.SILENT);
    assertThat(database.query(order + " picking ORDER BY id")).isEqualTo(guessed);
    assumeTrue(kind == Kind.SQLITE);
    assertThatThrownBy(() -> ladder.open().writeSample(Optional.of("dev"), wanted, false))
        .hasMessageContaining("is there already");
  }
}
