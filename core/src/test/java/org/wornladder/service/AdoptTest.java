package org.wornladder.service;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.wornladder.AdoptOptions;
import org.wornladder.AdoptResult;
import org.wornladder.Against;
import org.wornladder.ApplyOptions;
import org.wornladder.DriftRung;
import org.wornladder.MendScript;
import org.wornladder.RefusedException;
import org.wornladder.RunListener;
import org.wornladder.TestLadder;
import org.wornladder.change.Difference;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;
import org.wornladder.sql.Place;
import org.wornladder.sql.Splitter;

/** A database that existed before the ladder did, with everything odd in it. */
class AdoptTest {
  private static final AdoptOptions ALL = new AdoptOptions(List.of(), List.of(), List.of());

  @TempDir Path root;
  private TestDatabase database;
  private TestDatabase other;
  private TestLadder ladder;

  /** A small one. */
  private void small(Kind kind) throws IOException {
    make(kind);
    fillSmall(database);
  }

  private static void fillSmall(TestDatabase database) {
    database.execute(
        "CREATE TABLE orchard (id int PRIMARY KEY, name varchar(40) NOT NULL)",
        "CREATE TABLE block (id int PRIMARY KEY, orchard_id int REFERENCES orchard (id))",
        "CREATE VIEW labels AS SELECT name FROM orchard");
  }

  /** One with everything odd in it. */
  private void on(Kind kind) throws IOException {
    make(kind);
    fill(database);
  }

  private void make(Kind kind) throws IOException {
    database = TestDatabase.make(kind, Files.createDirectories(root.resolve("first")));
    other = TestDatabase.make(kind, Files.createDirectories(root.resolve("second")));
    ladder = TestLadder.on(database, root.resolve("project"));
    settings("");
  }

  private void settings(String more) {
    ladder.file(
        "ladder.yaml",
        "name: hollowfield\nenvironments:\n  dev: { url: '%s', client-files: allow }\n"
            .concat("  test: { url: '%s', client-files: allow }\n%s")
            .formatted(database.url(), other.url(), more));
  }

  private static void fill(TestDatabase database) throws IOException {
    String file = "/structures/" + database.engine().name() + "-odd.sql";
    try (InputStream in = AdoptTest.class.getResourceAsStream(file)) {
      String text = new String(in.readAllBytes(), StandardCharsets.UTF_8);
      Splitter.split(text, database.engine().dialect(), Place.of(file))
          .forEach(statement -> database.execute(statement.text()));
    }
  }

  private AdoptResult adopt(String environment, AdoptOptions options) {
    return ladder
        .open()
        .adopt(Optional.of(environment), options, TestLadder.YES, RunListener.SILENT);
  }

  private List<Difference> drift(String environment, Against against) {
    return ladder.open().drift(Optional.of(environment), against, false).structure();
  }

  @ParameterizedTest
  @EnumSource
  void isOnRecordAndItsFilesBuildItAnew(Kind kind) throws Exception {
    on(kind);
    AdoptResult adoption = adopt("dev", ALL);
    assertThat(adoption.leftOut()).isEmpty();
    assertThat(database.events()).containsExactly("adopted");
    for (Against against : Against.values()) {
      assertThat(drift("dev", against)).as(against.label()).isEmpty();
    }
    assertThat(ladder.open().compare("rungs", "schema", false).differences()).isEmpty();
    assertThatThrownBy(() -> adopt("dev", ALL)).isInstanceOf(RefusedException.class);
    ladder.open().apply(Optional.of("test"), ApplyOptions.ALL, TestLadder.YES, RunListener.SILENT);
    assertThat(ladder.open().compare("env:dev", "env:test", false).differences()).isEmpty();
  }

  @ParameterizedTest
  @EnumSource
  void aSecondEnvironmentIsMarkedOnlyIfItIsTheSame(Kind kind) throws Exception {
    small(kind);
    fillSmall(other);
    other.execute("CREATE TABLE legacy (id int)");
    adopt("dev", ALL);
    List<String> written = files();
    AdoptResult refused = adopt("test", ALL);
    assertThat(refused.differences())
        .singleElement()
        .extracting(Difference::name)
        .asString()
        .isEqualToIgnoringCase("legacy");
    other.execute("DROP TABLE legacy");
    assertThat(adopt("test", ALL).differences()).isEmpty();
    assertThat(other.events()).containsExactly("adopted");
    assertThat(files()).isEqualTo(written);
  }

  private List<String> files() throws IOException {
    try (Stream<Path> all = Files.walk(ladder.root())) {
      return all.map(Path::toString).filter(name -> name.endsWith(".sql")).sorted().toList();
    }
  }

  @ParameterizedTest
  @EnumSource
  void whatIsLeftToOthersIsNoPartOfIt(Kind kind) throws Exception {
    small(kind);
    database.execute("CREATE TABLE legacy_one (id int)", "CREATE TABLE legacy_two (id int)");
    String pattern = kind == Kind.H2 ? "table:LEGACY*" : "table:legacy*";
    adopt("dev", new AdoptOptions(List.of(), List.of(pattern), List.of()));
    assertThat(files().toString()).doesNotContainIgnoringCase("legacy");
    assertThat(drift("dev", Against.RUNGS)).isEmpty();
    assertThat(Files.readString(ladder.root().resolve("ladder.yaml"))).contains(pattern);
  }

