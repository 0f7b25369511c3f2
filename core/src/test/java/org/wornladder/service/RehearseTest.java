package org.wornladder.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;
import org.wornladder.ApplyOptions;
import org.wornladder.Preview;
import org.wornladder.RehearsalReport;
import org.wornladder.RehearseOptions;
import org.wornladder.TestLadder;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/** What a rehearsal proves, and what it finds wrong; the environment is never written to. */
class RehearseTest {
  private static final RehearseOptions FROM_BLANK =
      new RehearseOptions(true, false, OptionalLong.empty(), false);

  @TempDir Path root;
  private TestDatabase database;
  private TestLadder ladder;

  private void on(Kind kind) {
    database = TestDatabase.make(kind, root);
    ladder = TestLadder.on(database, root);
    ladder.rung(
        "0001-bins",
        "CREATE TABLE bin (code varchar(10) NOT NULL PRIMARY KEY, weight integer);",
        "DROP TABLE bin;");
    ladder.file(
        "standing/heavy.sql",
        "--| up\nCREATE VIEW heavy AS SELECT code FROM bin WHERE weight > 9;\n"
            + "--| down\nDROP VIEW heavy;\n");
    ladder.apply();
  }

  private RehearsalReport rehearse(RehearseOptions options) {
    return ladder.open().rehearse(Optional.of("dev"), options);
  }

  private RehearsalReport.OfRung only() {
    RehearsalReport report = rehearse(RehearseOptions.EXPECTED);
    assertThat(report.rungs()).hasSize(1);
    return report.rungs().get(0);
  }

  @ParameterizedTest
  @EnumSource
  void aGoodRungIsProvedAndTheEnvironmentIsOnlyRead(Kind kind) {
    on(kind);
    List<String> events = database.events();
    ladder.rung(
        "0002-grades",
        "CREATE TABLE grade (code char(1) NOT NULL PRIMARY KEY);\n"
            + "ALTER TABLE bin ADD COLUMN grade char(1);",
        "ALTER TABLE bin DROP COLUMN grade;\nDROP TABLE grade;");
    RehearsalReport.OfRung rung = only();
    assertThat(rung.faults()).isEmpty();
    assertThat(rung.down()).isPresent();
    assertThat(rung.again()).isPresent();
    assertThat(rehearse(FROM_BLANK).isProved()).isTrue();
    assertThat(database.events()).isEqualTo(events);
  }

  @ParameterizedTest
  @EnumSource
  void aWayDownThatLeavesSomethingIsNoProof(Kind kind) {
    on(kind);
    ladder.rung(
        "0002-grades",
        "CREATE TABLE grade (code char(1));\nALTER TABLE bin ADD COLUMN grade char(1);",
        "DROP TABLE grade;");
    assertThat(only().faults())
        .first()
        .asString()
        .containsIgnoringCase("after the way down, column bin.grade is still there");
  }

  @ParameterizedTest
  @EnumSource
  void aWayUpOrDownThatFailsIsNamedWithItsPlace(Kind kind) {
    on(kind);
    ladder.rung("0002-grades", "CREATE TABLE grade (code char(1));", "DROP TABLE crate;");
    assertThat(only().faults())
        .first()
        .asString()
        .contains("the way down fails", "0002-grades.sql:4");
    ladder.rung("0002-grades", "DROP TABLE crate;", "DROP TABLE grade;");
    RehearsalReport.OfRung rung = only();
    assertThat(rung.up()).isEmpty();
    assertThat(rung.faults()).first().asString().contains("the way up fails", "0002-grades.sql:2");
  }

  @ParameterizedTest
  @EnumSource
  void rowsThatAWayDownDoesNotBringBackAreFound(Kind kind) {
    on(kind);
    ladder.file("seeds/bin.csv", "code,weight\na,5\nb,12\n");
    ladder.file(
        "ladder.yaml", ladder.text("ladder.yaml") + "seeds:\n  - { table: bin, key: [code] }\n");
    ladder.rung(
        "0002-kilos", "UPDATE bin SET weight = weight / 5;", "UPDATE bin SET weight = weight * 5;");
    assertThat(only().faults())
        .first()
        .asString()
        .containsIgnoringCase("after the way down rows of bin are other ones");
    ladder.rung(
        "0002-kilos", "UPDATE bin SET weight = weight + 5;", "UPDATE bin SET weight = weight - 5;");
    assertThat(only().faults()).isEmpty();
  }

