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
import java.util.regex.Pattern;
import org.wornladder.engine.CatalogRows;
import org.wornladder.engine.TextDependencies;
import org.wornladder.schema.Column;
import org.wornladder.schema.Constraint;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.Dependency;
import org.wornladder.schema.DomainType;
import org.wornladder.schema.Facts;
import org.wornladder.schema.ForeignKey;
import org.wornladder.schema.Index;
import org.wornladder.schema.Kind;
import org.wornladder.schema.NameList;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.OtherObject;
import org.wornladder.schema.PrimaryKey;
import org.wornladder.schema.Routine;
import org.wornladder.schema.Schema;
import org.wornladder.schema.Sequence;
import org.wornladder.schema.Table;
import org.wornladder.schema.Trigger;
import org.wornladder.schema.View;
import org.wornladder.sql.Dialects;

/** Reads a structure with a fixed number of queries (H2, "Information Schema"). */
final class H2Structure {
  private static final String TABLES =
      "SELECT table_name, remarks FROM information_schema.tables"
          + " WHERE table_schema = %s AND table_type = 'BASE TABLE' ORDER BY table_name";
  private static final String COLUMNS =
      "SELECT c.table_name, c.column_name,"
          + " data_type_sql(c.table_schema, c.table_name, 'TABLE', c.dtd_identifier),"
          + " c.is_nullable = 'YES', c.column_default,"
          + " CASE WHEN c.is_identity = 'YES' THEN lower(c.identity_generation) ||"
          + " coalesce(' (' || nullif(trim(concat("
          + " CASE WHEN c.identity_start <> 1 THEN ' START WITH ' || c.identity_start END,"
          + " CASE WHEN c.identity_increment <> 1 THEN ' INCREMENT BY ' || c.identity_increment END,"
          + " CASE WHEN c.identity_cycle = 'YES' THEN ' CYCLE' END)), '') || ')', '') END,"
          + " c.generation_expression, c.remarks, c.column_on_update,"
          + " CASE WHEN NOT c.is_visible THEN 'yes' END, CASE WHEN c.default_on_null THEN 'yes' END,"
          + " CASE WHEN c.domain_schema <> c.table_schema THEN quote_ident(c.domain_schema) || '.'"
          + " ELSE '' END || quote_ident(c.domain_name)"
          + " FROM information_schema.columns c JOIN information_schema.tables t"
          + " ON t.table_schema = c.table_schema AND t.table_name = c.table_name"
          + " WHERE c.table_schema = %s AND t.table_type = 'BASE TABLE'"
          + " ORDER BY c.table_name, c.ordinal_position";
  private static final String INDEXES =
      "SELECT i.table_name, i.index_name, i.index_type_name = 'PRIMARY KEY',"
          + " i.index_type_name LIKE '%%UNIQUE%%' OR i.index_type_name = 'PRIMARY KEY',"
          + " i.is_generated, k.column_name, CASE WHEN k.ordering_specification = 'DESC' THEN"
          + " ' DESC' || CASE WHEN k.null_ordering = 'FIRST' THEN ' NULLS FIRST' ELSE '' END"
          + " WHEN k.null_ordering = 'LAST' THEN ' NULLS LAST' ELSE '' END,"
          + " CASE i.nulls_distinct WHEN 'NO' THEN 'NULLS NOT DISTINCT ' WHEN 'ALL' THEN"
          + " 'NULLS ALL DISTINCT ' ELSE '' END, coalesce(i.remarks, '')"
          + " FROM information_schema.indexes i JOIN information_schema.index_columns k"
          + " ON k.index_schema = i.index_schema AND k.index_name = i.index_name"
          + " WHERE i.table_schema = %s ORDER BY i.table_name, i.index_name, k.ordinal_position";
  private static final String CONSTRAINTS =
      "SELECT t.table_name, t.constraint_type, t.constraint_name, coalesce('(' || c.check_clause || ')',"
          + " CASE t.nulls_distinct WHEN 'NO' THEN 'NULLS NOT DISTINCT ' WHEN 'ALL' THEN"
          + " 'NULLS ALL DISTINCT ' ELSE '' END || '(' ||"
          + " (SELECT listagg('\"' || replace(k.column_name, '\"', '\"\"') || '\"', ', ') WITHIN GROUP (ORDER BY k.ordinal_position)"
          + " FROM information_schema.key_column_usage k"
          + " WHERE k.constraint_schema = t.constraint_schema"
          + " AND k.constraint_name = t.constraint_name) || ')'), coalesce(t.remarks, '')"
          + " FROM information_schema.table_constraints t"
          + " LEFT JOIN information_schema.check_constraints c"
          + " ON c.constraint_schema = t.constraint_schema AND c.constraint_name = t.constraint_name"
          + " WHERE t.table_schema = %s AND t.constraint_type IN ('CHECK', 'UNIQUE', 'PRIMARY KEY')"
          + " ORDER BY t.table_name, t.constraint_name";
  private static final String FOREIGN_KEYS =
      "SELECT k.table_name, k.constraint_name, k.column_name, t.table_name, t.column_name,"
          + " r.update_rule, r.delete_rule,"
          + " CASE WHEN t.table_schema = k.table_schema THEN '' ELSE t.table_schema END"
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
      "SELECT table_name, '', 'CREATE VIEW ' || %2$s || ' (' || (SELECT listagg("
          + "quote_ident(c.column_name), ', ') WITHIN GROUP (ORDER BY c.ordinal_position)"
          + " FROM information_schema.columns c WHERE c.table_schema = v.table_schema"
          + " AND c.table_name = v.table_name) || ') AS ' || view_definition,"
          + " remarks AS \"comment\" FROM information_schema.views v WHERE table_schema = %1$s ORDER BY table_name";
  private static final String TRIGGERS =
      "SELECT trigger_name, event_object_table, 'CREATE TRIGGER ' || %2$s || ' '"
          + " || max(action_timing) || ' ' || listagg(event_manipulation, ', ') WITHIN GROUP"
          + " (ORDER BY event_manipulation) || ' ON ' || %3$s || CASE WHEN max(action_orientation) ="
          + " 'ROW' THEN ' FOR EACH ROW' ELSE '' END || CASE WHEN max(queue_size) <> 1024 THEN"
          + " ' QUEUE ' || max(queue_size) ELSE '' END || CASE WHEN max(no_wait) THEN ' NOWAIT'"
          + " ELSE '' END || ' CALL ' || quote_ident(max(java_class)), max(remarks) AS \"comment\""
          + " FROM information_schema.triggers WHERE trigger_schema = %1$s"
          + " GROUP BY trigger_name, event_object_table ORDER BY trigger_name";
  private static final String SEQUENCES =
      "SELECT sequence_name, data_type AS \"type\", start_value AS \"start\", increment AS"
          + " \"increment\", minimum_value AS \"minimum\", maximum_value AS \"maximum\", CASE WHEN"
          + " cycle_option = 'YES' THEN 'yes' END AS \"cycle\", cache AS \"cache\", remarks AS"
          + " \"comment\" FROM information_schema.sequences"
          + " WHERE sequence_schema = %s ORDER BY sequence_name";
  private static final String DOMAINS =
      "SELECT d.domain_name, data_type_sql(d.domain_schema, d.domain_name, 'DOMAIN',"
          + " d.dtd_identifier), d.domain_default AS \"default\", d.remarks AS \"comment\""
          + " FROM information_schema.domains d WHERE d.domain_schema = %s ORDER BY d.domain_name";
  private static final String DOMAIN_CHECKS =
      "SELECT c.domain_name, c.constraint_name, k.check_clause"
          + " FROM information_schema.domain_constraints c"
          + " JOIN information_schema.check_constraints k"
          + " ON k.constraint_schema = c.constraint_schema AND k.constraint_name = c.constraint_name"
          + " WHERE c.domain_schema = %s ORDER BY c.constraint_name";
  private static final String ROUTINES =
      "SELECT routine_name, '', 'CREATE ' || CASE WHEN routine_type = 'AGGREGATE' THEN 'AGGREGATE '"
          + " ELSE 'ALIAS ' END || %2$s || CASE WHEN max(is_deterministic) = 'YES'"
          + " THEN ' DETERMINISTIC' ELSE '' END || CASE WHEN max(routine_definition) IS NULL"
          + " THEN ' FOR ' || quote_ident(max(external_name))"
          + " ELSE ' AS ' || '''' || replace(max(routine_definition), '''', '''''') || '''' END,"
          + " max(remarks) AS \"comment\" FROM information_schema.routines"
          + " WHERE routine_schema = %1$s AND routine_type = '%3$s'"
          + " GROUP BY routine_name, routine_type ORDER BY routine_name";
  private static final String OTHERS =
      "SELECT 'constant ' || constant_name, '', 'CREATE CONSTANT ' || %2$s || ' VALUE '"
          + " || value_definition FROM information_schema.constants"
          + " WHERE constant_schema = %1$s ORDER BY constant_name";

