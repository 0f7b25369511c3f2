package org.wornladder.engine.postgres;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.wornladder.schema.Column;
import org.wornladder.schema.ForeignKey;
import org.wornladder.schema.Index;
import org.wornladder.schema.Schema;
import org.wornladder.schema.Table;
import org.wornladder.schema.Trigger;
import org.wornladder.schema.View;

/**
 * Reads a structure with a fixed number of queries (PostgreSQL manual, chapter "System Catalogs").
 * What belongs to an extension is the extension's.
 */
final class PostgresStructure {
  private static final String OF_NO_EXTENSION =
      " AND NOT EXISTS (SELECT 1 FROM pg_catalog.pg_depend d WHERE d.deptype = 'e'"
          + " AND d.classid = 'pg_catalog.pg_class'::pg_catalog.regclass AND d.objid = c.oid)";

  private final Statement sql;
  private final List<String> schemas;
  private final List<String> without;
  private final String here;
  private final String name;
  private final Map<String, List<Column>> columns = new TreeMap<>();
  private final Map<String, List<String>> primaryKeys = new HashMap<>();
  private final Map<String, List<ForeignKey>> foreignKeys = new HashMap<>();
  private final Map<String, List<Index>> indexes = new HashMap<>();

  PostgresStructure(Statement sql, List<String> schemas, List<String> without) {
    this.sql = sql;
    this.schemas = schemas;
    this.without = without;
    List<String> texts = schemas.stream().map(PostgresEngine.QUOTING::text).toList();
    here = "n.nspname IN (" + String.join(", ", texts) + ")" + OF_NO_EXTENSION;
    // Names of the first schema stand alone.
    name =
        "CASE WHEN n.nspname = "
            + texts.get(0)
            + " THEN c.relname::text ELSE n.nspname || '.' || c.relname END";
  }

  Schema read() throws SQLException {
    readColumns();
    readIndexes();
    readForeignKeys();
    List<Table> tables = new ArrayList<>();
    for (String table : columns.keySet()) {
      if (!without.contains(table)) {
        tables.add(
            new Table(
                table,
                columns.get(table),
                primaryKeys.getOrDefault(table, List.of()),
                foreignKeys.getOrDefault(table, List.of()),
                indexes.getOrDefault(table, List.of()),
                ""));
      }
    }
    return new Schema(tables, views(), triggers());
  }

  private void readColumns() throws SQLException {
    String query =
        "SELECT "
            + name
            + ", a.attname, pg_catalog.format_type(a.atttypid, a.atttypmod), NOT a.attnotnull,"
            + " CASE WHEN a.attidentity <> '' THEN 'identity'"
            + " ELSE pg_catalog.pg_get_expr(d.adbin, d.adrelid) END, a.attgenerated <> ''"
            + " FROM pg_catalog.pg_class c JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace"
            + " LEFT JOIN pg_catalog.pg_attribute a ON a.attrelid = c.oid AND a.attnum > 0"
            + " AND NOT a.attisdropped"
            + " LEFT JOIN pg_catalog.pg_attrdef d ON d.adrelid = c.oid AND d.adnum = a.attnum"
            + " WHERE c.relkind IN ('r', 'p') AND "
            + here
            + " ORDER BY 1, a.attnum";
    try (ResultSet rows = sql.executeQuery(query)) {
      while (rows.next()) {
        List<Column> list = columns.computeIfAbsent(rows.getString(1), key -> new ArrayList<>());
        if (rows.getString(2) != null) {
          list.add(
              new Column(
                  rows.getString(2),
                  rows.getString(3),
                  rows.getBoolean(4),
                  Optional.ofNullable(rows.getString(5)),
                  rows.getBoolean(6)));
        }
      }
    }
  }

