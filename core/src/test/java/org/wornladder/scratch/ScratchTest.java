package org.wornladder.scratch;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.api.parallel.Isolated;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;
import org.wornladder.Against;
import org.wornladder.ApplyOptions;
import org.wornladder.LadderException;
import org.wornladder.ProjectException;
import org.wornladder.RefusedException;
import org.wornladder.ReplayException;
import org.wornladder.RunListener;
import org.wornladder.TestLadder;
import org.wornladder.UnreachableException;
import org.wornladder.server.MariadbServer;
import org.wornladder.server.PostgresServer;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/** Scratch databases: where they are made, what they keep out, and that nothing of them is left. */
@Isolated("It looks at all scratch databases of the server.")
class ScratchTest {
  @TempDir Path root;
  private TestDatabase database;
  private TestLadder ladder;

  private void on(Kind kind) throws Exception {
    database = TestDatabase.make(kind, Files.createDirectories(root.resolve("data")));
    ladder = TestLadder.on(database, root.resolve("project")).tables(3);
    ladder.apply();
  }

  private void againstRungs() {
    assertThat(ladder.open().drift(Optional.of("dev"), Against.RUNGS, false).structure()).isEmpty();
  }

  private List<String> scratches() {
    return switch (database.kind()) {
      case POSTGRES ->
          database.query(
              "SELECT datname FROM pg_database WHERE datname LIKE 'ladder_scratch_holl%'");
      case MARIADB ->
          database.query(
              "SELECT schema_name FROM information_schema.schemata"
                  + " WHERE schema_name LIKE 'ladder_scratch_holl%'");
      default -> List.of();
    };
  }

  private static void server(Kind kind, String sql) {
    if (kind == Kind.POSTGRES) {
      PostgresServer.execute(sql);
    } else {
      MariadbServer.execute(sql);
    }
  }

  private void settings(String ofDev, String more) {
    ladder.file(
        "ladder.yaml",
        "name: hollowfield\nenvironments:\n  dev: { url: '%s'%s }\n%s"
            .formatted(database.url(), ofDev, more));
  }

  @ParameterizedTest
  @EnumSource
  void nothingOfThemIsLeftAndTheDatabaseIsNotTouched(Kind kind) throws Exception {
    on(kind);
    List<String> events = database.events();
    againstRungs();
    assertThat(scratches()).isEmpty();
    assertThat(database.events()).isEqualTo(events);
  }

  @ParameterizedTest
  @EnumSource(names = {"POSTGRES", "MARIADB"})
  void whatACrashLeftIsDroppedIfItIsOurs(Kind kind) throws Exception {
    on(kind);
    String quote = kind == Kind.POSTGRES ? "" : "`";
    String ours = "ladder_scratch_hollowfield_20261101120000_aa";
    String alien = "ladder_scratch_hollowfield_20261101120000_bb";
    for (String name : List.of(ours, alien)) {
      server(kind, "CREATE DATABASE " + quote + name + quote);
    }
    new TestDatabase(kind, database.url().replaceFirst("/ladder_test_\\w+", "/" + ours))
        .execute(
            "CREATE TABLE ladder_scratch (project varchar(200))",
            "INSERT INTO ladder_scratch VALUES ('hollowfield')");
    againstRungs();
    assertThat(scratches()).containsExactly(alien);
    server(kind, "DROP DATABASE " + quote + alien + quote);
  }

  /** So that the files are run again. */
  private void forgetStructures() throws IOException {
    try (Stream<Path> files = Files.list(ladder.root().resolve(CacheFolder.FOLDER))) {
      files.forEach(file -> file.toFile().delete());
    }
  }

  @ParameterizedTest
  @EnumSource(names = {"POSTGRES", "MARIADB"})
  void noneIsMadeBesideAGuardedDatabaseUnlessAPlaceIsNamed(Kind kind) throws Exception {
    on(kind);
    settings(", guarded: true", "");
    assertThatThrownBy(this::againstRungs)
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("no scratch database is made on its server");
    TestDatabase place = TestDatabase.make(kind, root);
    place.execute("CREATE TABLE precious (id int)");
    settings(", guarded: true", "scratch: { url: '" + place.url() + "' }\n");
    againstRungs();
    assertThat(place.query("SELECT count(*) FROM precious")).containsExactly("0");
    settings(", guarded: true", "scratch: { url: '" + place.url() + "', may-erase: true }\n");
    forgetStructures();
    againstRungs();
    assertThatThrownBy(() -> place.query("SELECT count(*) FROM precious"))
        .isInstanceOf(IllegalStateException.class);
    againstRungs();
  }

