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
import java.util.function.Function;
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
 * Reads a structure with a fixed number of queries (PostgreSQL manual, chapter "System Catalogs").
 * What belongs to an extension is the extension's.
 */
final class PostgresStructure {
  private static final String TABLES =
      """
      SELECT %name(c.relname), CASE WHEN c.relpersistence = 'u' THEN 'yes' END,
          pg_catalog.pg_get_partkeydef(c.oid),
          (SELECT string_agg(i.inhparent::pg_catalog.regclass::text, ', ' ORDER BY i.inhseqno)
             FROM pg_catalog.pg_inherits i WHERE i.inhrelid = c.oid),
          pg_catalog.pg_get_expr(c.relpartbound, c.oid), array_to_string(c.reloptions, ', '),
          CASE WHEN c.relforcerowsecurity THEN 'forced' WHEN c.relrowsecurity THEN 'enabled' END,
          pg_catalog.obj_description(c.oid, 'pg_class')
        FROM pg_catalog.pg_class c JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace
       WHERE c.relkind IN ('r', 'p') AND %here AND %own(pg_class, c) ORDER BY 1""";
  private static final List<String> OPTIONS =
      List.of(
          "unlogged",
          "partitioned by",
          "inherits",
          "partition bound",
          "storage options",
          "row security",
          "comment");
  private static final String COLUMNS =
      """
      SELECT %name(c.relname), a.attname, pg_catalog.format_type(a.atttypid, a.atttypmod),
          NOT a.attnotnull, pg_catalog.pg_get_expr(d.adbin, d.adrelid),
          CASE a.attgenerated WHEN 's' THEN ' stored' WHEN 'v' THEN ' virtual' END,
          CASE WHEN a.attidentity <> '' THEN (SELECT concat_ws(' ', CASE a.attidentity WHEN 'a'
            THEN 'always' ELSE 'by default' END, '(' || nullif(concat_ws(' ',
              CASE WHEN s.seqstart <> 1 THEN 'START WITH ' || s.seqstart END,
              CASE WHEN s.seqincrement <> 1 THEN 'INCREMENT BY ' || s.seqincrement END,
              CASE WHEN s.seqmin <> 1 THEN 'MINVALUE ' || s.seqmin END,
              CASE WHEN s.seqmax NOT IN (32767, 2147483647, 9223372036854775807)
                THEN 'MAXVALUE ' || s.seqmax END,
              CASE WHEN s.seqcache <> 1 THEN 'CACHE ' || s.seqcache END,
              CASE WHEN s.seqcycle THEN 'CYCLE' END), '') || ')')
            FROM pg_catalog.pg_depend o JOIN pg_catalog.pg_sequence s ON s.seqrelid = o.objid
            WHERE o.refobjid = c.oid AND o.refobjsubid = a.attnum AND o.deptype = 'i'
              AND o.classid = 'pg_catalog.pg_class'::pg_catalog.regclass
              AND o.refclassid = 'pg_catalog.pg_class'::pg_catalog.regclass) END,
          CASE WHEN a.attcollation <> t.typcollation THEN %collation(a.attcollation) END,
          de.description, a.attnum
        FROM pg_catalog.pg_class c JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace
        JOIN pg_catalog.pg_attribute a ON a.attrelid = c.oid AND a.attnum > 0 AND NOT a.attisdropped
        JOIN pg_catalog.pg_type t ON t.oid = a.atttypid
        LEFT JOIN pg_catalog.pg_description de ON de.objoid = c.oid AND de.objsubid = a.attnum
          AND de.classoid = 'pg_catalog.pg_class'::pg_catalog.regclass
        LEFT JOIN pg_catalog.pg_attrdef d ON d.adrelid = c.oid AND d.adnum = a.attnum
       WHERE c.relkind IN ('r', 'p') AND %here AND %own(pg_class, c) ORDER BY 1, a.attnum""";
  private static final String INDEXES =
      """
      SELECT %name(c.relname), i.relname, x.indisprimary, x.indisunique, x.indpred IS NOT NULL,
          k.oid IS NOT NULL, x.indkey::text, x.indnkeyatts,
          CASE WHEN k.oid IS NULL THEN pg_catalog.pg_get_indexdef(i.oid) ELSE '' END, x.indisvalid,
          CASE WHEN x.indisprimary AND k.conname <> left(c.relname, 58) || '_pkey' THEN k.conname END,
          CASE WHEN x.indisprimary AND (k.condeferrable OR x.indnatts > x.indnkeyatts)
            THEN pg_catalog.pg_get_constraintdef(k.oid) END
        FROM pg_catalog.pg_index x JOIN pg_catalog.pg_class c ON c.oid = x.indrelid
        JOIN pg_catalog.pg_class i ON i.oid = x.indexrelid
        JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace
        LEFT JOIN pg_catalog.pg_constraint k ON k.conindid = x.indexrelid
          AND k.conrelid = x.indrelid AND k.contype IN ('p', 'u', 'x')
       WHERE c.relkind IN ('r', 'p') AND NOT i.relispartition AND %here AND %own(pg_class, c)
       ORDER BY 1, 2""";
  private static final String CONSTRAINTS =
      """
      SELECT %name(c.relname), k.contype, k.conname, pg_catalog.pg_get_constraintdef(k.oid)
        FROM pg_catalog.pg_constraint k JOIN pg_catalog.pg_class c ON c.oid = k.conrelid
        JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace
       WHERE k.contype IN ('u', 'c', 'x') AND k.conislocal AND k.conparentid = 0
         AND %here AND %own(pg_class, c) ORDER BY 1, k.conname""";
  private static final String FOREIGN_KEYS =
      """
      SELECT %name(c.relname), k.conname, (SELECT %name(t.relname)
            FROM pg_catalog.pg_class t JOIN pg_catalog.pg_namespace n ON n.oid = t.relnamespace
           WHERE t.oid = k.confrelid), array_to_string(k.conkey, ' '),
          ARRAY(SELECT a.attname::text FROM unnest(k.confkey) WITH ORDINALITY u (number, place)
            JOIN pg_catalog.pg_attribute a ON a.attrelid = k.confrelid AND a.attnum = u.number
            ORDER BY u.place), %action(k.confupdtype), %action(k.confdeltype),
          concat_ws(' ', CASE WHEN k.confmatchtype = 'f' THEN 'MATCH FULL' END,
            CASE WHEN k.condeferrable THEN 'DEFERRABLE' END,
            CASE WHEN k.condeferred THEN 'INITIALLY DEFERRED' END,
            CASE WHEN NOT k.convalidated THEN 'NOT VALID' END)
        FROM pg_catalog.pg_constraint k JOIN pg_catalog.pg_class c ON c.oid = k.conrelid
        JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace
       WHERE k.contype = 'f' AND k.conparentid = 0 AND %here AND %own(pg_class, c)
       ORDER BY 1, k.conname""";

