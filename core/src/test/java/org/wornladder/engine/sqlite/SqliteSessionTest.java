package org.wornladder.engine.sqlite;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.SQLException;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.wornladder.UnreachableException;
import org.wornladder.engine.Access;
import org.wornladder.engine.Fault;
import org.wornladder.engine.Session;
import org.wornladder.engine.Target;
import org.wornladder.project.Condition;
import org.wornladder.project.Environment;
import org.wornladder.project.EnvironmentReader;
import org.wornladder.project.ProjectReader;
import org.wornladder.schema.Column;
import org.wornladder.schema.Constraint;
import org.wornladder.schema.ForeignKey;
import org.wornladder.schema.Index;
import org.wornladder.schema.Kind;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.Schema;
import org.wornladder.schema.Table;
import org.wornladder.sql.Dialects;
import org.wornladder.sql.Place;
import org.wornladder.sql.Statement;

class SqliteSessionTest {
  private static final SqliteEngine ENGINE = new SqliteEngine();

  @TempDir Path root;
  private Session session;

  @BeforeEach
  void open() {
    session = ENGINE.open(target("jdbc:sqlite:data.db"), Access.WRITE);
  }

  @AfterEach
  void close() {
    session.close();
    session.close();
  }

  private Target target(String url) {
    try {
      String yaml = "name: x\nenvironments: { dev: { url: '" + url + "' } }\n";
      Files.writeString(root.resolve("ladder.yaml"), yaml);
    } catch (java.io.IOException e) {
      throw new java.io.UncheckedIOException(e);
    }
    Environment environment =
        new EnvironmentReader(
                root, ProjectReader.read(root, name -> false).settings(), name -> Optional.empty())
            .read(Optional.of("dev"));
    return new Target(
        environment, Optional.empty(), root, Duration.ofSeconds(1), Duration.ZERO, what -> {});
  }

  private void run(String... statements) throws SQLException {
    for (String text : statements) {
      session.execute(new Statement(text, Place.of("test"), Dialects.SQLITE));
    }
  }

  @Test
  void aStructureIsReadWhole() throws SQLException {
    run(
        "CREATE TABLE orchard (id integer PRIMARY KEY, name text NOT NULL UNIQUE COLLATE nocase, -- a, b\n"
            + " hectares real CONSTRAINT size CHECK(hectares>0) DEFAULT 1.5,"
            + " CHECK (length(name) > (1))) STRICT",
        "CREATE TABLE block (orchard_id integer, label text, area integer GENERATED ALWAYS AS (orchard_id * 2),"
            + " PRIMARY KEY (label, orchard_id),"
            + " FOREIGN KEY (orchard_id) REFERENCES orchard (id) ON DELETE CASCADE DEFERRABLE INITIALLY DEFERRED)",
        "CREATE TABLE pair (a integer, b text, FOREIGN KEY (a, b) REFERENCES block (orchard_id, label))",
        "CREATE INDEX block_label ON block (label, lower(label)) WHERE orchard_id > 1",
        "CREATE VIEW labels AS SELECT label FROM block",
        "CREATE TRIGGER upper AFTER INSERT ON orchard BEGIN SELECT 1; END",
        "CREATE TABLE own (id integer)");
    Schema schema = session.structure(List.of("own"));
    assertThat(schema.tables()).extracting(Table::name).containsExactly("block", "orchard", "pair");
    Table orchard = schema.table("orchard").orElseThrow();
    assertThat(orchard.columns())
        .containsExactly(
            new Column("id", "INTEGER", true, Optional.empty(), Map.of()),
            new Column("name", "TEXT", false, Optional.empty(), Map.of("collation", "NOCASE")),
            new Column("hectares", "REAL", true, Optional.of("1.5"), Map.of()));
    assertThat(orchard.constraints())
        .containsExactly(
            new Constraint(Kind.UNIQUE, Optional.empty(), "", "(name)"),
            new Constraint(Kind.CHECK, Optional.empty(), "", "(length (name) > (1))"),
            new Constraint(Kind.CHECK, Optional.of("size"), "", "(hectares > 0)"));
    assertThat(orchard.options()).containsExactly(Map.entry("strict", "yes"));
    assertThat(orchard.indexes())
        .singleElement()
        .matches(Index::fromConstraint)
        .matches(Index::unique);
    Table block = schema.table("block").orElseThrow();
    assertThat(block.primaryKey()).containsExactly("label", "orchard_id");
    assertThat(block.columns().get(2).more(Column.GENERATED)).contains("(orchard_id * 2) virtual");
    assertThat(block.foreignKeys())
        .containsExactly(
            new ForeignKey(
                Optional.empty(),
                "",
                List.of("orchard_id"),
                ObjectId.of(Kind.TABLE, "orchard"),
                List.of("id"),
                "NO ACTION",
                "CASCADE",
                "DEFERRABLE INITIALLY DEFERRED"));
    assertThat(block.indexes())
        .contains(
            new Index(
                "block_label",
                List.of("label", "(expression)"),
                false,
                true,
                false,
                "CREATE INDEX block_label ON block (label, lower (label)) WHERE orchard_id > 1"));
    assertThat(schema.table("pair").orElseThrow().foreignKeys().get(0).columns())
        .containsExactly("a", "b");
    assertThat(schema.names(Kind.VIEW)).containsExactly("labels");
    assertThat(schema.names(Kind.TRIGGER)).containsExactly("upper");
    assertThat(session.structure(List.of("own"))).isEqualTo(schema);
  }

