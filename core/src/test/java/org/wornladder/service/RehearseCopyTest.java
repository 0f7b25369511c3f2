package org.wornladder.service;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.wornladder.ProjectException;
import org.wornladder.RefusedException;
import org.wornladder.RehearsalReport;
import org.wornladder.RehearseOptions;
import org.wornladder.TestLadder;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/** Rehearsals on some of an environment's own rows. */
class RehearseCopyTest {
  private static final Optional<String> DEV = Optional.of("dev");

  @TempDir Path root;
  private TestDatabase database;
  private TestLadder ladder;

  /** Growers in a tree, their blocks by a key of two columns, and bins of blocks. */
  private void on(Kind kind) {
    database = TestDatabase.make(kind, root);
    ladder = TestLadder.on(database, root);
    String binary =
        switch (kind) {
          case POSTGRES -> "bytea";
          case SQLITE -> "blob";
          default -> "varbinary(20)";
        };
    ladder.rung(
        "0001-tables",
        ("CREATE TABLE grower (id %s, name varchar(40) NOT NULL, boss integer REFERENCES grower"
                + " (id), mark %s, at timestamp NULL);\n"
                + "CREATE TABLE block (grower integer NOT NULL, code varchar(9) NOT NULL,"
                + " area numeric(9, 3), PRIMARY KEY (grower, code),"
                + " FOREIGN KEY (grower) REFERENCES grower (id));\n"
                + "CREATE TABLE bin (id integer PRIMARY KEY, grower integer, code varchar(9),"
                + " weight integer, FOREIGN KEY (grower, code) REFERENCES block (grower, code));")
            .formatted(kind.identity(), binary),
        "DROP TABLE bin;\nDROP TABLE block;\nDROP TABLE grower;");
    ladder.apply();
    String bytes =
        switch (kind) {
          case POSTGRES -> "'\\x00ff27'";
          default -> "X'00ff27'";
        };
    String backslash = kind == Kind.MARIADB ? "\\\\" : "\\";
    database.execute(
        "INSERT INTO grower (id, name, boss, mark, at) VALUES (1, 'O''Brien "
            + backslash
            + " Söhne', NULL, "
            + bytes
            + ", '2026-03-01 12:30:00')");
    for (int i = 2; i <= 30; i++) {
      database.execute(
          "INSERT INTO grower (id, name, boss) VALUES (" + i + ", 'g" + i + "', " + (i - 1) + ")",
          "INSERT INTO block VALUES (" + i + ", 'B" + i + "', 1.125)");
    }
    for (int i = 1; i <= 60; i++) {
      int grower = i == 60 ? 30 : 2 + i % 4;
      database.execute(
          "INSERT INTO bin VALUES (" + i + ", " + grower + ", 'B" + grower + "', " + i % 7 + ")");
    }
  }

  private RehearsalReport rehearse(long rows, String... tables) {
    return ladder
        .open()
        .rehearse(
            DEV,
            new RehearseOptions(
                false,
                false,
                OptionalLong.of(rows),
                List.of(tables),
                false,
                false,
                Optional.empty()));
  }

  /** A rung that fails unless a query gives this number. */
  private void expects(String number, String name, String query, int count) {
    ladder.rung(
        number + "-" + name,
        "CREATE TABLE "
            + name
            + " (n integer CHECK (n = "
            + count
            + "));\nINSERT INTO "
            + name
            + " SELECT count(*) FROM "
            + query
            + ";",
        "DROP TABLE " + name + ";");
  }