  /** With so many tables a second connection is worth its opening. */
  private static final int LARGE = 500;

  private static final String EXPRESSION = "(expression)";

  /** How the server names a constraint whose name nobody gave (manual, "CREATE TABLE"). */
  private static final Pattern INVENTED = Pattern.compile(".*_(key|check|excl|fkey)\\d*");

  private final Statement sql;
  private final PostgresQueries queries;
  private final PostgresScope scope;
  private final List<String> without;
  private final Function<String, PostgresSecond> second;
  private final Map<String, Map<String, String>> options = new TreeMap<>();
  private final Map<String, List<Column>> columns = new HashMap<>();
  private final Map<String, Map<String, String>> columnNames = new HashMap<>();
  private final Map<String, List<String>> primaryKeys = new HashMap<>();
  private final Map<String, Map<String, String>> keyMore = new HashMap<>();
  private final Map<String, List<ForeignKey>> foreignKeys = new HashMap<>();
  private final Map<String, List<Constraint>> constraints = new HashMap<>();
  private final Map<String, List<Index>> indexes = new HashMap<>();

  /**
   * @param second asks a query of a second connection
   */
  PostgresStructure(
      Statement sql,
      PostgresQueries queries,
      List<String> schemas,
      List<String> without,
      Function<String, PostgresSecond> second) {
    this.sql = sql;
    this.queries = queries;
    this.without = without;
    this.second = second;
    scope = new PostgresScope(schemas);
  }

  Schema read() throws SQLException {
    readTables();
    List<SchemaObject> objects = new ArrayList<>();
    if (options.size() < LARGE) {
      readRest(objects);
      readIndexes();
    } else {
      try (PostgresSecond meanwhile = second.apply(scope.of(INDEXES))) {
        readRest(objects);
        if (!meanwhile.read(this::readIndexes)) {
          readIndexes();
        }
      }
    }
    List<Table> tables = new ArrayList<>();
    for (String table : options.keySet()) {
      if (!without.contains(table)) {
        tables.add(
            new Table(
                table,
                columns.getOrDefault(table, List.of()),
                primaryKeys.getOrDefault(table, List.of()),
                keyMore.getOrDefault(table, Map.of()),
                foreignKeys.getOrDefault(table, List.of()),
                constraints.getOrDefault(table, List.of()),
                indexes.getOrDefault(table, List.of()),
                options.get(table),
                ""));
      }
    }
    return new Schema(tables, objects);
  }

  private void readRest(List<SchemaObject> objects) throws SQLException {
    readColumns();
    readConstraints();
    readForeignKeys();
    objects.addAll(new PostgresObjects(sql, scope, queries).read());
    objects.removeIf(object -> without.contains(object.table()));
  }

  private ResultSet ask(String query) throws SQLException {
    return sql.executeQuery(queries.asking(sql, List.of(scope.of(query))));
  }