  @Test
  void rowsAreCountedInManyTables() throws SQLException {
    for (int i = 0; i < 450; i++) {
      run("CREATE TABLE t" + i + " (id integer)");
    }
    run("INSERT INTO t7 VALUES (1), (2)");
    Map<String, Long> counts = session.rowCounts(session.structure(List.of()));
    assertThat(counts).hasSize(450).containsEntry("t7", 2L).containsEntry("t449", 0L);
  }

  @ParameterizedTest
  @CsvSource({
    "TABLE, bin, '', true", "TABLE, BIN, '', true", "TABLE, stock, '', false",
        "VIEW, stock, '', true",
    "INDEX, bin_code, '', true", "INDEX, no, '', false", "COLUMN, bin, code, true",
        "COLUMN, bin, Code, true",
    "COLUMN, bin, weight, false", "COLUMN, no, code, false"
  })
  void thingsAreFound(Condition.Kind kind, String name, String column, boolean there)
      throws SQLException {
    run(
        "CREATE TABLE bin (code text)",
        "CREATE INDEX bin_code ON bin (code)",
        "CREATE VIEW stock AS SELECT 1");
    assertThat(session.exists(new Condition.Presence(kind, name, column, true, "")))
        .isEqualTo(there);
  }

  @Test
  void aQueryHoldsIfItsFirstValueIsAboveZeroAndItWritesNothing() throws SQLException {
    run("CREATE TABLE bin (code text)");
    assertThat(session.holds("SELECT 2")).isTrue();
    assertThat(session.holds("SELECT 0.5")).isTrue();
    assertThat(session.holds("SELECT 0")).isFalse();
    assertThat(session.holds("SELECT NULL")).isFalse();
    assertThat(session.holds("SELECT code FROM bin")).isFalse();
    assertThatThrownBy(() -> session.holds("DELETE FROM bin RETURNING 1"))
        .isInstanceOf(SQLException.class);
    run("INSERT INTO bin VALUES ('still writable')");
  }

  @Test
  void foreignKeysAreEnforcedAndPutBack() throws SQLException {
    run(
        "CREATE TABLE a (id integer PRIMARY KEY)",
        "CREATE TABLE b (a_id integer REFERENCES a (id))");
    assertThatThrownBy(() -> run("INSERT INTO b VALUES (1)")).hasMessageContaining("FOREIGN KEY");
    run("PRAGMA foreign_keys = OFF", "INSERT INTO b VALUES (1)");
    session.reset();
    assertThatThrownBy(() -> run("INSERT INTO b VALUES (1)")).hasMessageContaining("FOREIGN KEY");
  }

  @Test
  void faultsSpeakTheDatabasesOwnWords() {
    assertThatThrownBy(() -> run("SELECT * FROM nowhere"))
        .satisfies(
            e ->
                assertThat(session.fault((SQLException) e))
                    .isEqualTo(new Fault(Fault.Kind.STATEMENT, "no such table: nowhere")));
    assertThat(session.fault(new SQLException("other")).message()).isEqualTo("other");
  }

  @Test
  void closingUndoesWhatWasNotCommitted() throws SQLException {
    session.begin();
    run("CREATE TABLE bin (code text)");
    session.close();
    try (Session again = ENGINE.open(target("jdbc:sqlite:data.db"), Access.READ)) {
      assertThat(again.structure(List.of()).tables()).isEmpty();
    }
  }

  @Test
  void toReadADatabaseThatIsNotThereIsToReadAnEmptyOne() throws SQLException {
    try (Session none = ENGINE.open(target("jdbc:sqlite:none.db"), Access.READ)) {
      assertThat(none.isThere()).isFalse();
      assertThat(none.structure(List.of())).isEqualTo(Schema.EMPTY);
    }
    assertThat(root.resolve("none.db")).doesNotExist();
  }

