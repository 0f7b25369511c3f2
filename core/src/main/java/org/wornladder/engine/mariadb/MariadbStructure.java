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
import java.util.function.UnaryOperator;
import java.util.regex.Pattern;
import org.wornladder.engine.StructureRows;
import org.wornladder.schema.Column;
import org.wornladder.schema.Constraint;
import org.wornladder.schema.ForeignKey;
import org.wornladder.schema.Index;
import org.wornladder.schema.Kind;
import org.wornladder.schema.Schema;
import org.wornladder.schema.SchemaObject;
import org.wornladder.schema.Table;

/**
 * Reads a structure with a fixed number of queries (MariaDB documentation, "Information Schema
 * Tables").
 */
final class MariadbStructure {
  private static final String TABLES =
      """
      SELECT t.table_name, t.engine, t.table_collation, t.table_comment, t.create_options,
          t.table_type = 'SYSTEM VERSIONED',
          (SELECT group_concat(concat_ws(' ', p.partition_name, p.partition_method,
             p.partition_expression, p.partition_description) ORDER BY p.partition_ordinal_position
             SEPARATOR '; ') FROM information_schema.partitions p
            WHERE p.table_schema = t.table_schema AND p.table_name = t.table_name
              AND p.partition_name IS NOT NULL)
        FROM information_schema.tables t
       WHERE t.table_schema = %s AND t.table_type IN ('BASE TABLE', 'SYSTEM VERSIONED')
       ORDER BY t.table_name""";
  private static final String COLUMNS =
      """
      SELECT c.table_name, c.column_name, c.column_type, c.is_nullable = 'YES', c.column_default,
          c.generation_expression, c.extra,
          CASE WHEN c.collation_name <> t.table_collation THEN c.collation_name END,
          c.column_comment
        FROM information_schema.columns c JOIN information_schema.tables t
          ON t.table_schema = c.table_schema AND t.table_name = c.table_name
       WHERE c.table_schema = %s AND t.table_type IN ('BASE TABLE', 'SYSTEM VERSIONED')
       ORDER BY c.table_name, c.ordinal_position""";
  private static final String INDEXES =
      """
      SELECT table_name, index_name, non_unique = 0, coalesce(column_name, '(expression)'),
          concat(CASE WHEN sub_part IS NULL THEN '' ELSE concat('(', sub_part, ')') END,
            CASE WHEN collation = 'D' THEN ' DESC' ELSE '' END), index_type, index_comment
        FROM information_schema.statistics WHERE table_schema = %s
       ORDER BY table_name, index_name, seq_in_index""";
  private static final String CHECKS =
      """
      SELECT table_name, constraint_name, check_clause FROM information_schema.check_constraints
       WHERE constraint_schema = %s ORDER BY table_name, constraint_name""";
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
      """
      SELECT table_name, '', concat(view_definition, CASE WHEN check_option = 'NONE' THEN ''
          ELSE concat(' WITH ', check_option, ' CHECK OPTION') END,
          CASE WHEN security_type = 'DEFINER' THEN '' ELSE ' SQL SECURITY INVOKER' END)
        FROM information_schema.views WHERE table_schema = %s ORDER BY table_name""";
  private static final String TRIGGERS =
      """
      SELECT trigger_name, event_object_table,
          concat(action_timing, ' ', event_manipulation, ' ', action_statement)
        FROM information_schema.triggers WHERE trigger_schema = %s ORDER BY trigger_name""";
  private static final String ROUTINES =
      """
      SELECT r.routine_name, '', concat('(', coalesce((SELECT group_concat(concat_ws(' ',
          p.parameter_mode, p.parameter_name, p.dtd_identifier) ORDER BY p.ordinal_position
          SEPARATOR ', ') FROM information_schema.parameters p
           WHERE p.specific_schema = r.routine_schema AND p.specific_name = r.specific_name
             AND p.routine_type = r.routine_type AND p.ordinal_position > 0), ''), ') ',
          CASE WHEN r.dtd_identifier IS NULL THEN '' ELSE concat('RETURNS ', r.dtd_identifier, ' ')
          END, r.sql_data_access, ' ', CASE WHEN r.is_deterministic = 'YES' THEN 'DETERMINISTIC '
          ELSE '' END, CASE WHEN r.security_type = 'INVOKER' THEN 'SQL SECURITY INVOKER ' ELSE ''
          END, r.routine_definition)
        FROM information_schema.routines r
       WHERE r.routine_schema = %s AND r.routine_type = '%s' ORDER BY r.routine_name""";
  private static final String EVENTS =
      """
      SELECT event_name, '', concat_ws(' ', event_type, execute_at, interval_value, interval_field,
          starts, ends, status, on_completion, event_definition)
        FROM information_schema.events WHERE event_schema = %s ORDER BY event_name""";
  private static final String OTHERS =
      """
      SELECT concat(lower(table_type), ' ', table_name), '', '' FROM information_schema.tables
       WHERE table_schema = %s
         AND table_type NOT IN ('BASE TABLE', 'SYSTEM VERSIONED', 'VIEW', 'SYSTEM VIEW', 'SEQUENCE')
       ORDER BY table_name""";
  private static final String SEQUENCES =
      """
      SELECT table_name, '', '' FROM information_schema.tables
       WHERE table_schema = %s AND table_type = 'SEQUENCE' ORDER BY table_name""";

  /** How the server names what nobody named: {@code CONSTRAINT_1}, {@code bin_ibfk_1}. */
  private static final Pattern INVENTED = Pattern.compile("CONSTRAINT_\\d+|.*_ibfk_\\d+");

  private final Statement sql;
  private final String database;

  /** The database's own name, which the server writes in front of every table of a view. */
  private final String here;

