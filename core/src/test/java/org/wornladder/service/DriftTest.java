package org.wornladder.service;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalLong;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.wornladder.Against;
import org.wornladder.ApplyOptions;
import org.wornladder.Approval;
import org.wornladder.ComparisonResult;
import org.wornladder.DriftReport;
import org.wornladder.RefusedException;
import org.wornladder.RollbackOptions;
import org.wornladder.RunListener;
import org.wornladder.StatementFailedException;
import org.wornladder.TestLadder;
import org.wornladder.change.Difference;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/** What is expected of a structure with every kind of thing in it, and what a hand changed. */
class DriftTest {
  private static final String SQLITE =
      """
      CREATE TABLE "Orch.ard ""x"" y" (id integer PRIMARY KEY AUTOINCREMENT, "näme 🍎" text COLLATE NOCASE
        UNIQUE, area real CHECK (area > 0), double real AS (area * 2) STORED);
      CREATE TABLE block (id integer PRIMARY KEY, orchard_id integer
        REFERENCES "Orch.ard ""x"" y" (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED);
      CREATE TABLE pair (a text, b text, PRIMARY KEY (b, a)) STRICT, WITHOUT ROWID;
      CREATE UNIQUE INDEX block_half ON block (orchard_id DESC) WHERE id > 3;
      CREATE VIEW stock AS SELECT id FROM block;
      CREATE TRIGGER stamp AFTER INSERT ON block BEGIN SELECT 1; END;
      """;
  private static final String POSTGRES =
      """
      CREATE TYPE grade AS ENUM ('A', 'it''s B');
      CREATE DOMAIN weight AS numeric(8,2) CHECK (VALUE >= 0);
      CREATE TYPE spot AS (x int, "Y Z" text);
      CREATE SEQUENCE ticket START 5 CYCLE MAXVALUE 100;
      CREATE TABLE "Orch.ard ""x"" y" (id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
        "näme 🍎" varchar(40) COLLATE "C" UNIQUE NULLS NOT DISTINCT, tags text[], g grade, w weight,
        area int CHECK (area > 0), double int GENERATED ALWAYS AS (area * 2) STORED);
      COMMENT ON TABLE "Orch.ard ""x"" y" IS 'it''s';
      CREATE TABLE block (id serial PRIMARY KEY, orchard_id bigint
        REFERENCES "Orch.ard ""x"" y" ON DELETE CASCADE DEFERRABLE, during tsrange,
        EXCLUDE USING gist (during WITH &&));
      CREATE TABLE picking (id int, at date) PARTITION BY RANGE (at);
      CREATE TABLE picking_26 PARTITION OF picking FOR VALUES FROM ('2026-01-01') TO ('2027-01-01');
      CREATE UNIQUE INDEX block_half ON block (orchard_id DESC) INCLUDE (during) WHERE id > 3;
      CREATE VIEW stock AS SELECT id FROM block;
      CREATE MATERIALIZED VIEW total AS SELECT count(*) AS n FROM block;
      CREATE UNIQUE INDEX total_n ON total (n);
      CREATE FUNCTION stamp() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN RETURN NEW; END $$;
      CREATE PROCEDURE nothing() LANGUAGE plpgsql AS $$ BEGIN NULL; END $$;
      CREATE AGGREGATE longest(text) (SFUNC = textcat, STYPE = text);
      CREATE TRIGGER stamp BEFORE INSERT ON block FOR EACH ROW EXECUTE FUNCTION stamp();
      ALTER TABLE block ENABLE ROW LEVEL SECURITY;
      CREATE POLICY own ON block USING (id > 0);
      CREATE PUBLICATION outwards;
      """;
  private static final String MARIADB =
      """
      CREATE TABLE `Orch.ard ``x``` (id bigint AUTO_INCREMENT PRIMARY KEY, `näme` varchar(40)
        COLLATE utf8mb4_bin UNIQUE, area int CHECK (area > 0), `double` int AS (area * 2) STORED,
        at timestamp DEFAULT current_timestamp ON UPDATE current_timestamp COMMENT 'it''s',
        kind enum('a', 'b')) COMMENT = 'whole' DEFAULT CHARSET = utf8mb4;
      CREATE TABLE block (id int PRIMARY KEY, orchard_id bigint,
        FOREIGN KEY (orchard_id) REFERENCES `Orch.ard ``x``` (id) ON DELETE CASCADE, note text);
      CREATE INDEX block_half ON block (note(10), id DESC);
      CREATE SEQUENCE ticket START WITH 5;
      CREATE VIEW stock AS SELECT id FROM block;
      CREATE FUNCTION add_up(a int, b int) RETURNS int DETERMINISTIC RETURN a + b;
      CREATE PROCEDURE nothing() BEGIN END;
      CREATE TRIGGER stamp BEFORE INSERT ON block FOR EACH ROW SET NEW.note = 'x';
      CREATE EVENT nightly ON SCHEDULE EVERY 1 DAY DO DELETE FROM block WHERE id < 0;
      """;
  private static final String H2 =
      """
      CREATE TABLE "Orch.ard ""x"" y" (id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
        "näme 🍎" varchar(40) UNIQUE, area int CHECK (area > 0),
        "double" int GENERATED ALWAYS AS (area * 2));
      COMMENT ON TABLE "Orch.ard ""x"" y" IS 'whole';
      CREATE TABLE block (id int PRIMARY KEY, orchard_id bigint,
        FOREIGN KEY (orchard_id) REFERENCES "Orch.ard ""x"" y" (id) ON DELETE CASCADE);
      CREATE DOMAIN weight AS numeric(8,2);
      CREATE UNIQUE INDEX block_half ON block (id DESC, orchard_id);
      CREATE SEQUENCE ticket START WITH 5;
      CREATE VIEW stock AS SELECT id FROM block;
      CREATE ALIAS add_up FOR "java.lang.Math.addExact(int,int)";
      CREATE CONSTANT half VALUE 0.5;
      """;