  @ParameterizedTest
  @EnumSource
  void theRowsThatWereAskedForAreASeedFile(Kind kind) throws Exception {
    small(kind);
    database.execute(
        "CREATE TABLE grade (code varchar(9) PRIMARY KEY, label varchar(40), least int)",
        "INSERT INTO grade VALUES ('b', 'Extra, \"top\"', 75), ('a', '', NULL)");
    AdoptResult adoption = adopt("dev", new AdoptOptions(List.of(), List.of(), List.of("grade")));
    String file =
        adoption.files().stream()
            .filter(name -> name.startsWith("seeds/"))
            .findFirst()
            .orElseThrow();
    assertThat(Files.readString(ladder.root().resolve(file)))
        .isEqualToIgnoringCase("code,label,least\na,\"\",\nb,\"Extra, \"\"top\"\"\",75\n");
  }

  @ParameterizedTest
  @EnumSource
  void whatAHandChangedIsMadeOfficialOrMended(Kind kind) throws Exception {
    small(kind);
    adopt("dev", ALL);
    database.execute(
        "CREATE TABLE crate (id int PRIMARY KEY, weight int DEFAULT 7)",
        "CREATE INDEX crate_weight ON crate (weight)",
        "ALTER TABLE block ADD fax varchar(20)");
    DriftRung official =
        ladder.open().driftAsRung(Optional.of("dev"), "crates", TestLadder.YES, RunListener.SILENT);
    assertThat(official.leftOut()).isEmpty();
    assertThat(official.oneWay()).isEmpty();
    assertThat(drift("dev", Against.EXPECTED)).isEmpty();
    assertThat(drift("dev", Against.RUNGS)).isEmpty();
    assertThat(database.events()).containsExactly("adopted", "adopted");
    database.execute("DROP TABLE crate", "CREATE TABLE legacy (id int)");
    MendScript mending = ladder.open().mendScript(Optional.of("dev"), Against.EXPECTED, false);
    assertThat(mending.leftOut()).isEmpty();
    mending.statements().forEach(database::execute);
    assertThat(drift("dev", Against.EXPECTED)).isEmpty();
    assertThatThrownBy(
            () ->
                ladder
                    .open()
                    .driftAsRung(Optional.of("dev"), "again", TestLadder.YES, RunListener.SILENT))
        .isInstanceOf(RefusedException.class);
    assertThat(ladder.open().history(Optional.of("dev")).history().broken())
        .isEqualTo(Optional.empty());
  }

  @Test
  void ownersAndGrantsAreGivenBackByWhatMendsAndAreNoPartOfARung() throws Exception {
    small(Kind.POSTGRES);
    database.execute(
        "CREATE VIEW wide AS SELECT 1 AS one, 2 AS two",
        "CREATE VIEW narrow AS SELECT one FROM wide",
        "GRANT SELECT ON narrow TO PUBLIC");
    adopt("dev", ALL);
    List<String> byHand =
        List.of(
            "DROP VIEW narrow",
            "DROP VIEW wide",
            "CREATE VIEW wide AS SELECT 1 AS one",
            "CREATE VIEW narrow AS SELECT one FROM wide",
            "GRANT SELECT ON narrow TO PUBLIC");
    byHand.forEach(database::execute);
    List<String> mending =
        ladder.open().mendScript(Optional.of("dev"), Against.EXPECTED, false).statements();
    assertThat(mending)
        .startsWith("DROP VIEW narrow", "DROP VIEW wide")
        .contains("GRANT SELECT ON TABLE narrow TO PUBLIC")
        .anyMatch(statement -> statement.startsWith("ALTER VIEW narrow OWNER TO"));
    DriftRung official =
        ladder
            .open()
            .driftAsRung(Optional.of("dev"), "slim view", TestLadder.YES, RunListener.SILENT);
    assertThat(ladder.text(official.file()))
        .contains("DROP VIEW narrow;")
        .doesNotContain("GRANT", "OWNER");
    assertThat(drift("dev", Against.RUNGS)).isEmpty();
  }

  /** The mode under which a text was read is part of what its file makes. */
  @Test
  void aTriggerOfAnotherModeIsBuiltByItsFile() throws Exception {
    small(Kind.MARIADB);
    database.execute(
        "SET sql_mode = 'ANSI_QUOTES,PIPES_AS_CONCAT'",
        "CREATE TRIGGER a_mark BEFORE INSERT ON block FOR EACH ROW SET @mark = 'a' || 'b'");
    adopt("dev", ALL);
    assertThat(ladder.text("schema/triggers/a_mark.sql")).contains("PIPES_AS_CONCAT");
    assertThat(drift("dev", Against.SCHEMA)).isEmpty();
    assertThat(drift("dev", Against.RUNGS)).isEmpty();
  }

  @ParameterizedTest
  @EnumSource
  void whereNothingIsOnRecordNothingIsMendedNorMadeOfficial(Kind kind) throws Exception {
    small(kind);
    assertThatThrownBy(() -> ladder.open().mendScript(Optional.of("dev"), Against.EXPECTED, false))
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("nothing is on record yet");
    assertThatThrownBy(
            () ->
                ladder
                    .open()
                    .driftAsRung(Optional.of("dev"), "all", TestLadder.YES, RunListener.SILENT))
        .isInstanceOf(RefusedException.class);
    assertThat(files()).isEmpty();
    assertThat(database.query("SELECT count(*) FROM orchard")).containsExactly("0");
  }

  @ParameterizedTest
  @EnumSource
  void onABrokenChainNothingIsBuilt(Kind kind) throws Exception {
    small(kind);
    adopt("dev", ALL);
    database.execute("CREATE TABLE crate (id int)");
    String table = database.engine().quoting().name("ladder_journal");
    database.execute("UPDATE " + table + " SET name = 'another'");
    assertThatThrownBy(
            () ->
                ladder
                    .open()
                    .driftAsRung(Optional.of("dev"), "crates", TestLadder.YES, RunListener.SILENT))
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("chain is broken");
    assertThatThrownBy(() -> adopt("dev", ALL)).hasMessageContaining("chain is broken");
    assertThat(files().toString()).doesNotContain("crates");
  }
}