  private final List<String> without;
  private final Map<String, Map<String, String>> options = new TreeMap<>();
  private final Map<String, List<Column>> columns = new HashMap<>();
  private final Map<String, List<Constraint>> checks = new HashMap<>();
  private final Map<String, List<Index>> indexes = new HashMap<>();
  private final Map<String, Map<String, ForeignKey>> foreignKeys = new HashMap<>();

  MariadbStructure(Statement sql, String database, List<String> without) {
    this.sql = sql;
    this.database = MariadbEngine.QUOTING.text(database);
    this.here = MariadbEngine.QUOTING.name(database) + ".";
    this.without = without;
  }

  Schema read() throws SQLException {
    readTables();
    readColumns();
    readIndexes();
    readChecks();
    readForeignKeys();
    List<Table> tables = new ArrayList<>();
    for (String table : options.keySet()) {
      if (!without.contains(table)) {
        tables.add(table(table));
      }
    }
    return new Schema(tables, objects());
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
    return new Table(
        name,
        columns.getOrDefault(name, List.of()),
        primaryKey,
        keys,
        checks.getOrDefault(name, List.of()),
        marked,
        options.get(name),
        "");
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
    return new Index(
        index.name(), index.columns(), index.unique(), index.partial(), true, index.definition());
  }

  private ResultSet query(String text) throws SQLException {
    return sql.executeQuery(text.formatted(database));
  }

  private void readTables() throws SQLException {
    try (ResultSet rows = query(TABLES)) {
      while (rows.next()) {
        Map<String, String> said = new HashMap<>();
        StructureRows.put(said, "engine", rows.getString(2));
        StructureRows.put(said, "collation", rows.getString(3));
        StructureRows.put(said, "comment", rows.getString(4));
        StructureRows.put(said, "storage options", rows.getString(5));
        StructureRows.put(said, "system versioned", rows.getBoolean(6) ? "yes" : null);
        StructureRows.put(said, "partitions", rows.getString(7));
        options.put(rows.getString(1), said);
      }
    }
  }

  private void readColumns() throws SQLException {
    try (ResultSet rows = query(COLUMNS)) {
      while (rows.next()) {
        String extra = rows.getString(7);
        boolean identity = extra.contains("auto_increment");
        Map<String, String> more = new HashMap<>();
        String expression = rows.getString(6) == null ? "" : rows.getString(6);
        if (identity) {
          more.put(Column.IDENTITY, "auto_increment");
        } else if (expression.isEmpty()) {
          more.put("extra", extra);
        } else {
          boolean stored = extra.contains("STORED");
          more.put(Column.GENERATED, expression + (stored ? " stored" : " virtual"));
        }
        StructureRows.put(more, Column.COLLATION, rows.getString(8));
        StructureRows.put(more, Column.COMMENT, rows.getString(9));
        columns
            .computeIfAbsent(rows.getString(1), key -> new ArrayList<>())
            .add(
                new Column(
                    rows.getString(2),
                    rows.getString(3),
                    rows.getBoolean(4),
                    // The server writes NULL for a column that has it as its default.
                    Optional.ofNullable(rows.getString(5)).filter(text -> !text.equals("NULL")),
                    more));
      }
    }
  }

  private void readIndexes() throws SQLException {
    try (ResultSet rows = query(INDEXES)) {
      while (rows.next()) {
        String name = rows.getString(2);
        List<Index> list = indexes.computeIfAbsent(rows.getString(1), key -> new ArrayList<>());
        boolean continues = !list.isEmpty() && list.get(list.size() - 1).name().equals(name);
        Optional<Index> before =
            continues ? Optional.of(list.remove(list.size() - 1)) : Optional.empty();
        List<String> names = new ArrayList<>(before.map(Index::columns).orElse(List.of()));
        names.add(rows.getString(4));
        String kind = (rows.getBoolean(3) ? "UNIQUE " : "") + rows.getString(6);
        String definition =
            before.map(index -> index.definition() + ", ").orElse(kind + " ")
                + rows.getString(4)
                + rows.getString(5);
        list.add(
            new Index(name, names, rows.getBoolean(3), false, name.equals("PRIMARY"), definition));
      }
    }
  }

  private void readChecks() throws SQLException {
    try (ResultSet rows = query(CHECKS)) {
      while (rows.next()) {
        checks
            .computeIfAbsent(rows.getString(1), key -> new ArrayList<>())
            .add(
                new Constraint(
                    Kind.CHECK,
                    StructureRows.chosen(rows.getString(2), INVENTED),
                    rows.getString(3)));
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
            new ForeignKey(
                StructureRows.chosen(name, INVENTED),
                own,
                rows.getString(4),
                theirs,
                StructureRows.action(rows.getString(6)),
                StructureRows.action(rows.getString(7)),
                ""));
      }
    }
  }

  private List<SchemaObject> objects() throws SQLException {
    List<SchemaObject> found = new ArrayList<>();
    UnaryOperator<String> own = text -> text.replace(here, "");
    StructureRows.objects(found, Kind.SEQUENCE, query(SEQUENCES), own);
    StructureRows.objects(found, Kind.VIEW, query(VIEWS), own);
    StructureRows.objects(
        found, Kind.FUNCTION, sql.executeQuery(ROUTINES.formatted(database, "FUNCTION")), own);
    StructureRows.objects(
        found, Kind.PROCEDURE, sql.executeQuery(ROUTINES.formatted(database, "PROCEDURE")), own);
    StructureRows.objects(found, Kind.TRIGGER, query(TRIGGERS), own);
    StructureRows.objects(found, Kind.EVENT, query(EVENTS), own);
    StructureRows.objects(found, Kind.OTHER, query(OTHERS), own);
    return found;
  }
}
