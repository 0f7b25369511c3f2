package org.wornladder.engine.mariadb;

import java.sql.ResultSet;
import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.regex.Pattern;
import org.wornladder.engine.CatalogRows;
import org.wornladder.engine.TextDependencies;
import org.wornladder.schema.Column;
import org.wornladder.schema.Constraint;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.Facts;
import org.wornladder.schema.ForeignKey;
import org.wornladder.schema.Index;
import org.wornladder.schema.Kind;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.PrimaryKey;
import org.wornladder.schema.Schema;
import org.wornladder.schema.Table;
import org.wornladder.sql.Dialects;

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
          generation_expression, %s, collation_name, column_comment
        FROM information_schema.columns
       WHERE table_schema = %s ORDER BY table_name, ordinal_position""";

  private static final String INDEXES =
      """
      SELECT table_name, index_name, non_unique = 0, coalesce(column_name, '(expression)'),
          concat(coalesce(concat('`', replace(column_name, '`', '``'), '`'), concat('(', %2$s, ')')),
            CASE WHEN sub_part IS NULL OR index_type = 'SPATIAL' THEN '' ELSE concat('(', sub_part, ')') END,
            CASE WHEN collation = 'D' THEN ' DESC' ELSE '' END), index_type, index_comment,
          sub_part IS NOT NULL, %3$s, column_name IS NULL
        FROM information_schema.statistics WHERE table_schema = %1$s
       ORDER BY table_name, index_name, seq_in_index""";

  /** All columns: older servers do not say which constraint is a column's. */
  private static final String CHECKS =
      """
      SELECT * FROM information_schema.check_constraints
       WHERE constraint_schema = %s ORDER BY table_name, constraint_name""";

  private static final String LEVEL = "LEVEL";
  private static final String RULES =
      """
      SELECT table_name, constraint_name, update_rule, delete_rule
        FROM information_schema.referential_constraints WHERE constraint_schema = %s""";
  private static final String FOREIGN_KEYS =
      """
      SELECT table_name, constraint_name, column_name,
          CASE WHEN referenced_table_schema = table_schema THEN ''
          ELSE referenced_table_schema END, referenced_table_name, referenced_column_name
        FROM information_schema.key_column_usage
       WHERE table_schema = %s AND referenced_table_name IS NOT NULL
       ORDER BY table_name, constraint_name, ordinal_position""";

  /** The actions of a key whose table the user may read and no more. */
  private static final List<String> HIDDEN =
      List.of(ForeignKey.NOT_READABLE, ForeignKey.NOT_READABLE);

  private static final String PRIMARY = "PRIMARY";
  private static final String PARTITIONS = "partitions";
  private static final String AUTO_INCREMENT = "auto_increment";

  /** The word for what else comes after a column. */
  static final String EXTRA = "extra";

  /** How the server names what nobody named: {@code CONSTRAINT_1}, {@code bin_ibfk_1}. */
  private static final Pattern INVENTED = Pattern.compile("CONSTRAINT_\\d+|.*_(ibfk|chk)_\\d+");

  private final Statement sql;
  private final String name;
  private final String database;

  /** The database's own name, which the server writes in front of every table of a view. */
  private final String here;

  private final List<String> without;
  private final MariadbServer server;
  private boolean partitioned;
  private final Map<String, Map<String, String>> options = new TreeMap<>();
  private final Map<String, List<Column>> columns = new HashMap<>();
  private final Map<String, List<Constraint>> checks = new HashMap<>();

  /** The checks that are part of a column, by table and column. */
  private final Map<String, Map<String, String>> ofColumns = new HashMap<>();

  private final Map<String, Map<String, String>> keyMore = new HashMap<>();
  private final Map<String, List<Index>> indexes = new HashMap<>();
  private final Map<String, Map<String, ForeignKey>> foreignKeys = new HashMap<>();

  MariadbStructure(Statement sql, String database, List<String> without, MariadbServer server) {
    this.sql = sql;
    this.name = database;
    this.database = MariadbEngine.QUOTING.text(database);
    this.here = MariadbEngine.QUOTING.name(database) + ".";
    this.without = without;
    this.server = server;
  }

  Schema read() throws SQLException {
    readTables();
    readChecks();
    readColumns();
    readIndexes();
    readForeignKeys();
    List<Table> tables = new ArrayList<>();
    for (String table : options.keySet()) {
      if (!without.contains(table)) {
        tables.add(table(table));
      }
    }
    List<DatabaseObject> objects = new MariadbObjects(sql, database, here, server).read();
    List<DatabaseObject> all = new ArrayList<>(tables);
    all.addAll(objects);
    TextDependencies texts = new TextDependencies(Dialects.MARIADB, all);
    return new Schema(
        texts.inTables(tables), texts.resolved(objects), MariadbGrants.unseen(sql, name));
  }

  /**
   * Defaults may ask sequences for values; a computed column needs those that it is computed of.
   */
  private Table table(String name) {
    List<Index> all = indexes.getOrDefault(name, List.of());
    Optional<List<String>> primaryKey =
        all.stream().filter(index -> index.name().equals(PRIMARY)).findFirst().map(Index::columns);
    List<ForeignKey> keys = List.copyOf(foreignKeys.getOrDefault(name, Map.of()).values());
    List<Index> marked =
        all.stream().map(index -> isOfKey(name, index) ? ofKey(index) : index).toList();
    Optional<PrimaryKey> key =
        primaryKey.map(
            names -> new PrimaryKey(names, Optional.empty(), keyMore.getOrDefault(name, Map.of())));
    return new Table(
        ObjectId.of(Kind.TABLE, name),
        columns.getOrDefault(name, List.of()),
        key,
        keys,
        checks.getOrDefault(name, List.of()),
        marked,
        options.get(name),
        "",
        List.of());
  }

  /**
   * Whether the server makes this index by itself where its foreign key is made under the key's
   * name. Under another name, unique, or of another kind a user has made it (MariaDB documentation,
   * "Foreign Keys").
   */
  private boolean isOfKey(String table, Index index) {
    Optional<ForeignKey> key =
        Optional.ofNullable(foreignKeys.getOrDefault(table, Map.of()).get(index.name()));
    String plain = "KEY (" + MariadbEngine.QUOTING.names(index.columns()) + ")";
    return key.filter(found -> found.columns().equals(index.columns())).isPresent()
        && index.definition().equals(plain);
  }

  private static Index ofKey(Index index) {
    return new Index(
        index.name(), index.columns(), index.unique(), index.partial(), true, index.definition());
  }

  /** An expression without this database's name, which another one does not have. */
  private String own(String expression) {
    return expression.replace(here, "");
  }

  private ResultSet query(String text) throws SQLException {
    return sql.executeQuery(text.formatted(database));
  }

  private void readTables() throws SQLException {
    try (ResultSet rows = query(TABLES)) {
      while (rows.next()) {
        Map<String, String> said = new HashMap<>();
        CatalogRows.put(said, "engine", rows.getString(2));
        CatalogRows.put(said, "collation", rows.getString(3));
        CatalogRows.put(said, "comment", rows.getString(4));
        CatalogRows.put(said, "storage options", rows.getString(5));
        CatalogRows.put(said, "system versioned", rows.getBoolean(6) ? "yes" : null);
        partitioned |= rows.getBoolean(7);
        options.put(rows.getString(1), said);
      }
    }
    if (partitioned) {
      MariadbPartitions.read(query(MariadbPartitions.QUERY))
          .forEach((table, clause) -> options.get(table).put(PARTITIONS, clause));
      tellPartitionsByTime();
    }
  }

  /** Few tables are partitioned so, and no table of the information schema says how. */
  private void tellPartitionsByTime() throws SQLException {
    for (Map.Entry<String, Map<String, String>> table : options.entrySet()) {
      if (MariadbPartitions.isIncomplete(table.getValue().getOrDefault(PARTITIONS, ""))) {
        String name = here + MariadbEngine.QUOTING.name(table.getKey());
        try (ResultSet row = sql.executeQuery("SHOW CREATE TABLE " + name)) {
          row.next();
          table.getValue().put(PARTITIONS, MariadbPartitions.inStatement(row.getString(2)));
        }
      }
    }
  }

  private void readColumns() throws SQLException {
    // MySQL has the SRID of a spatial column beside EXTRA (MySQL manual, "COLUMNS Table").
    String attributes =
        server.isMysql() ? "concat_ws(' ', nullif(extra, ''), concat('SRID ', srs_id))" : "extra";
    try (ResultSet rows = sql.executeQuery(COLUMNS.formatted(attributes, database))) {
      while (rows.next()) {
        if (!options.containsKey(rows.getString(1))) {
          continue;
        }
        String type = rows.getString(3);
        String extra = rows.getString(7);
        Map<String, String> more = new HashMap<>();
        String expression = expression(rows.getString(6));
        if (extra.contains(AUTO_INCREMENT)) {
          more.put(Column.IDENTITY, AUTO_INCREMENT);
        }
        if (expression.startsWith(MariadbDdl.ROW)) {
          more.put(Column.GENERATED, expression);
        } else if (!expression.isEmpty()) {
          boolean stored = extra.contains("STORED");
          more.put(
              Column.GENERATED, "(" + own(expression) + ")" + (stored ? " stored" : " virtual"));
        }
        more.put(
            EXTRA,
            extra
                .replaceAll(
                    "((STORED|VIRTUAL) GENERATED|DEFAULT_GENERATED|auto_increment)(, )?|, $", "")
                .strip());
        String collation = rows.getString(8);
        if (collation != null
            && !collation.equals(options.get(rows.getString(1)).get("collation"))) {
          more.put(Column.COLLATION, collation);
        }
        CatalogRows.put(more, Facts.COMMENT, rows.getString(9));
        CatalogRows.put(
            more,
            MariadbDdl.CHECK,
            ofColumns.getOrDefault(rows.getString(1), Map.of()).get(rows.getString(2)));
        columns
            .computeIfAbsent(rows.getString(1), key -> new ArrayList<>())
            .add(
                new Column(
                    rows.getString(2),
                    type,
                    rows.getBoolean(4),
                    Optional.ofNullable(rows.getString(5))
                        .flatMap(given -> defaultValue(given, type, extra))
                        .map(this::own),
                    more));
      }
    }
  }

  private String expression(String given) {
    String text = given == null ? "" : given;
    return server.isMysql() ? MysqlCatalog.expression(text) : text;
  }

  private Optional<String> defaultValue(String given, String type, String extra) {
    if (server.isMysql()) {
      return Optional.of(MysqlCatalog.defaultValue(given, type, extra));
    }
    // The server writes NULL for a column that has it as its default.
    return Optional.of(given).filter(text -> !text.equals("NULL"));
  }

  /** Whether an index is ignored; before version 10.6 of MariaDB none can be. */
  private String ignored() {
    if (server.isMysql()) {
      return "is_visible = 'NO'";
    }
    return server.isAtLeast(10, 6, 0) ? "ignored = 'YES'" : "FALSE";
  }

  private void readIndexes() throws SQLException {
    String expression = server.isMysql() ? "expression" : "''";
    try (ResultSet rows = sql.executeQuery(INDEXES.formatted(database, expression, ignored()))) {
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
            ")"
                + (comment.isEmpty() ? "" : " COMMENT " + MariadbEngine.QUOTING.text(comment))
                + (rows.getBoolean(9) ? (server.isMysql() ? " INVISIBLE" : " IGNORED") : "");
        String start =
            before
                .map(
                    index ->
                        index.definition().substring(0, index.definition().length() - end.length()))
                .map(text -> text + ", ")
                .orElse(kind(rows.getString(1), rows.getBoolean(3), rows.getString(6)) + " (");
        String part =
            rows.getBoolean(10) ? MysqlCatalog.expression(rows.getString(5)) : rows.getString(5);
        String definition = start + part + end;
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
      keyMore.put(table, Map.of(Facts.DEFINITION, "PRIMARY KEY " + columns));
    }
  }

  /** How an index begins; of which sort it is matters where it is not its engine's usual one. */
  private String kind(String table, boolean unique, String type) {
    String engine = options.getOrDefault(table, Map.of()).getOrDefault(MariadbDdl.ENGINE, "");
    String usual = engine.equals("MEMORY") ? "HASH" : "BTREE";
    return switch (type) {
      case "FULLTEXT", "SPATIAL" -> type + " KEY";
      default -> (unique ? "UNIQUE KEY" : "KEY") + (type.equals(usual) ? "" : " USING " + type);
    };
  }

  private static boolean isInvented(String name) {
    return INVENTED.matcher(name).matches();
  }

  private void readChecks() throws SQLException {
    try (ResultSet rows = query(server.isMysql() ? MysqlCatalog.CHECKS : CHECKS)) {
      boolean hasLevel = hasColumn(rows, LEVEL);
      while (rows.next()) {
        String table = rows.getString("TABLE_NAME");
        String name = rows.getString("CONSTRAINT_NAME");
        String given = rows.getString("CHECK_CLAUSE");
        String clause =
            own(server.isMysql() ? MysqlCatalog.check(given, rows.getString("ENFORCED")) : given);
        if (hasLevel && rows.getString(LEVEL).equals("Column")) {
          ofColumns.computeIfAbsent(table, key -> new HashMap<>()).put(name, clause);
        } else {
          Optional<String> chosen = CatalogRows.chosen(name, MariadbStructure::isInvented);
          checks
              .computeIfAbsent(table, key -> new ArrayList<>())
              .add(new Constraint(Kind.CHECK, chosen, name, clause));
        }
      }
    }
  }

  private static boolean hasColumn(ResultSet rows, String label) throws SQLException {
    ResultSetMetaData columns = rows.getMetaData();
    for (int i = 1; i <= columns.getColumnCount(); i++) {
      if (columns.getColumnLabel(i).equalsIgnoreCase(label)) {
        return true;
      }
    }
    return false;
  }

  /** The actions on update and on delete, by table and constraint. */
  private Map<List<String>, List<String>> rules() throws SQLException {
    Map<List<String>, List<String>> rules = new HashMap<>();
    try (ResultSet rows = query(RULES)) {
      while (rows.next()) {
        rules.put(
            List.of(rows.getString(1), rows.getString(2)),
            List.of(rows.getString(3), rows.getString(4)));
      }
    }
    return rules;
  }

  /**
   * The actions of a key of which one is NO ACTION in so many words: to InnoDB the same as none,
   * and kept by it all the same (MariaDB manual, "Foreign Keys").
   */
  private static String actions(List<String> rule) {
    if (!rule.contains("NO ACTION")) {
      return "";
    }
    List<String> actions = new ArrayList<>();
    if (!rule.get(1).equals("RESTRICT")) {
      actions.add("ON DELETE " + rule.get(1));
    }
    if (!rule.get(0).equals("RESTRICT")) {
      actions.add("ON UPDATE " + rule.get(0));
    }
    return String.join(" ", actions);
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
        theirs.add(rows.getString(6));
        keys.put(
            name,
            new ForeignKey(
                    CatalogRows.chosen(name, MariadbStructure::isInvented),
                    name,
                    own,
                    ObjectId.of(Kind.TABLE, rows.getString(4), rows.getString(5)),
                    theirs,
                    CatalogRows.action(rule.get(0)),
                    CatalogRows.action(rule.get(1)),
                    "")
                .writtenAs(actions(rule)));
      }
    }
  }
}