  /** How the engine names what nobody named: {@code CONSTRAINT_8}, {@code CONSTRAINT_8A}. */
  private static final Pattern INVENTED = Pattern.compile("CONSTRAINT_[0-9A-F]+(_\\d+)?");

  private final Statement sql;
  private final String schema;
  private final List<String> without;
  private final Map<String, Map<String, String>> options = new TreeMap<>();
  private final Map<String, List<Column>> columns = new HashMap<>();
  private final Map<String, List<Constraint>> constraints = new HashMap<>();
  private final Map<String, PrimaryKey> primaryKeys = new HashMap<>();
  private final Map<String, List<Index>> indexes = new HashMap<>();
  private final Map<String, Map<String, ForeignKey>> foreignKeys = new HashMap<>();

  H2Structure(Statement sql, String schema, List<String> without) {
    this.sql = sql;
    this.schema = H2Engine.QUOTING.text(schema);
    this.without = without;
  }

  Schema read() throws SQLException {
    readTables();
    readColumns();
    readIndexes();
    readConstraints();
    readForeignKeys();
    List<Table> tables = new ArrayList<>();
    for (String table : options.keySet()) {
      if (!without.contains(table)) {
        tables.add(
            new Table(
                ObjectId.of(Kind.TABLE, table),
                columns.getOrDefault(table, List.of()),
                Optional.ofNullable(primaryKeys.get(table)),
                List.copyOf(foreignKeys.getOrDefault(table, Map.of()).values()),
                constraints.getOrDefault(table, List.of()),
                indexes.getOrDefault(table, List.of()).stream().map(H2Structure::named).toList(),
                options.get(table),
                "",
                List.of()));
      }
    }
    List<DatabaseObject> objects = objects();
    List<DatabaseObject> all = new ArrayList<>(tables);
    all.addAll(objects);
    TextDependencies texts = new TextDependencies(Dialects.H2, all);
    return new Schema(texts.inTables(tables), texts.resolved(objects));
  }