  @Test
  void pathsAreTakenFromTheProjectAndMayHaveBlanksAndParameters() throws Exception {
    Files.createDirectories(root.resolve("a b"));
    for (String url :
        List.of(
            "jdbc:sqlite:a b/one.db",
            "jdbc:sqlite:file:a b/two.db?cache=private",
            "jdbc:sqlite:" + root.resolve("three.db"))) {
      ENGINE.open(target(url), Access.WRITE).close();
    }
    ENGINE.open(target("jdbc:sqlite::memory:"), Access.WRITE).close();
    assertThatThrownBy(() -> ENGINE.open(target("jdbc:sqlite:no/x.db"), Access.WRITE))
        .isInstanceOf(UnreachableException.class)
        .extracting(e -> ((UnreachableException) e).advice().facts().get(0))
        .isEqualTo("mkdir -p no");
    assertThatThrownBy(() -> ENGINE.open(target("jdbc:sqlite:file:data.db?mode=ro"), Access.WRITE))
        .hasMessageContaining("read-only");
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "COMMIT",
        "begin transaction",
        "END",
        "ROLLBACK",
        "VACUUM",
        "/* x */ ATTACH 'x' AS y",
        "DETACH y",
        "PRAGMA foreign_keys = ON",
        "pragma main.journal_mode = wal",
        "PRAGMA synchronous(0)"
      })
  void someStatementsCannotStandInATransaction(String text) {
    assertThat(ENGINE.objection(new Statement(text, Place.of("x"), Dialects.SQLITE), true))
        .isPresent();
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "ROLLBACK TO here",
        "SAVEPOINT here",
        "PRAGMA defer_foreign_keys = ON",
        "PRAGMA table_info(bin)",
        "CREATE TABLE vacuum (a)",
        "SELECT 'COMMIT'"
      })
  void othersCan(String text) {
    assertThat(ENGINE.objection(new Statement(text, Place.of("x"), Dialects.SQLITE), true))
        .isEmpty();
  }

  @Test
  void outsideATransactionOnlyItsEndsAreRefused() {
    assertThat(ENGINE.objection(new Statement("VACUUM", Place.of("x"), Dialects.SQLITE), false))
        .isEmpty();
    assertThat(ENGINE.objection(new Statement("COMMIT", Place.of("x"), Dialects.SQLITE), false))
        .isPresent();
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "ALTER TABLE block ADD COLUMN area real DEFAULT 1",
        "ALTER TABLE block DROP COLUMN label",
        "ALTER TABLE block RENAME COLUMN orchard_id TO orchard",
        "ALTER TABLE orchard RENAME TO grove",
        "ALTER TABLE orchard RENAME COLUMN id TO number",
        "CREATE INDEX more ON block (label, lower(label))",
        "DROP INDEX block_orchard",
        "DROP INDEX block_orchard; CREATE UNIQUE INDEX block_orchard ON block (label)",
        "DROP INDEX block_orchard; CREATE INDEX block_orchard ON orchard (name)",
        "DROP TABLE block",
        "DROP TABLE block; CREATE TABLE block (id text PRIMARY KEY, UNIQUE (id))",
        "CREATE TABLE trees (id integer PRIMARY KEY)",
        "DROP VIEW labels; CREATE VIEW labels AS SELECT orchard_id FROM block",
        "DROP VIEW labels; CREATE TABLE labels (label text)",
        "CREATE TRIGGER counted AFTER INSERT ON block BEGIN SELECT 1; END",
        "BEGIN; ALTER TABLE block ADD COLUMN area real; ROLLBACK",
      })
  void aStructureReadAgainIsWhatAnotherSessionReads(String change) throws SQLException {
    run(
        "CREATE TABLE orchard (id integer PRIMARY KEY, name text UNIQUE)",
        "CREATE TABLE block (orchard_id integer REFERENCES orchard (id), label text)",
        "CREATE INDEX block_orchard ON block (orchard_id)");
    run("CREATE VIEW labels AS SELECT orchard_id FROM block");
    Schema before = session.structure(List.of());
    for (String one : change.split("; (?!END)")) {
      run(one);
      if (change.startsWith("BEGIN")) {
        session.structure(List.of());
      }
    }
    try (Session other = ENGINE.open(target("jdbc:sqlite:data.db"), Access.READ)) {
      Schema after = session.structure(List.of());
      assertThat(after).isEqualTo(other.structure(List.of()));
      boolean changes = !change.startsWith("BEGIN");
      assertThat(after.equals(before)).isNotEqualTo(changes && !change.contains("VIEW labels AS"));
    }
  }
}
