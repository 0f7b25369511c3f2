package org.wornladder.seed;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;
import org.wornladder.Ladder;
import org.wornladder.ProjectException;
import org.wornladder.RefusedException;
import org.wornladder.SeedApproval;
import org.wornladder.SeedCounts;
import org.wornladder.SeedListener;
import org.wornladder.SeedOptions;
import org.wornladder.SeedOptions.SampleOrder;
import org.wornladder.SeedRunResult;
import org.wornladder.TestLadder;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/** Rows that are made up. */
class SampleTest {
  private static final String BIN =
      """
      rows: 2..4
      for-each: picking.id
      seed-number: 7
      columns:
        code: { pattern: "B-##" }
        picking_id: { from: picking.id }
        sort: { one-of: { apple: 7, pear: 3 } }
        weight: { between: [180, 320], decimals: 1, spread: normal }
        note: { made-up: name.lastName, missing: 40% }
        packed: { times-from: 2026-08-01T06:00:00Z, every: 15m }
        picked: { days: [2026-08-01, 2026-08-03] }
        season: { value: 2026 }
      """;

  @TempDir Path root;
  private TestDatabase database;
  private TestLadder ladder;

  private void on(Kind kind) {
    database = TestDatabase.make(kind, root);
    ladder = TestLadder.on(database, root);
    database.execute(
        "CREATE TABLE picking (id integer NOT NULL PRIMARY KEY, label varchar(40))",
        "CREATE TABLE bin (code varchar(8) NOT NULL PRIMARY KEY, picking_id integer NOT NULL,"
            + " sort varchar(8), weight decimal(6,1), note varchar(60), packed varchar(40),"
            + " picked date, season integer, UNIQUE (picking_id, code),"
            + " FOREIGN KEY (picking_id) REFERENCES picking (id))");
    ladder.file("seeds/picking.csv", "id,label\n1,first\n2,second\n3,third\n");
    settings("[{ table: bin, only-in: [dev] }, { table: picking }]");
    ladder.file("seeds/bin.sample.yaml", BIN);
  }

  private void settings(String seeds) {
    ladder.settings(database, "");
    ladder.file("ladder.yaml", ladder.text("ladder.yaml") + "seeds: " + seeds + "\n");
  }

  private SeedRunResult seed(SeedOptions options) {
    return ladder
        .open()
        .seed(
            Optional.of("dev"), options, SeedApproval.given(Optional.empty()), SeedListener.SILENT);
  }

  private static SeedOptions sample(String table, int rows) {
    SampleOrder order = new SampleOrder(List.of(table), OptionalLong.of(rows));
    return new SeedOptions(false, 0, order);
  }

  @ParameterizedTest
  @EnumSource
  void areTheSameEveryTimeAndPointToRowsThatComeWithThem(Kind kind) {
    on(kind);
    seed(SeedOptions.ALL);
    List<String> first = database.query("SELECT concat(code, ' ', sort) FROM bin ORDER BY code");
    assertThat(first.size()).isBetween(6, 12);
    assertThat(database.query("SELECT DISTINCT picking_id FROM bin")).hasSize(3);
    assertThat(database.query("SELECT count(*) FROM bin WHERE note IS NULL").get(0))
        .isNotEqualTo("0");
    assertThat(seed(SeedOptions.ALL).isQuiet()).isTrue();
    try (Ladder opened = ladder.open()) {
      assertThat(opened.checkAgainst(Optional.of("dev"), Optional.empty()).findings()).isEmpty();
    }
    database.execute("DELETE FROM bin");
    seed(SeedOptions.ALL);
    assertThat(database.query("SELECT concat(code, ' ', sort) FROM bin ORDER BY code"))
        .isEqualTo(first);
  }

  @ParameterizedTest
  @EnumSource
  void aGuessIsMadeFromTheStructure(Kind kind) {
    on(kind);
    ladder.delete("seeds/bin.sample.yaml");
    settings("[{ table: picking }]");
    seed(SeedOptions.ALL);
    assertThat(seed(sample("bin", 30)).results().get(0).counts().added()).isEqualTo(30);
    assertThat(database.query("SELECT count(*) FROM bin")).containsExactly("30");
    assertThat(seed(sample("bin", 30)).isQuiet()).isTrue();
  }

