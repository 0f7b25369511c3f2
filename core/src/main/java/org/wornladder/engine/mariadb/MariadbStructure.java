package org.wornladder.engine.mariadb;

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
 * Reads a structure with a fixed number of queries (MariaDB documentation, "Information Schema
 * Tables").
 */
final class MariadbStructure {
  private static final String COLUMNS =
      "SELECT c.table_name, c.column_name, c.column_type, c.is_nullable = 'YES',"
          + " CASE WHEN c.extra LIKE '%%auto_increment%%' THEN 'auto_increment' ELSE c.column_default END,"
          + " c.generation_expression IS NOT NULL AND c.generation_expression <> ''"
          + " FROM information_schema.columns c JOIN information_schema.tables t"
          + " ON t.table_schema = c.table_schema AND t.table_name = c.table_name"
          + " WHERE c.table_schema = %s AND t.table_type IN ('BASE TABLE', 'SYSTEM VERSIONED')"
          + " ORDER BY c.table_name, c.ordinal_position";
  private static final String INDEXES =
      "SELECT table_name, index_name, non_unique = 0, coalesce(column_name, '(expression)')"
          + " FROM information_schema.statistics WHERE table_schema = %s"
          + " ORDER BY table_name, index_name, seq_in_index";
  private static final String FOREIGN_KEYS =
      "SELECT k.table_name, k.constraint_name, k.column_name, k.referenced_table_name,"
          + " k.referenced_column_name, r.update_rule, r.delete_rule"
          + " FROM information_schema.key_column_usage k"
          + " JOIN information_schema.referential_constraints r"
          + " ON r.constraint_schema = k.constraint_schema AND r.constraint_name = k.constraint_name"
          + " AND r.table_name = k.table_name"
          + " WHERE k.table_schema = %s AND k.referenced_table_name IS NOT NULL"
          + " ORDER BY k.table_name, k.constraint_name, k.ordinal_position";
  private static final String VIEWS =
      "SELECT table_name, view_definition FROM information_schema.views WHERE table_schema = %s"
          + " ORDER BY table_name";
  private static final String TRIGGERS =
      "SELECT trigger_name, event_object_table,"
          + " concat(action_timing, ' ', event_manipulation, ' ', action_statement)"
          + " FROM information_schema.triggers WHERE trigger_schema = %s ORDER BY trigger_name";

  private final Statement sql;
  private final String database;

  /** The database's own name, which the server writes in front of every table of a view. */
  private final String here;

  private final List<String> without;
  private final Map<String, List<Column>> columns = new TreeMap<>();
  private final Map<String, List<Index>> indexes = new HashMap<>();
  private final Map<String, Map<String, ForeignKey>> foreignKeys = new HashMap<>();

  MariadbStructure(Statement sql, String database, List<String> without) {
    this.sql = sql;
    this.database = MariadbEngine.QUOTING.text(database);
    this.here = MariadbEngine.QUOTING.name(database) + ".";
    this.without = without;
  }

  Schema read() throws SQLException {
    readColumns();
    readIndexes();
    readForeignKeys();
    List<Table> tables = new ArrayList<>();
    for (String table : columns.keySet()) {
      if (!without.contains(table)) {
        tables.add(table(table));
      }
    }
    return new Schema(tables, views(), triggers());
  }

  private Table table(String name) {
    List<Index> all = indexes.getOrDefault(name, List.of());
    List<String> primaryKey =
        all.stream()
            .filter(index -> index.name().equals("PRIMARY"))
            .findFirst()
            .map(Index::columns)
            .orElse(List.of());
    List<ForeignKey> keys = List.copyOf(foreignKeys.getOrDefault(name, Map.of()).values());
    List<Index> marked =
        all.stream().map(index -> isOfKey(name, index) ? ofKey(index) : index).toList();
    return new Table(name, columns.get(name), primaryKey, keys, marked, "");
  }

  /** The server makes an index for a foreign key by itself, named after the key or its column. */
  private boolean isOfKey(String table, Index index) {
    return foreignKeys.getOrDefault(table, Map.of()).entrySet().stream()
        .anyMatch(
            key ->
                key.getValue().columns().equals(index.columns())
                    && (key.getKey().equals(index.name())
                        || index.columns().get(0).equals(index.name())));
  }

  private static Index ofKey(Index index) {
    return new Index(index.name(), index.columns(), index.unique(), index.partial(), true);
  }

  private ResultSet query(String text) throws SQLException {
    return sql.executeQuery(text.formatted(database));
  }

  private void readColumns() throws SQLException {
    try (ResultSet rows = query(COLUMNS)) {
      while (rows.next()) {
        columns
            .computeIfAbsent(rows.getString(1), key -> new ArrayList<>())
            .add(
                new Column(
                    rows.getString(2),
                    rows.getString(3),
                    rows.getBoolean(4),
                    // The server writes NULL for a column that has it as its default.
                    Optional.ofNullable(rows.getString(5)).filter(text -> !text.equals("NULL")),
                    rows.getBoolean(6)));
      }
    }
  }

  private void readIndexes() throws SQLException {
    try (ResultSet rows = query(INDEXES)) {
      while (rows.next()) {
        String name = rows.getString(2);
        List<Index> list = indexes.computeIfAbsent(rows.getString(1), key -> new ArrayList<>());
        boolean continues = !list.isEmpty() && list.get(list.size() - 1).name().equals(name);
        List<String> names =
            new ArrayList<>(continues ? list.remove(list.size() - 1).columns() : List.of());
        names.add(rows.getString(4));
        list.add(new Index(name, names, rows.getBoolean(3), false, name.equals("PRIMARY")));
      }
    }
  }

  private void readForeignKeys() throws SQLException {
    try (ResultSet rows = query(FOREIGN_KEYS)) {
      while (rows.next()) {
        Map<String, ForeignKey> keys =
            foreignKeys.computeIfAbsent(rows.getString(1), key -> new TreeMap<>());
        String name = rows.getString(2);
        Optional<ForeignKey> before = Optional.ofNullable(keys.get(name));
        List<String> own = new ArrayList<>(before.map(ForeignKey::columns).orElse(List.of()));
        List<String> theirs =
            new ArrayList<>(before.map(ForeignKey::targetColumns).orElse(List.of()));
        own.add(rows.getString(3));
        theirs.add(rows.getString(5));
        keys.put(
            name,
            new ForeignKey(own, rows.getString(4), theirs, rows.getString(6), rows.getString(7)));
      }
    }
  }

  private List<View> views() throws SQLException {
    List<View> views = new ArrayList<>();
    try (ResultSet rows = query(VIEWS)) {
      while (rows.next()) {
        views.add(new View(rows.getString(1), rows.getString(2).replace(here, "")));
      }
    }
    return views;
  }

  private List<Trigger> triggers() throws SQLException {
    List<Trigger> triggers = new ArrayList<>();
    try (ResultSet rows = query(TRIGGERS)) {
      while (rows.next()) {
        triggers.add(new Trigger(rows.getString(1), rows.getString(2), rows.getString(3)));
      }
    }
    return triggers;
  }
}