  @ParameterizedTest
  @EnumSource(names = {"POSTGRES", "MARIADB"})
  void withoutTheRightToMakeOneTheWaysOutAreSaid(Kind kind) throws Exception {
    on(kind);
    String user = "weak_" + ProcessHandle.current().pid();
    String name = database.url().replaceFirst(".*/(ladder_test_\\w+).*", "$1");
    server(
        kind,
        kind == Kind.POSTGRES
            ? "CREATE ROLE " + user + " LOGIN PASSWORD 'weak'"
            : "CREATE USER " + user + "@localhost IDENTIFIED BY 'weak'");
    if (kind == Kind.POSTGRES) {
      database.execute("GRANT SELECT ON ALL TABLES IN SCHEMA public TO " + user);
    } else {
      server(kind, "GRANT SELECT ON " + name + ".* TO " + user + "@localhost");
    }
    String host = kind == Kind.POSTGRES ? "postgres" : "mariadb";
    ladder.file(
        "ladder.yaml",
        "name: hollowfield\nenvironments:\n  dev: { url: '%s://localhost:%d/%s', user: %s, password: weak }\n"
            .formatted(host, database.port(), name, user));
    assertThat(ladder.open().drift(Optional.of("dev"), Against.EXPECTED, false).isClean()).isTrue();
    assertThatThrownBy(this::againstRungs)
        .isInstanceOfSatisfying(
            UnreachableException.class,
            e -> assertThat(e.advice().toString()).contains("scratch: in ladder.yaml"));
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "POSTGRES|CREATE ROLE reader;",
        "POSTGRES|GRANT pg_monitor TO postgres;",
        "POSTGRES|ALTER DATABASE postgres SET work_mem = '4MB';",
        "POSTGRES|CREATE SERVER far FOREIGN DATA WRAPPER near;",
        "POSTGRES|CREATE TABLESPACE fast LOCATION '/tmp';",
        "MARIADB|CREATE USER reader;",
        "MARIADB|GRANT SELECT ON *.* TO reader;",
        "MARIADB|CREATE TABLE mysql.mine (id int);",
        "MARIADB|INSERT INTO `mysql`.`user` VALUES (1);",
        "H2|CREATE USER reader PASSWORD 'x';",
        "SQLITE|ATTACH DATABASE 'other.db' AS other;"
      })
  void whatWouldReachOutIsRefusedBeforeAnythingRuns(Kind kind, String statement) throws Exception {
    on(kind);
    ladder.file("schema/roles/reader.sql", "\n" + statement + "\n");
    assertThatThrownBy(() -> ladder.open().drift(Optional.of("dev"), Against.SCHEMA, false))
        .isInstanceOfSatisfying(
            ReplayException.class,
            e -> {
              assertThat(e.where()).contains("schema/roles/reader.sql:2:1");
              assertThat(e.advice().toString()).contains("own-server: true");
            });
    assertThat(scratches()).isEmpty();
  }

  @ParameterizedTest
  @EnumSource
  void aFileThatDoesNotRunIsToldWithItsPlaceAndAllOfThem(Kind kind) throws Exception {
    on(kind);
    ladder.file("schema/a.sql", "CREATE VIEW first_one AS SELECT id FROM later_one;\n");
    ladder.file("schema/b.sql", "CREATE TABLE later_one (id int);\nDROP TABLE nowhere;\n");
    ladder.file("schema/c.sql", "DROP VIEW nowhere_too;\n");
    assertThatThrownBy(() -> ladder.open().drift(Optional.of("dev"), Against.SCHEMA, false))
        .isInstanceOfSatisfying(
            ProjectException.class,
            e ->
                assertThat(e.problems())
                    .extracting(problem -> problem.place().toString())
                    .containsExactly("schema/b.sql:2:1", "schema/c.sql:1:1"));
    assertThat(scratches()).isEmpty();
    ladder.rung("0004-wrong", "DROP TABLE nowhere;", "SELECT 1;");
    assertThatThrownBy(this::againstRungs)
        .isInstanceOf(ReplayException.class)
        .isInstanceOf(LadderException.class)
        .hasMessageContaining("in the scratch database: 0004 failed");
  }

  @ParameterizedTest
  @EnumSource(names = {"POSTGRES", "MARIADB"})
  void aDatabaseThatIsInUseIsNeverEmptied(Kind kind) throws Exception {
    on(kind);
    database.execute("INSERT INTO bin_1 VALUES (7)");
    settings("", "scratch: { url: '" + database.url() + "', may-erase: true }\n");
    assertThatThrownBy(this::againstRungs)
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("has a journal: it is in use");
    assertThat(database.query("SELECT id FROM bin_1")).containsExactly("7");
    TestDatabase elsewhere = TestDatabase.make(kind, root);
    ladder.file(
        "ladder.yaml",
        "name: hollowfield\nenvironments:\n  dev: { url: '%s' }\n  test: { url: '%s' }\nscratch: { url: '%s', may-erase: true }\n"
            .formatted(database.url(), elsewhere.url(), elsewhere.url()));
    ladder.open().apply(Optional.of("test"), ApplyOptions.ALL, TestLadder.YES, RunListener.SILENT);
    assertThatThrownBy(this::againstRungs).isInstanceOf(RefusedException.class);
    assertThat(ladder.open().status(Optional.of("test")).at()).isEqualTo(3);
  }
}