  /** H2 invents other names for the indexes of constraints each time: they do not count. */
  private static Index named(Index index) {
    String name =
        index.fromConstraint() ? "of " + String.join(", ", index.columns()) : index.name();
    return new Index(
        name,
        index.columns(),
        index.unique(),
        index.partial(),
        index.fromConstraint(),
        false,
        index.definition(),
        index.comment());
  }

  private ResultSet query(String text) throws SQLException {
    return sql.executeQuery(text.formatted(schema));
  }

  private void readTables() throws SQLException {
    try (ResultSet rows = query(TABLES)) {
      while (rows.next()) {
        Map<String, String> said = new HashMap<>();
        CatalogRows.put(said, "comment", rows.getString(2));
        options.put(rows.getString(1), said);
      }
    }
  }

  private void readColumns() throws SQLException {
    try (ResultSet rows = query(COLUMNS)) {
      while (rows.next()) {
        Map<String, String> more = new HashMap<>();
        CatalogRows.put(more, Column.IDENTITY, rows.getString(6));
        CatalogRows.put(more, Column.GENERATED, rows.getString(7));
        CatalogRows.put(more, Facts.COMMENT, rows.getString(8));
        CatalogRows.put(more, H2Ddl.ON_UPDATE, rows.getString(9));
        CatalogRows.put(more, H2Ddl.INVISIBLE, rows.getString(10));
        CatalogRows.put(more, H2Ddl.ON_NULL, rows.getString(11));
        CatalogRows.put(more, H2Ddl.DOMAIN, rows.getString(12));
        columns
            .computeIfAbsent(rows.getString(1), key -> new ArrayList<>())
            .add(
                new Column(
                    rows.getString(2),
                    rows.getString(3),
                    rows.getBoolean(4),
                    Optional.ofNullable(rows.getString(5)),
                    more,
                    domain(more)));
      }
    }
  }