  private void readIndexes() throws SQLException {
    String query =
        "SELECT "
            + name
            + ", i.relname, x.indisprimary, x.indisunique, x.indpred IS NOT NULL,"
            + " EXISTS (SELECT 1 FROM pg_catalog.pg_constraint k WHERE k.conindid = x.indexrelid"
            + " AND k.contype IN ('p', 'u', 'x')),"
            + " ARRAY(SELECT CASE WHEN x.indkey[p - 1] = 0 THEN '(expression)'"
            + " ELSE (SELECT a.attname::text FROM pg_catalog.pg_attribute a"
            + " WHERE a.attrelid = c.oid AND a.attnum = x.indkey[p - 1]) END"
            + " FROM generate_series(1, x.indnkeyatts) p ORDER BY p)"
            + " FROM pg_catalog.pg_index x JOIN pg_catalog.pg_class c ON c.oid = x.indrelid"
            + " JOIN pg_catalog.pg_class i ON i.oid = x.indexrelid"
            + " JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace"
            + " WHERE c.relkind IN ('r', 'p', 'm') AND "
            + here
            + " ORDER BY 1, 2";
    try (ResultSet rows = sql.executeQuery(query)) {
      while (rows.next()) {
        String table = rows.getString(1);
        List<String> names = names(rows, 7);
        if (rows.getBoolean(3)) {
          primaryKeys.put(table, names);
        }
        indexes
            .computeIfAbsent(table, key -> new ArrayList<>())
            .add(
                new Index(
                    rows.getString(2),
                    names,
                    rows.getBoolean(4),
                    rows.getBoolean(5),
                    rows.getBoolean(6)));
      }
    }
  }

  private static List<String> names(ResultSet row, int column) throws SQLException {
    return List.of((String[]) row.getArray(column).getArray());
  }

  private void readForeignKeys() throws SQLException {
    String target = name.replace("n.nspname", "tn.nspname").replace("c.relname", "t.relname");
    String query =
        "SELECT "
            + name
            + ", "
            + target
            + ", "
            + columnNames("k.conkey", "k.conrelid")
            + ", "
            + columnNames("k.confkey", "k.confrelid")
            + ", "
            + action("k.confupdtype")
            + ", "
            + action("k.confdeltype")
            + " FROM pg_catalog.pg_constraint k JOIN pg_catalog.pg_class c ON c.oid = k.conrelid"
            + " JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace"
            + " JOIN pg_catalog.pg_class t ON t.oid = k.confrelid"
            + " JOIN pg_catalog.pg_namespace tn ON tn.oid = t.relnamespace"
            + " WHERE k.contype = 'f' AND k.conparentid = 0 AND "
            + here
            + " ORDER BY 1, k.conname";
    try (ResultSet rows = sql.executeQuery(query)) {
      while (rows.next()) {
        foreignKeys
            .computeIfAbsent(rows.getString(1), key -> new ArrayList<>())
            .add(
                new ForeignKey(
                    names(rows, 3),
                    rows.getString(2),
                    names(rows, 4),
                    rows.getString(5),
                    rows.getString(6)));
      }
    }
  }

  private static String columnNames(String numbers, String table) {
    return "ARRAY(SELECT a.attname::text FROM unnest("
        + numbers
        + ") WITH ORDINALITY u (number, place) JOIN pg_catalog.pg_attribute a ON a.attrelid = "
        + table
        + " AND a.attnum = u.number ORDER BY u.place)";
  }

  private static String action(String letter) {
    return "CASE "
        + letter
        + " WHEN 'r' THEN 'RESTRICT' WHEN 'c' THEN 'CASCADE' WHEN 'n' THEN 'SET NULL'"
        + " WHEN 'd' THEN 'SET DEFAULT' ELSE 'NO ACTION' END";
  }

  private List<View> views() throws SQLException {
    List<View> views = new ArrayList<>();
    String query =
        "SELECT "
            + name
            + ", pg_catalog.pg_get_viewdef(c.oid) FROM pg_catalog.pg_class c"
            + " JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace"
            + " WHERE c.relkind IN ('v', 'm') AND "
            + here
            + " ORDER BY 1";
    try (ResultSet rows = sql.executeQuery(query)) {
      while (rows.next()) {
        views.add(new View(rows.getString(1), rows.getString(2)));
      }
    }
    return views;
  }

  private List<Trigger> triggers() throws SQLException {
    List<Trigger> triggers = new ArrayList<>();
    String query =
        "SELECT t.tgname, "
            + name
            + ", pg_catalog.pg_get_triggerdef(t.oid) FROM pg_catalog.pg_trigger t"
            + " JOIN pg_catalog.pg_class c ON c.oid = t.tgrelid"
            + " JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace"
            + " WHERE NOT t.tgisinternal AND "
            + here
            + " ORDER BY 1, 2";
    try (ResultSet rows = sql.executeQuery(query)) {
      while (rows.next()) {
        triggers.add(new Trigger(rows.getString(1), rows.getString(2), rows.getString(3)));
      }
    }
    return triggers;
  }
}
