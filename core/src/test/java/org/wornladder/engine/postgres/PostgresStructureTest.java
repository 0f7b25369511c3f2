package org.wornladder.engine.postgres;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.wornladder.TestLadder;
import org.wornladder.change.CreationScript;
import org.wornladder.change.Difference;
import org.wornladder.change.Differences;
import org.wornladder.schema.Column;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.ForeignKey;
import org.wornladder.schema.Index;
import org.wornladder.schema.Kind;
import org.wornladder.schema.Right;
import org.wornladder.schema.Schema;
import org.wornladder.schema.Snapshot;
import org.wornladder.schema.Table;
import org.wornladder.server.TestDatabase;

/** What the server is asked in fewer words than it could be is told all the same. */
class PostgresStructureTest {
  private static final String SERVERS_EXPRESSIONS =
      "SELECT a.attname || ': ' || pg_get_expr(d.adbin, d.adrelid) FROM pg_attrdef d"
          + " JOIN pg_attribute a ON a.attrelid = d.adrelid AND a.attnum = d.adnum"
          + " WHERE a.attgenerated = '' ORDER BY 1";

  @TempDir Path root;
  private TestDatabase database;

  @BeforeEach
  void make() {
    database = TestDatabase.make(TestDatabase.Kind.POSTGRES, root);
  }

  private Schema schema() {
    return TestLadder.on(database, root).open().show(Optional.of("dev")).schema();
  }

  private Table table(String name) {
    return schema().table(name).orElseThrow();
  }

  @Test
  void defaultsAreTheServersOwnWords() {
    database.execute(
        "CREATE TYPE grade AS ENUM ('table', 'cooking')",
        "CREATE SEQUENCE bin_number START WITH 100",
        "CREATE FUNCTION fresh(d date) RETURNS text LANGUAGE sql AS 'SELECT d::text'",
        "CREATE TABLE bin (a int DEFAULT 7, b text DEFAULT 'pear''s', c date DEFAULT now(),"
            + " d grade DEFAULT 'cooking', e int DEFAULT nextval('bin_number'),"
            + " f text DEFAULT fresh(current_date), g int[] DEFAULT ARRAY[1, 2],"
            + " h text DEFAULT CASE WHEN now() > '2026-11-23' THEN 'late' ELSE 'early' END,"
            + " i regclass DEFAULT 'pg_class'::regclass, j numeric(8,2) DEFAULT -1.5,"
            + " k jsonb DEFAULT '{\"plum\": null}', l interval DEFAULT '1 day 2 hours',"
            + " m serial, n bytea DEFAULT '\\x00ff', o text DEFAULT NULL, p bit(3) DEFAULT B'101')");
    List<String> told = new ArrayList<>();
    for (Column column : table("bin").columns()) {
      column.defaultValue().ifPresent(value -> told.add(column.name() + ": " + value));
    }
    assertThat(told).hasSizeGreaterThan(13);
    assertThat(told).containsExactlyElementsOf(database.query(SERVERS_EXPRESSIONS));
  }

  @Test
  void rowsAreCountedWhereverTheyAreKept() {
    database.execute(
        "CREATE TABLE never_filled (id int)",
        "CREATE TABLE emptied (id int)",
        "INSERT INTO emptied VALUES (1)",
        "DELETE FROM emptied",
        "CREATE TABLE without_columns ()",
        "INSERT INTO without_columns DEFAULT VALUES",
        "CREATE TABLE long_note (note text)",
        "INSERT INTO long_note SELECT string_agg(md5(CAST(n AS text)), '')"
            + " FROM generate_series(1, 5000) n",
        "CREATE TABLE person (name text)",
        "CREATE TABLE grower () INHERITS (person)",
        "INSERT INTO grower VALUES ('Ida'), ('Jon')",
        "CREATE TABLE picking (at date) PARTITION BY RANGE (at)",
        "CREATE TABLE picking_26 PARTITION OF picking"
            + " FOR VALUES FROM ('2026-01-01') TO ('2027-01-01')",
        "INSERT INTO picking VALUES ('2026-09-01')");
    Map<String, Long> counts =
        TestLadder.on(database, root).open().show(Optional.of("dev")).rowCounts();
    assertThat(counts)
        .containsExactlyInAnyOrderEntriesOf(
            Map.of(
                "never_filled", 0L,
                "emptied", 0L,
                "without_columns", 1L,
                "long_note", 1L,
                "person", 2L,
                "grower", 2L,
                "picking", 1L,
                "picking_26", 1L));
  }

  @Test
  void whatTheServerNamedAfterAnotherNameOfTheTableCountsAsUnnamed() throws Exception {
    String table =
        "CREATE TABLE %s (id int PRIMARY KEY, code text UNIQUE, kg int CHECK (kg > 0), up int"
            + " REFERENCES %<s); CREATE INDEX ON %<s (kg); CREATE INDEX ON %<s (code, kg)";
    database.execute(table.formatted("bin"), "ALTER TABLE bin RENAME TO tote");
    TestDatabase other =
        TestDatabase.make(TestDatabase.Kind.POSTGRES, Files.createDirectories(root.resolve("b")));
    other.execute(table.formatted("tote"));
    Snapshot renamed = schema().snapshot();
    Snapshot made = TestLadder.on(other, root).open().show(Optional.of("dev")).schema().snapshot();
    assertThat(renamed).isNotEqualTo(made);
    assertThat(Differences.between(renamed, made)).isEmpty();
    other.execute("DROP INDEX tote_kg_idx");
    assertThat(
            Differences.between(
                renamed,
                TestLadder.on(other, root).open().show(Optional.of("dev")).schema().snapshot()))
        .extracting(Difference::name)
        .containsExactly("bin_kg_idx");
  }