  /** What a column needs whose type is a domain. */
  private static List<Dependency> domain(Map<String, String> more) {
    return Optional.ofNullable(more.get(H2Ddl.DOMAIN)).stream()
        .map(name -> ObjectId.of(Kind.DOMAIN, NameList.only(name)))
        .map(id -> Dependency.cataloged(id, ""))
        .toList();
  }

  private void readIndexes() throws SQLException {
    try (ResultSet rows = query(INDEXES)) {
      while (rows.next()) {
        String table = rows.getString(1);
        String name = rows.getString(2);
        List<Index> list = indexes.computeIfAbsent(table, key -> new ArrayList<>());
        boolean continues = !list.isEmpty() && list.get(list.size() - 1).name().equals(name);
        Optional<Index> before =
            continues ? Optional.of(list.remove(list.size() - 1)) : Optional.empty();
        List<String> names = new ArrayList<>(before.map(Index::columns).orElse(List.of()));
        names.add(rows.getString(6));
        String unique = "CREATE UNIQUE " + rows.getString(8) + "INDEX (";
        String start =
            before
                .map(
                    index ->
                        index.definition().substring(0, index.definition().length() - 1) + ", ")
                .orElse(rows.getBoolean(4) ? unique : "CREATE INDEX (");
        String column = H2Engine.QUOTING.name(rows.getString(6)) + rows.getString(7);
        list.add(
            new Index(
                name,
                names,
                rows.getBoolean(4),
                false,
                rows.getBoolean(5),
                false,
                start + column + ")",
                rows.getString(9)));
        if (rows.getBoolean(3)) {
          primaryKeys.put(table, PrimaryKey.over(names));
        }
      }
    }
  }

  private static boolean isInvented(String name) {
    return INVENTED.matcher(name).matches();
  }

  private void readConstraints() throws SQLException {
    try (ResultSet rows = query(CONSTRAINTS)) {
      while (rows.next()) {
        Optional<String> chosen = CatalogRows.chosen(rows.getString(3), H2Structure::isInvented);
        if (rows.getString(2).equals("PRIMARY KEY")) {
          nameKey(rows.getString(1), rows.getString(3), chosen);
          continue;
        }
        Kind kind = rows.getString(2).equals("CHECK") ? Kind.CHECK : Kind.UNIQUE;
        constraints
            .computeIfAbsent(rows.getString(1), key -> new ArrayList<>())
            .add(
                new Constraint(
                    kind,
                    chosen,
                    rows.getString(3),
                    rows.getString(4),
                    // Another database has another name for one that nobody named.
                    chosen.isPresent() ? rows.getString(5) : ""));
      }
    }
  }