  @ParameterizedTest
  @EnumSource
  void rowsThatEarlierRungsAddedAreThere(Kind kind) {
    on(kind);
    ladder.rung("0002-a", "INSERT INTO bin (code, weight) VALUES ('a', 1);", "DELETE FROM bin;");
    ladder.apply();
    ladder.rung(
        "0003-lids",
        "CREATE TABLE lid (bin varchar(10) NOT NULL, FOREIGN KEY (bin) REFERENCES bin (code));\n"
            + "INSERT INTO lid (bin) VALUES ('a');",
        "DROP TABLE lid;");
    assertThat(only().faults()).isEmpty();
  }

  @ParameterizedTest
  @EnumSource
  void whatIsDroppedIsSaidToBeLost(Kind kind) {
    on(kind);
    ladder.rung(
        "0002-slim",
        "DROP VIEW heavy; ALTER TABLE bin DROP COLUMN weight;",
        "ALTER TABLE bin ADD COLUMN weight integer;"
            + " CREATE VIEW heavy AS SELECT code FROM bin WHERE weight > 9;");
    assertThat(only().lost()).first().asString().containsIgnoringCase("the values of bin.weight");
  }

  @ParameterizedTest
  @EnumSource
  void aCallerThatAChangeBreaksIsTold(Kind kind) {
    on(kind);
    ladder.file(
        "callers/bins.sql",
        "SELECT code FROM bin WHERE code = :code;\n"
            + "SELECT weight FROM bin WHERE code = :code AND weight > :least;\n"
            + "SELECT never FROM bin;\n"
            + "SELECT kilos FROM bin;\n");
    ladder.rung(
        "0002-kilos",
        "DROP VIEW heavy; ALTER TABLE bin RENAME COLUMN weight TO kilos;"
            .replace(
                "RENAME COLUMN",
                kind == Kind.H2 ? "ALTER COLUMN weight RENAME TO kilos; --" : "RENAME COLUMN"),
        "SELECT 1;");
    RehearsalReport report = rehearse(RehearseOptions.EXPECTED);
    assertThat(report.keepsCallers()).isFalse();
    assertThat(report.rungs().get(0).brokenCallers())
        .extracting(RehearsalReport.BrokenCaller::place)
        .containsExactly("callers/bins.sql:2:1");
    assertThat(report.rungs().get(0).newCallers())
        .extracting(RehearsalReport.BrokenCaller::place)
        .containsExactly("callers/bins.sql:4:1");
    assertThat(report.neverWorking())
        .extracting(RehearsalReport.BrokenCaller::place)
        .containsExactly("callers/bins.sql:3:1");
    assertThat(rehearse(FROM_BLANK).callers()).isZero();
  }