  @Test
  void aGeneratedColumnNamesTheOthers() {
    database.execute(
        "CREATE TABLE bin (gross int, \"net of \"\"it\" int,"
            + " tare int GENERATED ALWAYS AS (gross - \"net of \"\"it\") STORED, plain int DEFAULT 3)");
    assertThat(table("bin").column("tare").orElseThrow().more(Column.GENERATED))
        .contains("(gross - \"net of \"\"it\") stored");
    assertThat(table("bin").column("tare").orElseThrow().defaultValue()).isEmpty();
    assertThat(table("bin").column("plain").orElseThrow().defaultValue()).contains("3");
  }

  @Test
  void referencesNameTheColumnsOfTablesThatAreReadAndOfOthers() {
    database.execute(
        "CREATE SCHEMA packing",
        "CREATE TABLE packing.crate (\"row,place\" int, \"of \"\"it\" int, spare int,"
            + " UNIQUE (\"of \"\"it\", \"row,place\"))",
        "CREATE TABLE orchard (code text, dropped int, season int, UNIQUE (season, code))",
        "ALTER TABLE orchard DROP COLUMN dropped",
        "CREATE TABLE bin (a int, b text, c int, d int, up int, id int PRIMARY KEY,"
            + " FOREIGN KEY (a, b) REFERENCES orchard (season, code),"
            + " FOREIGN KEY (c, d) REFERENCES packing.crate (\"of \"\"it\", \"row,place\"),"
            + " FOREIGN KEY (up) REFERENCES bin ON DELETE CASCADE)");
    assertThat(table("bin").foreignKeys())
        .extracting(ForeignKey::table, ForeignKey::columns, ForeignKey::targetColumns)
        .containsExactlyInAnyOrder(
            tuple("orchard", List.of("a", "b"), List.of("season", "code")),
            tuple("packing.crate", List.of("c", "d"), List.of("of \"it", "row,place")),
            tuple("bin", List.of("up"), List.of("id")));
  }

  @Test
  void indexesStandInTheirOrderWhoeverWroteTheirDefinition() {
    database.execute(
        "CREATE TABLE bin (id int, code text, note text)",
        "CREATE INDEX e ON bin (id)",
        "CREATE INDEX d ON bin (lower(code))",
        "CREATE INDEX c ON bin (code text_pattern_ops)",
        "CREATE INDEX b ON bin (code, note)",
        "CREATE INDEX a ON bin (note COLLATE \"C\")");
    assertThat(table("bin").indexes())
        .extracting(Index::name, Index::definition)
        .containsExactly(
            tuple("a", "CREATE INDEX USING btree (note COLLATE \"C\")"),
            tuple("b", "CREATE INDEX USING btree (code, note)"),
            tuple("c", "CREATE INDEX USING btree (code text_pattern_ops)"),
            tuple("d", "CREATE INDEX USING btree (lower(code))"),
            tuple("e", "CREATE INDEX USING btree (id)"));
  }

  @Test
  void ownersAndGrantsComeByName() {
    database.execute(
        "CREATE TABLE plum (id int)",
        "CREATE TABLE apple (id int)",
        "CREATE FUNCTION ripe() RETURNS int LANGUAGE sql AS 'SELECT 1'",
        "GRANT SELECT, INSERT ON plum TO PUBLIC",
        "GRANT UPDATE ON apple TO pg_read_all_stats WITH GRANT OPTION",
        "REVOKE EXECUTE ON FUNCTION ripe() FROM PUBLIC");
    List<DatabaseObject> rights =
        schema().objects().stream().filter(object -> object.kind().isRight()).toList();
    assertThat(rights)
        .filteredOn(right -> right.kind() == Kind.OWNER)
        .extracting(DatabaseObject::name)
        .containsExactly("routine ripe()", "schema public", "table apple", "table plum");
    assertThat(rights)
        .filteredOn(right -> right.kind() == Kind.GRANT)
        .filteredOn(right -> right.name().startsWith("table"))
        .extracting(DatabaseObject::name, right -> ((Right) right).said())
        .containsExactly(
            tuple("table apple to pg_read_all_stats", "UPDATE (may grant it on)"),
            tuple("table plum to PUBLIC", "INSERT, SELECT"));
    assertThat(rights)
        .extracting(DatabaseObject::name)
        .noneMatch(name -> name.contains("ripe() to"));
  }

  @Test
  void aForeignKeyMayPointToASchemaThatIsNotManaged() {
    database.execute(
        "CREATE SCHEMA \"els where\"",
        "CREATE TABLE \"els where\".\"Tar.get\" (id int PRIMARY KEY)",
        "CREATE TABLE bin (id int REFERENCES \"els where\".\"Tar.get\")");
    Schema read = schema();
    List<String> made =
        CreationScript.of(read.snapshot().objects(), new PostgresDdl(List.of("public")))
            .statements();
    database.execute("DROP TABLE bin");
    made.forEach(database::execute);
    assertThat(Differences.between(read.snapshot(), schema().snapshot())).isEmpty();
  }
}