  @ParameterizedTest
  @EnumSource
  void rowsComeWithAllThatTheyPointTo(Kind kind) {
    on(kind);
    expects("0002", "bins", "bin WHERE id IN (1, 2, 3, 58, 59, 60)", 6);
    expects("0003", "blocks", "block WHERE area = 1.125", 4);
    // The boss of the boss: the last bin's grower brings all thirty.
    expects("0004", "growers", "grower", 30);
    expects("0005", "names", "grower WHERE name LIKE 'O''Brien _ S_hne'", 1);
    expects("0006", "marks", "grower WHERE mark IS NOT NULL AND at IS NOT NULL", 1);
    ladder.rung("0007-next", "INSERT INTO grower (name) VALUES ('new');", "SELECT 1;");
    RehearsalReport report = rehearse(6, "bin");
    assertThat(report.notes()).isEmpty();
    assertThat(report.start()).contains("with 40 rows of 3 tables");
    assertThat(report.rungs()).filteredOn(rung -> rung.up().isEmpty()).isEmpty();
    assertThat(report.rungs()).hasSize(6);
  }

  @ParameterizedTest
  @EnumSource
  void aRungThatTheRowsDoNotFitIsFound(Kind kind) {
    on(kind);
    expects("0002", "few", "bin", 4);
    assertThat(rehearse(4, "bin").rungs().get(0).faults()).isEmpty();
    assertThat(rehearse(60, "b*").rungs().get(0).faults())
        .first()
        .asString()
        .contains("the way up fails");
  }

  @Test
  void rowsOfPartitionsAndHeirsComeOnce() {
    on(Kind.POSTGRES);
    ladder.rung(
        "0002-heirs",
        "CREATE TABLE pick (id integer, season integer, PRIMARY KEY (id, season))"
            + " PARTITION BY LIST (season);\n"
            + "CREATE TABLE pick_1 PARTITION OF pick FOR VALUES IN (1);\n"
            + "CREATE TABLE kept (id integer PRIMARY KEY);\n"
            + "CREATE TABLE cooled (celsius integer) INHERITS (kept);",
        "DROP TABLE cooled, kept, pick;");
    ladder.apply();
    database.execute(
        "INSERT INTO pick VALUES (1, 1), (2, 1)",
        "INSERT INTO cooled VALUES (1, 4)",
        "INSERT INTO kept VALUES (7)");
    expects("0003", "picks", "pick", 2);
    expects("0004", "keeps", "ONLY kept", 1);
    expects("0005", "cools", "cooled", 1);
    RehearsalReport report = rehearse(10, "pick*", "kept", "cooled");
    assertThat(report.notes()).isEmpty();
    assertThat(report.rungs()).filteredOn(rung -> rung.up().isEmpty()).isEmpty();
  }

  @Test
  void triggersDoNotRunForCopiedRows() {
    on(Kind.SQLITE);
    ladder.rung(
        "0002-log",
        "CREATE TABLE log (bin integer);\nCREATE TRIGGER logged AFTER INSERT ON bin BEGIN"
            + " INSERT INTO log VALUES (new.id); END;",
        "DROP TRIGGER logged;\nDROP TABLE log;");
    ladder.apply();
    expects("0003", "logs", "log", 0);
    expects("0004", "triggers", "sqlite_master WHERE type = 'trigger'", 1);
    RehearsalReport report = rehearse(10, "bin", "log");
    assertThat(report.notes()).isEmpty();
    assertThat(report.isProved()).isTrue();
  }

  @Test
  void aGuardedEnvironmentKeepsItsRowsUnlessItsSettingsAllowIt() {
    on(Kind.SQLITE);
    expects("0002", "bins", "bin", 60);
    String url = database.url();
    ladder.file("ladder.yaml", settings(url, ""));
    assertThatThrownBy(() -> rehearse(60, "bin"))
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("its rows are not copied");
    ladder.file("ladder.yaml", settings(url, "    copy-rows: allow\n"));
    assertThat(rehearse(60, "bin").isProved()).isTrue();
  }

  private static String settings(String url, String more) {
    return "name: hollowfield\nenvironments:\n  dev:\n    url: "
        + url
        + "\n    guarded: true\n"
        + more;
  }

  @Test
  void aTableThatIsNotThereIsNamed() {
    on(Kind.H2);
    assertThatThrownBy(() -> rehearse(5, "bim"))
        .isInstanceOf(ProjectException.class)
        .hasMessageContaining("there is no table 'bim'");
  }
}