  @ParameterizedTest
  @EnumSource
  void aGuessLeavesOutWhatNobodyCanGuess(Kind kind) {
    on(kind);
    database.execute(
        "CREATE TABLE block (id "
            + kind.identity()
            + ", name varchar(40) NOT NULL UNIQUE, parent_id integer, trees integer NOT NULL,"
            + " FOREIGN KEY (parent_id) REFERENCES block (id))",
        "INSERT INTO block (name, trees) VALUES ('root', 3)");
    settings("[{ table: block, key: [name] }]");
    ladder.file("seeds/block.csv", "name,trees\nroot,3\n");
    assertThat(seed(sample("block", 20)).results().get(0).counts().added()).isEqualTo(20);
    assertThat(database.query("SELECT count(*) FROM block WHERE parent_id IS NULL"))
        .as("a row of its own table is not guessed")
        .containsExactly("21");
    assertThat(database.query("SELECT trees FROM block WHERE name = 'root'")).containsExactly("3");
  }

  @ParameterizedTest
  @EnumSource
  void aGuessNeverTouchesRowsThatStand(Kind kind) {
    on(kind);
    database.execute("INSERT INTO picking (id, label) VALUES (1, 'ours')");
    settings("[]");
    assertThat(seed(sample("picking", 3)).results().get(0).counts())
        .isEqualTo(new SeedCounts(2, 0, 0, 1));
    assertThat(database.query("SELECT label FROM picking WHERE id = 1")).containsExactly("ours");
  }

  @Test
  void anotherNumberMakesOtherRows() {
    on(Kind.SQLITE);
    seed(SeedOptions.ALL);
    List<String> first = database.query("SELECT code FROM bin ORDER BY code");
    database.execute("DELETE FROM bin");
    ladder.file("seeds/bin.sample.yaml", BIN.replace("seed-number: 7", "seed-number: 8"));
    seed(SeedOptions.ALL);
    assertThat(database.query("SELECT code FROM bin ORDER BY code")).isNotEqualTo(first);
  }

  @Test
  void moreThanThereCanBeIsToldAndNothingIsWritten() {
    on(Kind.SQLITE);
    ladder.file("seeds/bin.sample.yaml", BIN.replace("2..4", "40..50"));
    assertThatThrownBy(() -> seed(SeedOptions.ALL))
        .isInstanceOf(ProjectException.class)
        .hasMessageContaining("code must be unique");
    assertThat(database.query("SELECT count(*) FROM picking")).containsExactly("0");
  }

  @Test
  void noRowsAreMadeUpWhereEveryChangeIsGuarded() {
    on(Kind.SQLITE);
    String settings = ladder.text("ladder.yaml").replace("disposable: true", "guarded: true");
    ladder.file("ladder.yaml", settings);
    assertThatThrownBy(() -> seed(sample("bin", 3)))
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("guarded");
    ladder
        .open()
        .seed(
            Optional.of("dev"),
            SeedOptions.ALL,
            SeedApproval.given(Optional.of("dev")),
            SeedListener.SILENT);
    assertThat(database.query("SELECT count(*) FROM picking")).containsExactly("3");
    assertThat(database.query("SELECT count(*) FROM bin")).containsExactly("0");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      textBlock =
          """
          rows: 2..4|rows: many|rows does not say how many
          "B-##" }|"B-##", value: 1 }|made in several ways: pattern, value
          apple: 7, pear: 3|apple: 0|nothing to choose from
          [180, 320]|[320, 180]|the smaller number first
          missing: 40%|missing: lots|missing cannot be 'lots'
          name.lastName|name.nickOfTheDog|has no name.nickOfTheDog
          every: 15m|every: often|every cannot be 'often'
          from: picking.id|from: picking|is not TABLE.COLUMN
          season:|seasons:|has no column seasons
          """)
  void whatCannotBeMadeIsTold(String part, String instead, String words) {
    on(Kind.SQLITE);
    ladder.file("seeds/bin.sample.yaml", BIN.replace(part, instead));
    assertThatThrownBy(() -> seed(SeedOptions.ALL))
        .isInstanceOfSatisfying(
            ProjectException.class, e -> assertThat(e.problems().toString()).contains(words));
    assertThat(database.query("SELECT count(*) FROM picking")).containsExactly("0");
  }
}
