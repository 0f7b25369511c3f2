package org.wornladder.engine.h2;

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

/** Reads a structure with a fixed number of queries (H2, "Information Schema"). */
final class H2Structure {
  private static final String COLUMNS =
      "SELECT c.table_name, c.column_name,"
          + " data_type_sql(c.table_schema, c.table_name, 'TABLE', c.dtd_identifier),"
          + " c.is_nullable = 'YES',"
          + " CASE WHEN c.is_identity = 'YES' THEN 'identity' ELSE c.column_default END,"
          + " c.is_generated = 'ALWAYS'"
          + " FROM information_schema.columns c JOIN information_schema.tables t"
          + " ON t.table_schema = c.table_schema AND t.table_name = c.table_name"
          + " WHERE c.table_schema = %s AND t.table_type = 'BASE TABLE'"
          + " ORDER BY c.table_name, c.ordinal_position";
  private static final String INDEXES =
      "SELECT i.table_name, i.index_name, i.index_type_name = 'PRIMARY KEY',"
          + " i.index_type_name LIKE '%%UNIQUE%%' OR i.index_type_name = 'PRIMARY KEY',"
          + " i.is_generated, k.column_name"
          + " FROM information_schema.indexes i JOIN information_schema.index_columns k"
          + " ON k.index_schema = i.index_schema AND k.index_name = i.index_name"
          + " WHERE i.table_schema = %s ORDER BY i.table_name, i.index_name, k.ordinal_position";
  private static final String FOREIGN_KEYS =
      "SELECT k.table_name, k.constraint_name, k.column_name, t.table_name, t.column_name,"
          + " r.update_rule, r.delete_rule"
          + " FROM information_schema.referential_constraints r"
          + " JOIN information_schema.key_column_usage k"
          + " ON k.constraint_schema = r.constraint_schema AND k.constraint_name = r.constraint_name"
          + " JOIN information_schema.key_column_usage t"
          + " ON t.constraint_schema = r.unique_constraint_schema"
          + " AND t.constraint_name = r.unique_constraint_name"
          + " AND t.ordinal_position = k.position_in_unique_constraint"
          + " WHERE k.table_schema = %s"
          + " ORDER BY k.table_name, k.constraint_name, k.ordinal_position";
  private static final String VIEWS =
      "SELECT table_name, view_definition FROM information_schema.views WHERE table_schema = %s"
          + " ORDER BY table_name";
  private static final String TRIGGERS =
      "SELECT trigger_name, event_object_table,"
          + " action_timing || ' ' || event_manipulation || ' ' || coalesce(java_class, '')"
          + " FROM information_schema.triggers WHERE trigger_schema = %s ORDER BY trigger_name";

  private final Statement sql;
  private final String schema;
  private final List<String> without;
  private final Map<String, List<Column>> columns = new TreeMap<>();
  private final Map<String, List<String>> primaryKeys = new HashMap<>();
  private final Map<String, List<Index>> indexes = new HashMap<>();
  private final Map<String, Map<String, ForeignKey>> foreignKeys = new HashMap<>();

  H2Structure(Statement sql, String schema, List<String> without) {
    this.sql = sql;
    this.schema = H2Engine.QUOTING.text(schema);
    this.without = without;
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
                List.copyOf(foreignKeys.getOrDefault(table, Map.of()).values()),
                indexes.getOrDefault(table, List.of()).stream().map(H2Structure::named).toList(),
                ""));
      }
    }
    return new Schema(tables, views(), triggers());
  }

  /** H2 invents other names for the indexes of constraints each time: they do not count. */
  private static Index named(Index index) {
    String name =
        index.fromConstraint() ? "of " + String.join(", ", index.columns()) : index.name();
    return new Index(
        name, index.columns(), index.unique(), index.partial(), index.fromConstraint());
  }

  private ResultSet query(String text) throws SQLException {
    return sql.executeQuery(text.formatted(schema));
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
                    Optional.ofNullable(rows.getString(5)),
                    rows.getBoolean(6)));
      }
    }
  }

  private void readIndexes() throws SQLException {
    try (ResultSet rows = query(INDEXES)) {
      while (rows.next()) {
        String table = rows.getString(1);
        String name = rows.getString(2);
        List<Index> list = indexes.computeIfAbsent(table, key -> new ArrayList<>());
        boolean continues = !list.isEmpty() && list.get(list.size() - 1).name().equals(name);
        List<String> names =
            new ArrayList<>(continues ? list.remove(list.size() - 1).columns() : List.of());
        names.add(rows.getString(6));
        list.add(new Index(name, names, rows.getBoolean(4), false, rows.getBoolean(5)));
        if (rows.getBoolean(3)) {
          primaryKeys.put(table, List.copyOf(names));
        }
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
        views.add(new View(rows.getString(1), String.valueOf(rows.getString(2))));
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