  private void nameKey(String table, String name, Optional<String> chosen) {
    Map<String, String> more = new HashMap<>();
    if (chosen.isEmpty()) {
      more.put(Facts.GENERATED_NAME, name);
    }
    primaryKeys.computeIfPresent(
        table, (owner, key) -> new PrimaryKey(key.columns(), chosen, more));
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
                CatalogRows.chosen(name, H2Structure::isInvented),
                name,
                own,
                ObjectId.of(Kind.TABLE, rows.getString(8), rows.getString(4)),
                theirs,
                CatalogRows.action(rows.getString(6)),
                CatalogRows.action(rows.getString(7)),
                ""));
      }
    }
  }

  private List<DatabaseObject> objects() throws SQLException {
    List<DatabaseObject> found = new ArrayList<>();
    readDomains(found);
    CatalogRows.objects(found, sql.executeQuery(SEQUENCES.formatted(schema)), 1, this::sequence);
    views(found);
    String routine = quoted("routine_name");
    for (Kind kind : List.of(Kind.FUNCTION, Kind.PROCEDURE, Kind.AGGREGATE)) {
      defined(found, kind, ROUTINES.formatted(schema, routine, kind.name()));
    }
    triggers(found);
    defined(found, Kind.OTHER, OTHERS.formatted(schema, quoted("constant_name")));
    return found;
  }

  private void readDomains(List<DatabaseObject> found) throws SQLException {
    Map<String, List<Constraint>> checks = new HashMap<>();
    try (ResultSet rows = query(DOMAIN_CHECKS)) {
      while (rows.next()) {
        checks
            .computeIfAbsent(rows.getString(1), key -> new ArrayList<>())
            .add(
                new Constraint(
                    Kind.CHECK,
                    CatalogRows.chosen(rows.getString(2), H2Structure::isInvented),
                    rows.getString(2),
                    "(" + rows.getString(3) + ")"));
      }
    }
    CatalogRows.objects(
        found,
        query(DOMAINS),
        2,
        row ->
            new DomainType(
                ObjectId.of(Kind.DOMAIN, row.text(0)),
                row.text(1),
                checks.getOrDefault(row.text(0), List.of()),
                row.facts(),
                List.of()));
  }

  private DatabaseObject sequence(CatalogRows.Row row) {
    Map<String, String> settings = new HashMap<>(row.facts());
    Map<String, String> more = new HashMap<>();
    CatalogRows.put(more, Facts.COMMENT, settings.remove(Facts.COMMENT));
    return new Sequence(
        ObjectId.of(Kind.SEQUENCE, row.text(0)), settings, Optional.empty(), "", more, List.of());
  }

  private void views(List<DatabaseObject> found) throws SQLException {
    CatalogRows.objects(
        found,
        sql.executeQuery(VIEWS.formatted(schema, quoted("table_name"))),
        3,
        row ->
            new View(
                ObjectId.of(Kind.VIEW, row.text(0)),
                row.definition(2),
                row.facts(),
                List.of(),
                List.of()));
  }

  private void triggers(List<DatabaseObject> found) throws SQLException {
    String query = TRIGGERS.formatted(schema, quoted("trigger_name"), quoted("event_object_table"));
    CatalogRows.objects(
        found,
        sql.executeQuery(query),
        3,
        row ->
            new Trigger(
                ObjectId.of(Kind.TRIGGER, row.text(0)),
                ObjectId.of(options.containsKey(row.text(1)) ? Kind.TABLE : Kind.VIEW, row.text(1)),
                row.definition(2),
                row.facts(),
                List.of()));
  }

  private void defined(List<DatabaseObject> found, Kind kind, String query) throws SQLException {
    CatalogRows.objects(
        found,
        sql.executeQuery(query),
        3,
        row ->
            kind == Kind.OTHER
                ? new OtherObject(
                    ObjectId.of(kind, row.text(0)), row.definition(2), row.facts(), List.of())
                : new Routine(
                    ObjectId.of(kind, row.text(0)), row.definition(2), row.facts(), List.of()));
  }

  /** A column's value as statements write a name. */
  private static String quoted(String column) {
    return "'\"' || replace(" + column + ", '\"', '\"\"') || '\"'";
  }
}
