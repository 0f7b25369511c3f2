package org.wornladder.engine.postgres;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.wornladder.TestLadder;
import org.wornladder.schema.Index;
import org.wornladder.schema.Schema;
import org.wornladder.schema.Table;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/** Plain indexes are told without the server: in its words all the same, as it says itself. */
class PostgresIndexesTest {
  private static final String SERVERS_WORDS =
      "SELECT i.relname || ': ' || regexp_replace(pg_get_indexdef(i.oid), ' INDEX .* USING ',"
          + " ' INDEX USING ') || CASE WHEN x.indisvalid THEN '' ELSE ' (not valid)' END"
          + " FROM pg_index x JOIN pg_class i ON i.oid = x.indexrelid"
          + " JOIN pg_class c ON c.oid = x.indrelid"
          + " JOIN pg_namespace n ON n.oid = c.relnamespace"
          + " WHERE n.nspname = 'public' AND NOT EXISTS"
          + " (SELECT 1 FROM pg_constraint k WHERE k.conindid = i.oid)";

  @TempDir Path root;

  private List<String> told(TestDatabase database) {
    Schema schema = TestLadder.on(database, root).open().show(Optional.of("dev")).schema();
    List<String> told = new ArrayList<>();
    for (Table table : schema.tables()) {
      for (Index index : table.indexes()) {
        if (!index.fromConstraint()) {
          told.add(index.name() + ": " + index.definition());
        }
      }
    }
    return told;
  }

  private void tellsAsTheServerDoes(String... statements) {
    TestDatabase database = TestDatabase.make(Kind.POSTGRES, root);
    database.execute(statements);
    List<String> servers = database.query(SERVERS_WORDS);
    assertThat(servers).isNotEmpty();
    assertThat(told(database)).containsExactlyInAnyOrderElementsOf(servers);
  }

  @Test
  void ofEveryPlainType() {
    List<String> types =
        List.of(
            "smallint",
            "bigint",
            "numeric(8,2)",
            "real",
            "text",
            "varchar(20)",
            "varchar",
            "char(4)",
            "date",
            "timestamptz",
            "time",
            "interval",
            "boolean",
            "uuid",
            "bytea",
            "inet",
            "cidr",
            "oid",
            "name",
            "money",
            "bit(3)",
            "varbit",
            "macaddr",
            "jsonb",
            "xid8",
            "tsvector",
            "int4range",
            "int[]",
            "text[]");
    List<String> statements = new ArrayList<>();
    for (int i = 0; i < types.size(); i++) {
      statements.add("CREATE TABLE bin_" + i + " (id int, fruit " + types.get(i) + ")");
      statements.add("CREATE INDEX one_" + i + " ON bin_" + i + " (fruit)");
      statements.add("CREATE INDEX two_" + i + " ON bin_" + i + " (id, fruit)");
    }
    tellsAsTheServerDoes(statements.toArray(String[]::new));
  }

  @Test
  void ofTypesThatPeopleMake() {
    tellsAsTheServerDoes(
        "CREATE TYPE grade AS ENUM ('plain', 'fine')",
        "CREATE DOMAIN code AS varchar(9)",
        "CREATE DOMAIN weight AS int",
        "CREATE TYPE place AS (line int, tree int)",
        "CREATE TABLE tree (grade grade, code code, weight weight, place place)",
        "CREATE INDEX a ON tree (grade)",
        "CREATE INDEX b ON tree (code)",
        "CREATE INDEX c ON tree (weight)",
        "CREATE INDEX d ON tree (place)");
  }

  @Test
  void withOtherClassesAndCollations() {
    tellsAsTheServerDoes(
        "CREATE TABLE tree (code varchar(9), note text, mark char(3), name name,"
            + " latin text COLLATE \"C\", id int)",
        "CREATE INDEX a ON tree (code text_pattern_ops)",
        "CREATE INDEX b ON tree (code varchar_ops)",
        "CREATE INDEX c ON tree (mark bpchar_pattern_ops)",
        "CREATE INDEX d ON tree (note COLLATE \"C\")",
        "CREATE INDEX e ON tree (latin)",
        "CREATE INDEX f ON tree (latin COLLATE \"default\")",
        "CREATE INDEX g ON tree (latin COLLATE \"C\")",
        "CREATE INDEX h ON tree (id, note COLLATE \"POSIX\")",
        "CREATE INDEX i ON tree (mark COLLATE \"C\" bpchar_ops)",
        "CREATE INDEX j ON tree (name)");
  }

  @Test
  void thatAreMoreThanColumns() {
    tellsAsTheServerDoes(
        "CREATE TABLE tree (id int, code text, note text, at tsrange)",
        "CREATE INDEX a ON tree (id DESC)",
        "CREATE INDEX b ON tree (id NULLS FIRST, code)",
        "CREATE INDEX c ON tree (id) INCLUDE (note)",
        "CREATE INDEX d ON tree (id) WHERE code IS NOT NULL",
        "CREATE INDEX e ON tree (lower(code))",
        "CREATE INDEX f ON tree (id, (id + 1))",
        "CREATE INDEX g ON tree USING hash (code)",
        "CREATE INDEX h ON tree USING gist (at)",
        "CREATE INDEX i ON tree (id) WITH (fillfactor = 60)",
        "CREATE UNIQUE INDEX j ON tree (id)",
        "CREATE UNIQUE INDEX k ON tree (code) NULLS NOT DISTINCT");
  }

  @Test
  void ofNamesThatMustBeQuoted() {
    tellsAsTheServerDoes(
        "CREATE TABLE \"Tree of \"\"Hollow\"\"\" (\"Select\" int, \"from\" int, \"a b\" text,"
            + " \"q\"\"uote\" int, \"grün\" int, \"user\" int, \"end\" int, nowhere int)",
        "CREATE INDEX a ON \"Tree of \"\"Hollow\"\"\" (\"Select\", \"from\", \"a b\", \"q\"\"uote\")",
        "CREATE INDEX \"B USING (x)\" ON \"Tree of \"\"Hollow\"\"\" (\"grün\", \"user\", \"end\","
            + " nowhere)");
  }

  @Test
  void ofPartitionedTablesAndDroppedColumns() {
    tellsAsTheServerDoes(
        "CREATE TABLE picking (gone int, at date, tree int) PARTITION BY RANGE (at)",
        "ALTER TABLE picking DROP COLUMN gone",
        "CREATE INDEX a ON picking (tree)",
        "CREATE INDEX b ON ONLY picking (tree, at)");
  }
}