  @TempDir Path root;

  private TestDatabase database;
  private TestLadder ladder;

  private void on(Kind kind) {
    database = TestDatabase.make(kind, root);
    ladder = TestLadder.on(database, root);
    String script =
        switch (kind) {
          case SQLITE -> SQLITE;
          case POSTGRES -> POSTGRES;
          case MARIADB -> MARIADB;
          case H2 -> H2;
        };
    ladder.settings(database, ", client-files: allow");
    ladder.file("rungs/0001-all.sql", "--| up\n" + script + "--| no way down: a test\n");
    ladder.apply();
  }

  private DriftReport drift() {
    return ladder.open().drift(Optional.of("dev"), Against.EXPECTED, false);
  }

  private List<String> found() {
    return drift().structure().stream().map(DriftTest::words).toList();
  }

  private static String words(Difference difference) {
    String change = difference.change().name().toLowerCase(Locale.ROOT);
    String name = difference.fullName().toLowerCase(Locale.ROOT);
    return change + " " + difference.kind().label() + " " + name;
  }

  @ParameterizedTest
  @EnumSource
  void whatRungsMadeIsExpectedWhole(Kind kind) {
    on(kind);
    DriftReport drift = drift();
    assertThat(drift.isClean()).as(drift.toString()).isTrue();
    assertThat(drift.known()).isTrue();
  }

  @ParameterizedTest
  @EnumSource
  void whatAHandChangedStaysADifferenceWhateverRunsAfterIt(Kind kind) {
    on(kind);
    database.execute(
        "ALTER TABLE block ADD fax varchar(20) DEFAULT 'none'",
        "CREATE TABLE legacy (id int)",
        "DROP VIEW stock",
        "CREATE VIEW stock AS SELECT id, 1 AS one FROM block",
        kind == Kind.MARIADB ? "DROP INDEX block_half ON block" : "DROP INDEX block_half");
    String[] byHand = {
      "added column block.fax",
      "removed index block.block_half",
      "added table legacy",
      "changed view stock"
    };
    assertThat(found()).containsExactlyInAnyOrder(byHand);
    ladder.rung("0002-bins", "CREATE TABLE bin (id int PRIMARY KEY);", "DROP TABLE bin;");
    ladder.apply();
    assertThat(found()).containsExactlyInAnyOrder(byHand);
    ladder.rollback(new RollbackOptions.Last(1));
    assertThat(found()).containsExactlyInAnyOrder(byHand);
    database.execute("DROP VIEW stock", "ALTER TABLE block DROP COLUMN fax", "DROP TABLE legacy");
    assertThat(found())
        .containsExactlyInAnyOrder("removed index block.block_half", "removed view stock");
  }

  @ParameterizedTest
  @EnumSource
  void whoOwnsAndUsesTheSchemaIsGivenBeforeTheFirstRun(Kind kind) {
    on(kind);
    assertThat(ladder.open().drift(Optional.of("dev"), Against.EXPECTED, true).structure())
        .isEmpty();
    ladder.rung("0002-wrong", "CREATE TABLE crate (id int); INSERT INTO nowhere VALUES (1);", "");
    assertThatThrownBy(ladder::apply).isInstanceOf(RuntimeException.class);
    assertThat(ladder.open().drift(Optional.of("dev"), Against.EXPECTED, true).structure())
        .isEmpty();
  }

  @Test
  void aGrantOnTheSchemaIsADifferenceWhereItIsAskedFor() {
    on(Kind.POSTGRES);
    database.execute("GRANT CREATE ON SCHEMA public TO PUBLIC");
    assertThat(drift().structure()).isEmpty();
    assertThat(ladder.open().drift(Optional.of("dev"), Against.EXPECTED, true).structure())
        .singleElement()
        .extracting(Difference::name)
        .isEqualTo("schema public to PUBLIC");
  }

