package org.wornladder.engine.postgres;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.sql.SQLException;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.wornladder.Against;
import org.wornladder.DriftReport;
import org.wornladder.RollbackOptions;
import org.wornladder.TestLadder;
import org.wornladder.engine.Access;
import org.wornladder.engine.Session;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;
import org.wornladder.server.TestSession;

/** A structure that the server tells by a fingerprint alone is the one that was read before. */
class PostgresCatalogFingerprintTest {
  private static final List<String> OWN = List.of("ladder_journal", "ladder_snapshot");

  /** What somebody could do by hand, one after the other. */
  private static final List<String> CHANGES =
      List.of(
          "ALTER TABLE bin ADD note text",
          "ALTER TABLE bin ALTER note SET DEFAULT 'a, \"b\" (c) \\ d'",
          "ALTER TABLE bin ALTER note SET DEFAULT 'a, \"b\" (c) \\\\ d'",
          "ALTER TABLE bin ALTER note SET DEFAULT ''",
          "COMMENT ON COLUMN bin.note IS E'two\\nlines, and a \\t tab, a pear 🍐'",
          "ALTER TABLE bin ALTER note TYPE varchar(9)",
          "ALTER TABLE bin ALTER note SET NOT NULL",
          "CREATE INDEX ON bin (note, kg)",
          "CREATE INDEX bin_note ON bin (note varchar_pattern_ops)",
          "ALTER TABLE bin ADD CONSTRAINT light CHECK (kg < 100) NOT VALID",
          "ALTER TABLE bin VALIDATE CONSTRAINT light",
          "CREATE VIEW heavy AS SELECT * FROM bin WHERE kg > 50",
          "CREATE OR REPLACE VIEW heavy AS SELECT * FROM bin WHERE kg > 60",
          "CREATE FUNCTION ripe() RETURNS int LANGUAGE sql AS 'SELECT 1'",
          "CREATE OR REPLACE FUNCTION ripe() RETURNS int LANGUAGE sql AS 'SELECT 2'",
          "CREATE TYPE grade AS ENUM ('table')",
          "ALTER TYPE grade ADD VALUE 'cooking'",
          "CREATE SEQUENCE lot",
          "ALTER SEQUENCE lot INCREMENT BY 7",
          "CREATE POLICY mine ON bin USING (kg > 1)",
          "ALTER TABLE bin ENABLE ROW LEVEL SECURITY",
          "GRANT SELECT ON bin TO PUBLIC",
          "CREATE PUBLICATION press",
          "CREATE CAST (bin AS grade) WITH INOUT",
          "CREATE TABLE \"odd, (name)\" (\"a \"\"b\"\" c\" int, up int REFERENCES bin)",
          "ALTER TABLE bin RENAME TO tote");

  @TempDir Path root;
  private TestDatabase database;
  private TestLadder ladder;

  @BeforeEach
  void make() {
    database = TestDatabase.make(Kind.POSTGRES, root);
    ladder = TestLadder.on(database, root);
  }

  private void makeBin() {
    database.execute("CREATE TABLE bin (id int PRIMARY KEY, kg int)");
  }

  private Optional<String> told() throws SQLException {
    try (Session session = TestSession.open(database, root, Access.READ)) {
      return session.catalogFingerprint(OWN);
    }
  }

  private Optional<String> read() throws SQLException {
    try (Session session = TestSession.open(database, root, Access.WRITE)) {
      return session.structureWithFingerprint(OWN).catalogFingerprint();
    }
  }

  @Test
  void everyChangeIsToldAndReadAlike() throws SQLException {
    makeBin();
    Set<Optional<String>> seen = new HashSet<>();
    seen.add(told());
    for (String change : CHANGES) {
      database.execute(change);
      assertThat(seen.add(told())).as(change).isTrue();
      assertThat(read()).as(change).isPresent().isEqualTo(told());
    }
  }

  @Test
  void rowsAndTheToolsOwnTablesDoNotCount() throws SQLException {
    makeBin();
    Optional<String> before = told();
    database.execute(
        "INSERT INTO bin SELECT generate_series(1, 1000), 5",
        "CREATE TABLE ladder_snapshot (number bigint PRIMARY KEY)",
        "ANALYZE bin");
    assertThat(told()).isEqualTo(before);
  }