  @ParameterizedTest
  @EnumSource
  void aCallerThatFailsOnlyWhenItRunsIsFoundByRunningIt(Kind kind) {
    on(kind);
    ladder.file("callers/bins.sql", "INSERT INTO bin (code, weight) VALUES ('x', :weight);\n");
    ladder.rung(
        "0002-required",
        "DROP VIEW heavy;\nALTER TABLE bin ADD COLUMN grade integer;\n"
            + switch (kind) {
              case MARIADB -> "ALTER TABLE bin MODIFY weight integer NOT NULL;";
              default -> "ALTER TABLE bin ALTER COLUMN weight SET NOT NULL;";
            },
        "SELECT 1;");
    assertThat(rehearse(RehearseOptions.EXPECTED).keepsCallers()).isTrue();
    RehearseOptions running =
        new RehearseOptions(
            false, false, OptionalLong.empty(), List.of(), true, false, Optional.empty());
    assertThat(rehearse(running).rungs().get(0).brokenCallers())
        .extracting(RehearsalReport.BrokenCaller::reason)
        .first()
        .asString()
        .startsWith("when it runs: ");
    assertThat(database.query("SELECT count(*) FROM bin")).containsExactly("0");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "ALTER TABLE bin ADD COLUMN tare integer | AccessExclusive on bin",
        "ALTER TABLE bin ALTER COLUMN weight TYPE bigint | AccessExclusive on bin, rewrites bin",
        "ALTER TABLE bin ALTER COLUMN weight SET NOT NULL | AccessExclusive on bin, reads all of bin",
        "ALTER TABLE bin ALTER COLUMN code TYPE varchar(20) | AccessExclusive on bin",
        "CREATE INDEX bin_weight ON bin (weight) | Share on bin, reads all of bin",
        "ALTER TABLE bin ADD CHECK (weight > 0) | AccessExclusive on bin, reads all of bin",
        "ALTER TABLE bin ADD UNIQUE (weight) | AccessExclusive on bin, reads all of bin",
        "TRUNCATE bin | AccessExclusive on bin, rewrites bin",
        "UPDATE bin SET weight = 1 | RowExclusive on bin",
        "ALTER TABLE bin RENAME COLUMN weight TO kilos | AccessExclusive on bin"
      })
  void locksAndRewritesAreMeasuredOnPostgres(String statement, String effects) {
    on(Kind.POSTGRES);
    ladder.delete("standing/heavy.sql");
    database.execute("DROP VIEW heavy");
    ladder.rung("0002-change", statement + ";", "SELECT 1;");
    RehearsalReport report =
        ladder
            .open()
            .rehearse(
                Optional.of("dev"), new RehearseOptions(true, false, OptionalLong.empty(), false));
    assertThat(report.rungs().get(1).statements().get(0).effects())
        .isEqualTo(List.of(effects.split(", ")));
  }

  @Test
  void whatIsReadAndLoggedIsMeasuredOnPostgres() {
    on(Kind.POSTGRES);
    ladder.rung(
        "0002-many",
        "CREATE TABLE many (id integer PRIMARY KEY, words text);\n"
            + "INSERT INTO many SELECT n, repeat('w', 200) FROM generate_series(1, 40000) n;",
        "DROP TABLE many;");
    ladder.rung(
        "0003-wider",
        "ALTER TABLE many ALTER COLUMN id TYPE bigint;",
        "ALTER TABLE many ALTER COLUMN id TYPE integer;");
    RehearsalReport.OfRung wider = rehearse(FROM_BLANK).rungs().get(2);
    assertThat(wider.statements().get(0).effects())
        .contains("rewrites many")
        .anyMatch(effect -> effect.matches("reads (9|1\\d) MB of blocks"))
        .anyMatch(effect -> effect.matches("writes \\d+ MB to the log"));
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "ALTER TABLE bin ADD COLUMN tare integer | ALGORITHM=INSTANT, LOCK=NONE on bin",
        "ALTER TABLE bin DROP COLUMN weight | ALGORITHM=INSTANT, LOCK=NONE on bin",
        "ALTER TABLE bin ADD INDEX bin_weight (weight) | ALGORITHM=NOCOPY, LOCK=NONE on bin",
        "ALTER TABLE bin MODIFY weight integer NOT NULL | ALGORITHM=INPLACE, LOCK=NONE on bin",
        "ALTER TABLE bin MODIFY weight bigint | ALGORITHM=COPY, LOCK=SHARED on bin",
        "ALTER TABLE bin ADD CHECK (weight > 0) | ALGORITHM=COPY, LOCK=SHARED on bin"
      })
  void algorithmsAreMeasuredOnMariadb(String statement, String effect) {
    on(Kind.MARIADB);
    ladder.delete("standing/heavy.sql");
    ladder.rung("0002-change", statement + ";", "SELECT 1;");
    assertThat(rehearse(FROM_BLANK).rungs().get(1).statements().get(0).effects())
        .startsWith(effect);
  }

  @Test
  void rowsAreMadeUpWhereTheyAreWanted() {
    on(Kind.SQLITE);
    ladder.rung(
        "0002-rule",
        "CREATE UNIQUE INDEX one_weight ON bin (weight % 2);",
        "DROP INDEX one_weight;");
    RehearseOptions rows = new RehearseOptions(false, false, OptionalLong.of(50), false);
    assertThat(rehearse(RehearseOptions.EXPECTED).isProved()).isTrue();
    assertThat(rehearse(rows).isProved()).isFalse();
  }

  @ParameterizedTest
  @EnumSource(mode = EnumSource.Mode.EXCLUDE, names = "H2")
  void aPreviewShowsWhatWasMeasuredInARehearsalOfTheSameText(Kind kind) {
    on(kind);
    ladder.rung("0002-index", "CREATE INDEX bin_weight ON bin (weight);", "DROP INDEX bin_weight;");
    if (kind == Kind.MARIADB) {
      ladder.rung(
          "0002-index",
          "CREATE INDEX bin_weight ON bin (weight);",
          "DROP INDEX bin_weight ON bin;");
    }
    assertThat(measured()).isEmpty();
    List<String> effects = only().statements().get(0).effects();
    assertThat(effects).isNotEmpty();
    assertThat(measured()).containsExactly(new Preview.Measured(2, 2, effects));
    ladder.rung("0002-index", "CREATE INDEX bin_weight ON bin (weight, code);", "SELECT 1;");
    assertThat(measured()).isEmpty();
  }

  private List<Preview.Measured> measured() {
    return ladder.open().preview(Optional.of("dev"), ApplyOptions.ALL).measured();
  }

  @Test
  void theTimeOnTheEnvironmentIsEstimatedFromEnoughRows() {
    on(Kind.POSTGRES);
    database.execute(
        "INSERT INTO bin SELECT CAST(n AS varchar(10)), n FROM generate_series(1, 50000) n");
    ladder.rung(
        "0002-kilos",
        "ALTER TABLE bin ALTER COLUMN weight TYPE bigint;",
        "ALTER TABLE bin ALTER COLUMN weight TYPE integer;");
    ladder.delete("standing/heavy.sql");
    database.execute("DROP VIEW heavy");
    RehearsalReport.Size few = size(OptionalLong.empty());
    assertThat(few.rows()).isEqualTo(50_000);
    assertThat(few.bytes()).isPresent();
    assertThat(few.millis()).isEmpty();
    assertThat(size(OptionalLong.of(2_000)).millis()).isPresent();
  }

  @Test
  void theTimeOfAnIndexIsEstimatedOnMariadbToo() {
    on(Kind.MARIADB);
    database.execute("INSERT INTO bin SELECT concat('m', seq), seq FROM seq_1_to_50000");
    ladder.rung(
        "0002-index", "CREATE INDEX bin_weight ON bin (weight);", "DROP INDEX bin_weight ON bin;");
    RehearsalReport.Size size = size(OptionalLong.of(2_000));
    assertThat(size.rows()).isEqualTo(50_000);
    assertThat(size.millis()).isPresent();
  }

  private RehearsalReport.Size size(OptionalLong rows) {
    RehearseOptions options = new RehearseOptions(false, true, rows, false);
    RehearsalReport.OfStatement statement = rehearse(options).rungs().get(0).statements().get(0);
    assertThat(statement.whole()).hasSize(1);
    return statement.whole().get(0).there().orElseThrow();
  }

  @Test
  void aTableThatIsMadeAnewIsSaidOnSqlite() {
    on(Kind.SQLITE);
    ladder.rung("0002-kilos", "ALTER TABLE bin ALTER COLUMN weight TYPE bigint;", "SELECT 1;");
    assertThat(only().statements().get(0).effects()).first().isEqualTo("makes bin anew");
    assertThat(only().statements().get(0).effects().get(1)).matches("writes \\d+ pages");
  }
}