  @ParameterizedTest
  @EnumSource
  void whatARunDidBeforeItFailedIsExpected(Kind kind) {
    on(kind);
    ladder.rung("0002-bins", "CREATE TABLE bin (id int PRIMARY KEY);", "DROP TABLE bin;");
    ladder.rung("0003-wrong", "CREATE TABLE crate (id int); INSERT INTO nowhere VALUES (1);", "");
    assertThatThrownBy(ladder::apply).isInstanceOf(RuntimeException.class);
    assertThat(drift().structure()).isEmpty();
  }

  @ParameterizedTest
  @EnumSource(names = {"MARIADB", "H2"})
  void whatAPersonDidToEndAStuckRungIsExpected(Kind kind) {
    on(kind);
    ladder.rung(
        "0002-bins",
        "CREATE TABLE bin (id int);\nCREATE TABLE legacy (id int);\nCREATE TABLE crate (id int);",
        "DROP TABLE crate;\nDROP TABLE legacy;\nDROP TABLE bin;");
    database.execute("CREATE VIEW legacy AS SELECT 1 AS one");
    assertThatThrownBy(ladder::apply).isInstanceOf(StatementFailedException.class);
    database.execute("DROP VIEW legacy");
    assertThat(found()).isEmpty();
    ladder.apply();
    assertThat(found()).isEmpty();
    database.execute("CREATE TABLE later (id int)");
    assertThat(found()).containsExactly("added table later");
  }

  @ParameterizedTest
  @EnumSource
  void aGuardedDatabaseThatDriftedIsRefusedUntilAReasonStands(Kind kind) {
    on(kind);
    ladder.file("ladder.yaml", settings(", guarded: true }"));
    database.execute("CREATE TABLE legacy (id int)");
    ladder.rung("0002-bins", "CREATE TABLE bin (id int PRIMARY KEY);", "DROP TABLE bin;");
    Approval confirmed = Approval.given(Optional.of("dev"), false);
    assertThatThrownBy(
            () ->
                ladder
                    .open()
                    .apply(Optional.of("dev"), ApplyOptions.ALL, confirmed, RunListener.SILENT))
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("dev is not what its history says: table");
    ApplyOptions despite =
        new ApplyOptions(OptionalLong.empty(), false, Optional.of("harvest first"));
    ladder.open().apply(Optional.of("dev"), despite, confirmed, RunListener.SILENT);
    assertThat(database.events()).contains("drift-accepted").endsWith("applied");
    assertThat(drift().structure())
        .singleElement()
        .extracting(Difference::change)
        .isEqualTo(Difference.Change.ADDED);
    ladder.file("ladder.yaml", settings("}\nignore: ['table:l*', 'table:L*']\n"));
    assertThat(drift().isClean()).isTrue();
    assertThat(drift().ignored()).isEqualTo(1);
  }

  private String settings(String more) {
    return "name: hollowfield\nenvironments:\n  dev: { url: '" + database.url() + "'" + more;
  }

  @ParameterizedTest
  @EnumSource
  void aDatabaseBesideItsExpectationAndBesideAnotherEngine(Kind kind) {
    on(kind);
    ladder.file("ladder.yaml", settings("}\n  other: { url: 'jdbc:sqlite:other.db' }\n"));
    assertThat(ladder.open().compare("env:dev", "expected:dev", false).differences()).isEmpty();
    ComparisonResult other = ladder.open().compare("env:dev", "env:other", false);
    assertThat(other.common()).isEqualTo(kind != Kind.SQLITE);
    assertThat(other.differences())
        .extracting(Difference::change)
        .containsOnly(Difference.Change.REMOVED);
  }

  @Test
  void aTableAndAColumnThatWereRenamedByHandAreRenamedBothWays() {
    database = TestDatabase.make(Kind.POSTGRES, root);
    ladder = TestLadder.on(database, root);
    ladder.rung("0001-bins", "CREATE TABLE bin (id int PRIMARY KEY, n text);", "DROP TABLE bin;");
    ladder.apply();
    database.execute(
        "INSERT INTO bin VALUES (1, 'a')",
        "ALTER TABLE bin RENAME TO crate",
        "ALTER TABLE crate RENAME COLUMN n TO name");
    ladder.open().driftAsRung(Optional.of("dev"), "crates", TestLadder.YES, RunListener.SILENT);
    ladder.rollback(new RollbackOptions.Last(1));
    assertThat(database.query("SELECT n FROM bin")).containsExactly("a");
    ladder.apply();
    assertThat(database.query("SELECT name FROM crate")).containsExactly("a");
    assertThat(ladder.open().drift(Optional.of("dev"), Against.EXPECTED, false).isClean()).isTrue();
  }
}
