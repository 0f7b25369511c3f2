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
import org.wornladder.schema.Element;
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
      SELECT t.table_name, t.engine, t.table_collation, t.table_comment,
          trim(replace(t.create_options, 'partitioned', '')), t.table_type = 'SYSTEM VERSIONED',
          t.create_options LIKE '%%partitioned%%'
        FROM information_schema.tables t
       WHERE t.table_schema = %s AND t.table_type IN ('BASE TABLE', 'SYSTEM VERSIONED')
       ORDER BY t.table_name""";

  /** No join with the tables: the server would look through all of them for each column. */
  private static final String COLUMNS =
      """
      SELECT table_name, column_name, column_type, is_nullable = 'YES', column_default,
          generation_expression, extra, collation_name, column_comment
        FROM information_schema.columns
       WHERE table_schema = %s ORDER BY table_name, ordinal_position""";

  private static final String INDEXES =
      """
      SELECT table_name, index_name, non_unique = 0, coalesce(column_name, '(expression)'),
          concat('`', replace(coalesce(column_name, ''), '`', '``'), '`',
            CASE WHEN sub_part IS NULL OR index_type = 'SPATIAL' THEN '' ELSE concat('(', sub_part, ')') END,
            CASE WHEN collation = 'D' THEN ' DESC' ELSE '' END), index_type, index_comment,
          sub_part IS NOT NULL
        FROM information_schema.statistics WHERE table_schema = %s
       ORDER BY table_name, index_name, seq_in_index""";
  private static final String CHECKS =
      """
      SELECT table_name, constraint_name, check_clause FROM information_schema.check_constraints
       WHERE constraint_schema = %s ORDER BY table_name, constraint_name""";
  private static final String RULES =
      """
      SELECT table_name, constraint_name, update_rule, delete_rule
        FROM information_schema.referential_constraints WHERE constraint_schema = %s""";
  private static final String FOREIGN_KEYS =
      """
      SELECT table_name, constraint_name, column_name, referenced_table_name,
          referenced_column_name
        FROM information_schema.key_column_usage
       WHERE table_schema = %s AND referenced_table_name IS NOT NULL
       ORDER BY table_name, constraint_name, ordinal_position""";
  private static final String VIEWS =
      """
      SELECT table_name, '', CASE WHEN view_definition <> '' THEN concat('CREATE ', CASE WHEN algorithm IN ('UNDEFINED', 'NONE') THEN ''
          ELSE concat('ALGORITHM = ', algorithm, ' ') END, CASE WHEN security_type = 'DEFINER' THEN ''
          ELSE 'SQL SECURITY INVOKER ' END, 'VIEW `', replace(table_name, '`', '``'), '` AS ',
          view_definition, CASE WHEN check_option = 'NONE' THEN ''
          ELSE concat(' WITH ', check_option, ' CHECK OPTION') END) END
        FROM information_schema.views WHERE table_schema = %s ORDER BY table_name""";
  private static final String TRIGGERS =
      """
      SELECT trigger_name, event_object_table, concat('CREATE TRIGGER `',
          replace(trigger_name, '`', '``'), '` ', action_timing, ' ', event_manipulation, ' ON `',
          replace(event_object_table, '`', '``'), '` FOR EACH ROW ', action_statement)
        FROM information_schema.triggers WHERE trigger_schema = %s
       ORDER BY event_object_table, action_timing, event_manipulation, action_order""";
  private static final String ROUTINES =
      """
      SELECT r.routine_name, '', concat('CREATE ', r.routine_type, ' `',
          replace(r.routine_name, '`', '``'), '`(', coalesce((SELECT group_concat(concat(
          CASE WHEN r.routine_type = 'PROCEDURE' THEN concat(p.parameter_mode, ' ') ELSE '' END, '`',
          replace(p.parameter_name, '`', '``'), '` ', p.dtd_identifier) ORDER BY p.ordinal_position
          SEPARATOR ', ') FROM information_schema.parameters p
           WHERE p.specific_schema = r.routine_schema AND p.specific_name = r.specific_name
             AND p.routine_type = r.routine_type AND p.ordinal_position > 0), ''), ') ',
          CASE WHEN r.routine_type = 'PROCEDURE' THEN '' ELSE concat('RETURNS ', r.dtd_identifier, ' ')
          END, r.sql_data_access, ' ', CASE WHEN r.is_deterministic = 'YES' THEN 'DETERMINISTIC '
          ELSE '' END, CASE WHEN r.security_type = 'INVOKER' THEN 'SQL SECURITY INVOKER ' ELSE ''
          END, CASE WHEN r.routine_comment = '' THEN '' ELSE concat('COMMENT ',
          quote(r.routine_comment), ' ') END, r.routine_definition)
        FROM information_schema.routines r
       WHERE r.routine_schema = %s AND r.routine_type = '%s' ORDER BY r.routine_name""";
  private static final String EVENTS =
      """
      SELECT event_name, '', concat('CREATE EVENT `', replace(event_name, '`', '``'),
          '` ON SCHEDULE ', CASE WHEN event_type = 'ONE TIME' THEN concat('AT ', quote(execute_at))
          ELSE concat('EVERY ', CASE WHEN interval_value REGEXP '^[0-9]+$' THEN interval_value
          ELSE quote(interval_value) END, ' ', interval_field,
          CASE WHEN starts IS NULL THEN '' ELSE concat(' STARTS ', quote(starts)) END,
          CASE WHEN ends IS NULL THEN '' ELSE concat(' ENDS ', quote(ends)) END) END,
          ' ON COMPLETION ', on_completion, CASE status WHEN 'ENABLED' THEN ' ENABLE'
          ELSE ' DISABLE' END, CASE WHEN event_comment = '' THEN '' ELSE concat(' COMMENT ',
          quote(event_comment)) END, ' DO ', event_definition)
        FROM information_schema.events WHERE event_schema = %s ORDER BY event_name""";
  private static final String OTHERS =
      """
      SELECT concat(lower(table_type), ' ', table_name), '', '' FROM information_schema.tables
       WHERE table_schema = %1$s
         AND table_type NOT IN ('BASE TABLE', 'SYSTEM VERSIONED', 'VIEW', 'SYSTEM VIEW', 'SEQUENCE')
      UNION ALL SELECT concat(lower(routine_type), ' ', routine_name), '', ''
        FROM information_schema.routines WHERE routine_schema = %1$s
         AND routine_type NOT IN ('FUNCTION', 'PROCEDURE')
       ORDER BY 1""";
  private static final String GRANTS =
      """
      SELECT concat('table ', table_name, ' to ', grantee), table_name, '', group_concat(concat(
          privilege_type, CASE is_grantable WHEN 'YES' THEN ' (may grant it on)' ELSE '' END)
          ORDER BY privilege_type SEPARATOR ', ') AS rights
        FROM information_schema.table_privileges WHERE table_schema = %1$s GROUP BY 1, 2
      UNION ALL SELECT concat('database to ', grantee), '', '', group_concat(concat(privilege_type,
          CASE is_grantable WHEN 'YES' THEN ' (may grant it on)' ELSE '' END) ORDER BY privilege_type
          SEPARATOR ', ') FROM information_schema.schema_privileges WHERE table_schema = %1$s
       GROUP BY 1 ORDER BY 1""";
  private static final String SEQUENCES =
      """
      SELECT table_name FROM information_schema.tables
       WHERE table_schema = %s AND table_type = 'SEQUENCE' ORDER BY table_name""";
  private static final String SEQUENCE =
      "SELECT %s, '', concat('CREATE SEQUENCE ', %s, ' START WITH ', start_value, ' MINVALUE ',"
          + " minimum_value, ' MAXVALUE ', maximum_value, ' INCREMENT BY ', increment, ' CACHE ',"
          + " cache_size, CASE WHEN cycle_option THEN ' CYCLE' ELSE ' NOCYCLE' END) FROM %s";

  /** The actions of a key whose table the user may read and no more. */
  private static final List<String> HIDDEN =
      List.of(ForeignKey.NOT_READABLE, ForeignKey.NOT_READABLE);

  private static final int SEQUENCES_IN_ONE_QUERY = 200;
  private static final String PRIMARY = "PRIMARY";
  private static final String AUTO_INCREMENT = "auto_increment";

  /** The word for what else stands behind a column. */
  static final String EXTRA = "extra";

  /** How the server names what nobody named: {@code CONSTRAINT_1}, {@code bin_ibfk_1}. */
  private static final Pattern INVENTED = Pattern.compile("CONSTRAINT_\\d+|.*_ibfk_\\d+");

  private final Statement sql;
  private final String database;

  /** The database's own name, which the server writes in front of every table of a view. */
  private final String here;

  private final List<String> without;
  private boolean partitioned;
  private final Map<String, Map<String, String>> options = new TreeMap<>();
  private final Map<String, List<Column>> columns = new HashMap<>();
  private final Map<String, List<Constraint>> checks = new HashMap<>();
  private final Map<String, Map<String, String>> keyMore = new HashMap<>();
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
            .filter(index -> index.name().equals(PRIMARY))
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
        keyMore.getOrDefault(name, Map.of()),
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
        partitioned |= rows.getBoolean(7);
        options.put(rows.getString(1), said);
      }
    }
    if (partitioned) {
      MariadbPartitions.read(query(MariadbPartitions.QUERY))
          .forEach((table, clause) -> options.get(table).put("partitions", clause));
    }
  }

  private void readColumns() throws SQLException {
    try (ResultSet rows = query(COLUMNS)) {
      while (rows.next()) {
        if (!options.containsKey(rows.getString(1))) {
          continue;
        }
        String extra = rows.getString(7);
        Map<String, String> more = new HashMap<>();
        String expression = rows.getString(6) == null ? "" : rows.getString(6);
        if (extra.contains(AUTO_INCREMENT)) {
          more.put(Column.IDENTITY, AUTO_INCREMENT);
        }
        if (!expression.isEmpty()) {
          boolean stored = extra.contains("STORED");
          more.put(Column.GENERATED, "(" + expression + ")" + (stored ? " stored" : " virtual"));
        }
        more.put(
            EXTRA,
            extra.replaceAll("(STORED|VIRTUAL) GENERATED|auto_increment|^, |, $", "").strip());
        String collation = rows.getString(8);
        if (collation != null
            && !collation.equals(options.get(rows.getString(1)).get("collation"))) {
          more.put(Column.COLLATION, collation);
        }
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
        String comment = rows.getString(7);
        String end =
            ")" + (comment.isEmpty() ? "" : " COMMENT " + MariadbEngine.QUOTING.text(comment));
        String start =
            before
                .map(
                    index ->
                        index.definition().substring(0, index.definition().length() - end.length()))
                .map(text -> text + ", ")
                .orElse(kind(rows.getBoolean(3), rows.getString(6)) + " (");
        String definition = start + rows.getString(5) + end;
        if (name.equals(PRIMARY)) {
          tellKey(rows.getString(1), definition, rows.getBoolean(8));
        }
        list.add(
            new Index(name, names, rows.getBoolean(3), false, name.equals(PRIMARY), definition));
      }
    }
  }

  /** A primary key over parts of columns, or downwards, is more than its columns' names. */
  private void tellKey(String table, String definition, boolean part) {
    if (part || definition.contains(" DESC") || keyMore.containsKey(table)) {
      String columns = definition.substring(definition.indexOf('('));
      keyMore.put(table, Map.of(Element.DEFINITION, "PRIMARY KEY " + columns));
    }
  }

  private static String kind(boolean unique, String type) {
    return switch (type) {
      case "FULLTEXT", "SPATIAL" -> type + " KEY";
      default -> (unique ? "UNIQUE KEY" : "KEY") + " USING " + type;
    };
  }

  private static boolean isInvented(String name) {
    return INVENTED.matcher(name).matches();
  }

  private void readChecks() throws SQLException {
    try (ResultSet rows = query(CHECKS)) {
      while (rows.next()) {
        checks
            .computeIfAbsent(rows.getString(1), key -> new ArrayList<>())
            .add(
                new Constraint(
                    Kind.CHECK,
                    StructureRows.chosen(rows.getString(2), MariadbStructure::isInvented),
                    rows.getString(2),
                    rows.getString(3)));
      }
    }
  }

  /** The actions on update and on delete, by table and constraint. */
  private Map<List<String>, List<String>> rules() throws SQLException {
    Map<List<String>, List<String>> rules = new HashMap<>();
    try (ResultSet rows = query(RULES)) {
      while (rows.next()) {
        rules.put(
            List.of(rows.getString(1), rows.getString(2)),
            List.of(
                StructureRows.action(rows.getString(3)), StructureRows.action(rows.getString(4))));
      }
    }
    return rules;
  }

  private void readForeignKeys() throws SQLException {
    Map<List<String>, List<String>> rules = rules();
    try (ResultSet rows = query(FOREIGN_KEYS)) {
      while (rows.next()) {
        Map<String, ForeignKey> keys =
            foreignKeys.computeIfAbsent(rows.getString(1), key -> new TreeMap<>());
        String name = rows.getString(2);
        List<String> rule = rules.getOrDefault(List.of(rows.getString(1), name), HIDDEN);
        Optional<ForeignKey> before = Optional.ofNullable(keys.get(name));
        List<String> own = new ArrayList<>(before.map(ForeignKey::columns).orElse(List.of()));
        List<String> theirs =
            new ArrayList<>(before.map(ForeignKey::targetColumns).orElse(List.of()));
        own.add(rows.getString(3));
        theirs.add(rows.getString(5));
        keys.put(
            name,
            new ForeignKey(
                StructureRows.chosen(name, MariadbStructure::isInvented),
                name,
                own,
                rows.getString(4),
                theirs,
                rule.get(0),
                rule.get(1),
                ""));
      }
    }
  }

  private List<SchemaObject> objects() throws SQLException {
    List<SchemaObject> found = new ArrayList<>();
    UnaryOperator<String> own = text -> text.replace(here, "");
    sequences(found);
    StructureRows.objects(found, Kind.VIEW, query(VIEWS), own);
    StructureRows.objects(
        found, Kind.FUNCTION, sql.executeQuery(ROUTINES.formatted(database, "FUNCTION")), own);
    StructureRows.objects(
        found, Kind.PROCEDURE, sql.executeQuery(ROUTINES.formatted(database, "PROCEDURE")), own);
    StructureRows.objects(found, Kind.TRIGGER, query(TRIGGERS), own);
    StructureRows.objects(found, Kind.EVENT, query(EVENTS), own);
    StructureRows.objects(found, Kind.OTHER, query(OTHERS), own);
    StructureRows.objects(found, Kind.GRANT, query(GRANTS), own);
    return found;
  }

  /** What a sequence is stands in the sequence alone: one query for many of them. */
  private void sequences(List<SchemaObject> found) throws SQLException {
    List<String> parts = new ArrayList<>();
    try (ResultSet rows = query(SEQUENCES)) {
      while (rows.next()) {
        String quoted = MariadbEngine.QUOTING.name(rows.getString(1));
        parts.add(
            SEQUENCE.formatted(
                MariadbEngine.QUOTING.text(rows.getString(1)),
                MariadbEngine.QUOTING.text(quoted),
                here + quoted));
      }
    }
    for (int from = 0; from < parts.size(); from += SEQUENCES_IN_ONE_QUERY) {
      int to = Math.min(parts.size(), from + SEQUENCES_IN_ONE_QUERY);
      String all = String.join(" UNION ALL ", parts.subList(from, to));
      StructureRows.objects(found, Kind.SEQUENCE, sql.executeQuery(all), UnaryOperator.identity());
    }
  }
}