  private void readTables() throws SQLException {
    try (ResultSet rows = ask(TABLES)) {
      while (rows.next()) {
        Map<String, String> said = new HashMap<>();
        for (int i = 0; i < OPTIONS.size(); i++) {
          StructureRows.put(said, OPTIONS.get(i), rows.getString(i + 2));
        }
        options.put(rows.getString(1), said);
      }
    }
  }

  private void readColumns() throws SQLException {
    try (ResultSet rows = ask(COLUMNS)) {
      while (rows.next()) {
        Optional<String> expression = Optional.ofNullable(rows.getString(5));
        Optional<String> computed = Optional.ofNullable(rows.getString(6));
        Map<String, String> more = new HashMap<>();
        computed.ifPresent(how -> more.put(Column.GENERATED, expression.orElse("") + how));
        StructureRows.put(more, Column.IDENTITY, rows.getString(7));
        StructureRows.put(more, Column.COLLATION, rows.getString(8));
        StructureRows.put(more, Column.COMMENT, rows.getString(9));
        columnNames
            .computeIfAbsent(rows.getString(1), key -> new HashMap<>())
            .put(rows.getString(10), rows.getString(2));
        columns
            .computeIfAbsent(rows.getString(1), key -> new ArrayList<>())
            .add(
                new Column(
                    rows.getString(2),
                    rows.getString(3),
                    rows.getBoolean(4),
                    computed.isPresent() ? Optional.empty() : expression,
                    more));
      }
    }
  }

  private void readIndexes() throws SQLException {
    try (ResultSet rows = ask(INDEXES)) {
      readIndexes(rows);
    }
  }

  private void readIndexes(ResultSet rows) throws SQLException {
    while (rows.next()) {
      String table = rows.getString(1);
      List<String> all = names(table, rows.getString(7));
      List<String> names = all.subList(0, rows.getInt(8));
      if (rows.getBoolean(3)) {
        primaryKeys.put(table, names);
        Map<String, String> more = new HashMap<>();
        StructureRows.put(more, ForeignKey.NAME, rows.getString(11));
        StructureRows.put(more, Element.DEFINITION, rows.getString(12));
        keyMore.put(table, more);
      }
      indexes
          .computeIfAbsent(table, key -> new ArrayList<>())
          .add(
              new Index(
                  rows.getString(2),
                  names,
                  rows.getBoolean(4),
                  rows.getBoolean(5),
                  rows.getBoolean(6),
                  unnamed(rows.getString(9)) + (rows.getBoolean(10) ? "" : " (not valid)")));
    }
  }

  /** An index's definition without its name and its table's; a constraint's index has none. */
  private static String unnamed(String definition) {
    if (definition.isEmpty()) {
      return definition;
    }
    int kind = definition.indexOf(" INDEX ");
    int method = definition.indexOf(" USING ", kind);
    return definition.substring(0, kind) + " INDEX" + definition.substring(method);
  }

  /** The names of a table's columns by their numbers, which blanks part; 0 is an expression. */
  private List<String> names(String table, String numbers) {
    List<String> names = new ArrayList<>();
    Map<String, String> known = columnNames.getOrDefault(table, Map.of());
    for (String number : numbers.split(" ")) {
      names.add(known.getOrDefault(number, EXPRESSION));
    }
    return names;
  }

  private void readConstraints() throws SQLException {
    try (ResultSet rows = ask(CONSTRAINTS)) {
      while (rows.next()) {
        Kind kind =
            switch (rows.getString(2)) {
              case "u" -> Kind.UNIQUE;
              case "c" -> Kind.CHECK;
              default -> Kind.EXCLUSION;
            };
        constraints
            .computeIfAbsent(rows.getString(1), key -> new ArrayList<>())
            .add(
                new Constraint(
                    kind,
                    StructureRows.chosen(rows.getString(3), INVENTED),
                    rows.getString(3),
                    rows.getString(4)));
      }
    }
  }

  private void readForeignKeys() throws SQLException {
    String query =
        FOREIGN_KEYS.replaceAll(
            "%action\\(([a-z.]+)\\)",
            "CASE $1 WHEN 'r' THEN 'RESTRICT' WHEN 'c' THEN 'CASCADE' WHEN 'n' THEN 'SET NULL'"
                + " WHEN 'd' THEN 'SET DEFAULT' ELSE 'NO ACTION' END");
    try (ResultSet rows = ask(query)) {
      while (rows.next()) {
        foreignKeys
            .computeIfAbsent(rows.getString(1), key -> new ArrayList<>())
            .add(
                new ForeignKey(
                    StructureRows.chosen(rows.getString(2), INVENTED),
                    rows.getString(2),
                    names(rows.getString(1), rows.getString(4)),
                    rows.getString(3),
                    List.of((String[]) rows.getArray(5).getArray()),
                    rows.getString(6),
                    rows.getString(7),
                    rows.getString(8)));
      }
    }
  }
}