  @Test
  void whatSomebodyAddsToTheToolsOwnTablesIsNoStructure() throws SQLException {
    makeBin();
    database.execute(
        "CREATE POLICY mine ON bin USING (kg > 1)",
        "CREATE TABLE ladder_journal (number bigint PRIMARY KEY CHECK (number > 0))");
    Optional<String> before = told();
    database.execute(
        "CREATE POLICY readers ON ladder_journal USING (true)",
        "CREATE INDEX ON ladder_journal ((number + 1))",
        "CREATE RULE silent AS ON DELETE TO ladder_journal DO INSTEAD NOTHING",
        "COMMENT ON COLUMN ladder_journal.number IS 'counts'",
        "DROP RULE silent ON ladder_journal",
        "COMMENT ON COLUMN ladder_journal.number IS NULL",
        "GRANT SELECT ON ladder_journal TO PUBLIC");
    assertThat(told()).isEqualTo(before);
    try (Session session = TestSession.open(database, root, Access.READ)) {
      assertThat(session.structure(OWN).objects())
          .extracting(object -> object.kind() + " " + object.name())
          .contains("POLICY mine on bin")
          .noneMatch(name -> name.contains("ladder_journal"));
    }
  }

  @Test
  void aNameThatOnlyADefinitionTellsLeavesNothingToKeep() throws SQLException {
    database.execute(
        "CREATE COLLATION pears (provider = icu, locale = 'de')",
        "CREATE TABLE sort (name text); CREATE INDEX ON sort (name COLLATE pears)");
    assertThat(read()).isEmpty();
  }

  private DriftReport drift() {
    return ladder.open().drift(Optional.of("dev"), Against.EXPECTED, false);
  }

  /** What was kept as text cannot be read any more. */
  private void tearWhatIsKept() {
    database.execute(
        "UPDATE ladder_snapshot SET content = 'torn', fingerprint = 'none'"
            + " WHERE number > 0 AND moment <> 'catalog'");
  }

  @Test
  void driftNeedNotReadWhatTheServerTells() {
    ladder.rung("0001-crate", "CREATE TABLE crate (id int);", "DROP TABLE crate;").apply();
    tearWhatIsKept();
    assertThat(drift().isClean()).isTrue();
    assertThat(ladder.open().drift(Optional.of("dev"), Against.EXPECTED, true).isClean()).isTrue();
  }

  @Test
  void whatTheServerCannotWorkOutIsRead() throws SQLException {
    ladder.rung("0001-crate", "CREATE TABLE crate (id int);", "DROP TABLE crate;").apply();
    database.execute("ALTER FUNCTION pg_catalog.sha256(bytea) RENAME TO hidden");
    assertThat(told()).isEmpty();
    assertThat(drift().isClean()).isTrue();
    database.execute("ALTER TABLE crate ADD note text");
    assertThat(drift().structure()).hasSize(1);
  }

  @Test
  void whatIsChangedByHandIsFoundUntilItIsChangedBack() {
    ladder.rung("0001-crate", "CREATE TABLE crate (id int);", "DROP TABLE crate;").apply();
    database.execute("ALTER TABLE crate ADD note text");
    assertThat(drift().structure()).hasSize(1);
    // A run beside it does not make it right.
    ladder.rung("0002-press", "CREATE TABLE press (id int);", "DROP TABLE press;").apply();
    assertThat(drift().structure()).hasSize(1);
    assertThat(kept()).isEqualTo("expected before");
    database.execute("ALTER TABLE crate DROP note");
    assertThat(drift().isClean()).isTrue();
    ladder.rollback(new RollbackOptions.Last(1));
    assertThat(kept()).isEqualTo("expected catalog");
    assertThat(drift().isClean()).isTrue();
  }

  /** The last two rows, the newest first. */
  private String kept() {
    return String.join(
        " ", database.query("SELECT moment FROM ladder_snapshot ORDER BY number DESC LIMIT 2"));
  }
}
