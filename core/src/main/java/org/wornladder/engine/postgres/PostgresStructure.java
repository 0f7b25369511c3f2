package org.wornladder.engine.postgres;

import java.sql.Array;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.function.UnaryOperator;
import org.wornladder.engine.CatalogRows;
import org.wornladder.engine.postgres.PostgresCatalogQueries.Query;
import org.wornladder.engine.postgres.PostgresCatalogQueries.Question;
import org.wornladder.engine.postgres.PostgresCatalogQueries.Reader;
import org.wornladder.schema.Column;
import org.wornladder.schema.Constraint;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.Facts;
import org.wornladder.schema.ForeignKey;
import org.wornladder.schema.Kind;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.Schema;
import org.wornladder.schema.Table;

/**
 * Reads a structure with a fixed number of queries (PostgreSQL manual, chapter "System Catalogs").
 * What belongs to an extension is the extension's.
 */
final class PostgresStructure {
  private static final String TABLES =
      """
      SELECT %name(c.relname), %schema, c.relname, c.oid,
          CASE WHEN c.relpersistence = 'u' THEN 'yes' END,
          pg_catalog.pg_get_partkeydef(c.oid),
          (SELECT string_agg(i.inhparent::pg_catalog.regclass::text, ', ' ORDER BY i.inhseqno)
             FROM pg_catalog.pg_inherits i WHERE i.inhrelid = c.oid),
          pg_catalog.pg_get_expr(c.relpartbound, c.oid),
          CASE WHEN %reordered THEN 'its columns are in another order' END, array_to_string(c.reloptions, ', '),
          CASE WHEN c.relforcerowsecurity THEN 'forced' WHEN c.relrowsecurity THEN 'enabled' END,
          CASE c.relreplident WHEN 'n' THEN 'NOTHING' WHEN 'f' THEN 'FULL' WHEN 'i' THEN
            (SELECT 'USING INDEX ' || quote_ident(i.relname) FROM pg_catalog.pg_index x
              JOIN pg_catalog.pg_class i ON i.oid = x.indexrelid
              WHERE x.indrelid = c.oid AND x.indisreplident) END,
          CASE WHEN c.reloftype <> 0 THEN pg_catalog.format_type(c.reloftype, NULL) END,
          de.description
        FROM pg_catalog.pg_class c JOIN %schemas ON n.oid = c.relnamespace
        LEFT JOIN pg_catalog.pg_description de ON de.objoid = c.oid AND de.objsubid = 0
          AND de.classoid = 'pg_catalog.pg_class'::pg_catalog.regclass
       WHERE c.relkind IN ('r', 'p') AND %own(pg_class, c) ORDER BY c.oid""";
  private static final List<String> OPTIONS =
      List.of(
          Facts.NUMBER,
          PostgresDdl.UNLOGGED,
          PostgresDdl.PARTITIONED_BY,
          PostgresDdl.INHERITS,
          PostgresDdl.BOUND,
          PostgresDdl.ATTACHED,
          PostgresDdl.STORAGE_OPTIONS,
          PostgresDdl.ROW_SECURITY,
          PostgresDdl.REPLICA_IDENTITY,
          PostgresDdl.OF_TYPE,
          Facts.COMMENT);

  /** What is said of few columns, in the query's order. */
  private static final List<String> OF_COLUMN =
      List.of(
          PostgresDdl.INHERITED,
          PostgresDdl.NOT_NULL,
          PostgresDdl.STORAGE,
          PostgresDdl.STATISTICS,
          PostgresDdl.OPTIONS);

  /**
   * The server examines a table for each expression that may name its columns, which takes longer
   * than all the rest: of these only a generated column's does (manual, "System Information
   * Functions"). Defaults and comments are looked up for each column: joined, a server that has no
   * statistics yet may go through all of a table's for each of its columns.
   */
  private static final String COLUMNS =
      """
      SELECT %name(c.relname), a.attname, pg_catalog.format_type(a.atttypid, a.atttypmod),
          NOT a.attnotnull, CASE WHEN a.atthasdef THEN pg_catalog.pg_get_expr(
            (SELECT d.adbin FROM pg_catalog.pg_attrdef d
              WHERE d.adrelid = c.oid AND d.adnum = a.attnum),
            CASE WHEN a.attgenerated <> '' THEN c.oid ELSE 0 END) END,
          CASE a.attgenerated WHEN 's' THEN ' stored' WHEN 'v' THEN ' virtual' END,
          %identity,
          CASE WHEN a.attcollation <> t.typcollation THEN %collation(a.attcollation) END,
          %comment(a.attnum), a.attnum, nullif(quote_ident(a.attname), a.attname), a.attcollation,
          CASE a.atttypid WHEN 'pg_catalog.varchar'::pg_catalog.regtype
            THEN 'pg_catalog.text'::pg_catalog.regtype::oid ELSE a.atttypid END,
          CASE WHEN a.attinhcount > 0 OR a.attstorage <> t.typstorage OR a.attstattarget >= 0
            OR a.attoptions IS NOT NULL THEN ARRAY[
          CASE WHEN NOT a.attislocal AND NOT c.relispartition THEN 'yes' END,
          CASE WHEN a.attinhcount > 0 AND a.attnotnull AND NOT EXISTS (SELECT 1
            FROM pg_catalog.pg_inherits i JOIN pg_catalog.pg_attribute p ON p.attrelid = i.inhparent
              AND p.attname = a.attname AND p.attnotnull WHERE i.inhrelid = c.oid)
            THEN 'its own' END,
          CASE WHEN a.attstorage <> t.typstorage THEN CASE a.attstorage WHEN 'p' THEN 'PLAIN'
            WHEN 'e' THEN 'EXTERNAL' WHEN 'm' THEN 'MAIN' ELSE 'EXTENDED' END END,
          CASE WHEN a.attstattarget >= 0 THEN a.attstattarget::text END,
          array_to_string(ARRAY(SELECT o FROM unnest(a.attoptions) o
            WHERE split_part(o, '=', 1) IN ('n_distinct', 'n_distinct_inherited')), ', ')] END
        FROM pg_catalog.pg_class c JOIN %schemas ON n.oid = c.relnamespace
        JOIN pg_catalog.pg_attribute a ON a.attrelid = c.oid AND a.attnum > 0 AND NOT a.attisdropped
        JOIN pg_catalog.pg_type t ON t.oid = a.atttypid
       WHERE c.relkind IN ('r', 'p') AND %own(pg_class, c)
       ORDER BY a.attrelid, a.attnum""";

  private static final String CONSTRAINTS =
      """
      SELECT %name(c.relname), k.contype, k.conname, pg_catalog.pg_get_constraintdef(k.oid)
        FROM pg_catalog.pg_constraint k JOIN pg_catalog.pg_class c ON c.oid = k.conrelid
        JOIN %schemas ON n.oid = c.relnamespace
       WHERE k.contype IN ('u', 'c', 'x') AND (k.conislocal OR %reordered)
         AND k.conparentid = 0 AND %own(pg_class, c) ORDER BY k.conrelid, k.conname""";
  private static final String FOREIGN_KEYS =
      """
      SELECT %name(c.relname), k.conname, t.name, array_to_string(k.conkey, ' '),
          array_to_string(k.confkey, ' '), CASE WHEN NOT t.managed THEN ARRAY(SELECT a.attname::text
            FROM unnest(k.confkey) WITH ORDINALITY u (number, place)
            JOIN pg_catalog.pg_attribute a ON a.attrelid = k.confrelid AND a.attnum = u.number
            ORDER BY u.place) END, %action(k.confupdtype), %action(k.confdeltype) || %some,
          concat_ws(' ', CASE WHEN k.confmatchtype = 'f' THEN 'MATCH FULL' END,
            CASE WHEN k.condeferrable THEN 'DEFERRABLE' END,
            CASE WHEN k.condeferred THEN 'INITIALLY DEFERRED' END,
            CASE WHEN NOT k.convalidated THEN 'NOT VALID' END), t.schema, t.relname
        FROM pg_catalog.pg_constraint k JOIN pg_catalog.pg_class c ON c.oid = k.conrelid
        JOIN %schemas ON n.oid = c.relnamespace
        JOIN (SELECT t.oid, t.relname, %schema AS schema, %name(t.relname) AS name,
              n.nspname IN (%all) AND %own(pg_class, t) AS managed FROM pg_catalog.pg_class t
            JOIN pg_catalog.pg_namespace n ON n.oid = t.relnamespace) t ON t.oid = k.confrelid
       WHERE k.contype = 'f' AND k.conparentid = 0 AND %own(pg_class, c)
       ORDER BY k.conrelid, k.conname""";

  private final PostgresCatalogQueries queries;
  private final PostgresScope scope;
  private final List<DatabaseObject> objects = new ArrayList<>();
  private final PostgresNumbers numbers = new PostgresNumbers();
  private final PostgresDependencies dependencies = new PostgresDependencies();
  private final Map<String, ObjectId> ids = new HashMap<>();
  private final Map<String, Map<String, String>> options = new TreeMap<>();
  private final PostgresComments comments = new PostgresComments();
  private final PostgresOtherObjects rare = new PostgresOtherObjects();
  private final Map<String, List<Column>> columns = new HashMap<>();
  private final PostgresAttributes attributes = new PostgresAttributes();
  private final Map<String, List<ForeignKey>> foreignKeys = new HashMap<>();
  private final Map<String, List<Constraint>> constraints = new HashMap<>();
  private final PostgresIndexes indexes;

  /** For an open transaction, in which the structure is read. */
  PostgresStructure(PostgresCatalogQueries queries, PostgresScope scope) {
    this.queries = queries;
    this.scope = scope;
    indexes = new PostgresIndexes(queries, attributes, comments);
  }

  Schema read() throws SQLException {
    ask(questions -> questions);
    indexes.complete();
    return schema();
  }

  /** The same with the fingerprint of all query results, if they hold the whole structure. */
  Schema readWithFingerprint() throws SQLException {
    PostgresCatalogFingerprint fingerprint = new PostgresCatalogFingerprint();
    ask(fingerprint::observed);
    boolean complete = indexes.complete();
    return schema().withCatalogFingerprint(complete ? fingerprint.value() : Optional.empty());
  }

  /** The fingerprint of all query results, computed by the server. */
  Optional<String> catalogFingerprint() throws SQLException {
    PostgresCatalogFingerprint fingerprint = new PostgresCatalogFingerprint();
    ask(fingerprint::computedByServer);
    return fingerprint.value();
  }

  /** Asks all that there is to ask. */
  private void ask(UnaryOperator<List<Question>> as) throws SQLException {
    inTurn(as.apply(questions()));
    Optional<Question> ofRare = rare.question(scope, objects);
    if (ofRare.isPresent()) {
      inTurn(as.apply(List.of(ofRare.get())));
    }
  }

  /**
   * The questions in the order in which their answers need each other. Several queries travel in
   * one: the server goes on while the answer before is read.
   */
  private List<Question> questions() {
    List<Query> early = new ArrayList<>();
    List<Query> ofKeys = new ArrayList<>();
    List<Query> late = new ArrayList<>();
    if (scope.has(PostgresObjectKinds.COMMENT)) {
      early.add(query(PostgresComments.QUERY, comments::read));
    }
    if (scope.has(PostgresObjectKinds.TABLE) || scope.has(PostgresObjectKinds.PARTITIONED_TABLE)) {
      early.add(query(TABLES, this::readOptions));
      early.add(query(COLUMNS, this::readColumns));
      ofKeys.add(query(PostgresIndexes.DEFAULT_CLASSES, indexes::readClasses));
      ofKeys.add(query(PostgresIndexes.QUERY, indexes::read));
      if (scope.has(PostgresObjectKinds.UNIQUE)
          || scope.has(PostgresObjectKinds.CHECK)
          || scope.has(PostgresObjectKinds.EXCLUSION)) {
        late.add(query(CONSTRAINTS, this::readConstraints));
      }
      if (scope.has(PostgresObjectKinds.FOREIGN_KEY)) {
        late.add(query(FOREIGN_KEYS, this::readForeignKeys));
      }
    }
    ofKeys.add(new Query(PostgresOtherObjects.EXISTS, rare::readExists, true));
    late.addAll(new PostgresObjects(scope, numbers, comments, objects).queries());
    late.add(new Query(PostgresDependencies.QUERY, dependencies::read));
    List<Question> questions = new ArrayList<>();
    if (!early.isEmpty()) {
      questions.add(new Question(early));
    }
    questions.add(new Question(ofKeys));
    questions.add(new Question(late));
    return questions;
  }

  private Query query(String text, Reader reader) {
    return new Query(scope.of(text), reader);
  }

  private void inTurn(List<Question> questions) throws SQLException {
    queries.inTurn(questions);
  }

  private Schema schema() {
    List<Table> tables = new ArrayList<>();
    for (String table : options.keySet()) {
      tables.add(
          new Table(
              ids.get(table),
              columns.getOrDefault(table, List.of()),
              indexes.primaryKey(table),
              foreignKeys.getOrDefault(table, List.of()),
              constraints.getOrDefault(table, List.of()),
              indexes.of(table),
              options.get(table),
              "",
              List.of()));
    }
    return dependencies.in(new Schema(tables, objects), numbers);
  }

  private void readOptions(ResultSet rows) throws SQLException {
    while (rows.next()) {
      Map<String, String> said = new HashMap<>();
      for (int i = 0; i < OPTIONS.size(); i++) {
        CatalogRows.put(said, OPTIONS.get(i), rows.getString(i + 4));
      }
      ObjectId id = ObjectId.of(Kind.TABLE, rows.getString(2), rows.getString(3));
      numbers.add(PostgresNumbers.CLASS, rows.getString(4), id);
      ids.put(rows.getString(1), id);
      options.put(rows.getString(1), said);
    }
  }

  private void readColumns(ResultSet rows) throws SQLException {
    while (rows.next()) {
      String table = rows.getString(1);
      String name = rows.getString(2);
      String quoted = rows.getString(11);
      attributes.add(
          table,
          rows.getString(10),
          new PostgresAttributes.Attribute(
              name, quoted == null ? name : quoted, rows.getString(13), rows.getString(12)));
      columns.computeIfAbsent(table, key -> new ArrayList<>()).add(column(name, rows));
    }
  }

  private static Column column(String name, ResultSet rows) throws SQLException {
    String expression =
        Optional.ofNullable(rows.getString(5)).map(PostgresCheckText::canonical).orElse(null);
    String computed = rows.getString(6);
    Map<String, String> more = new HashMap<>();
    if (computed != null) {
      more.put(Column.GENERATED, expression + computed);
    }
    CatalogRows.put(more, Column.IDENTITY, rows.getString(7));
    CatalogRows.put(more, Column.COLLATION, rows.getString(8));
    CatalogRows.put(more, Facts.COMMENT, rows.getString(9));
    more.put(Facts.NUMBER, rows.getString(10));
    if (rows.getString(14) != null) {
      String[] said = (String[]) rows.getArray(14).getArray();
      for (int i = 0; i < said.length; i++) {
        CatalogRows.put(more, OF_COLUMN.get(i), said[i]);
      }
    }
    Optional<String> byDefault =
        computed == null ? Optional.ofNullable(expression) : Optional.empty();
    return new Column(name, rows.getString(3), rows.getBoolean(4), byDefault, more);
  }

  private void readConstraints(ResultSet rows) throws SQLException {
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
                      CatalogRows.chosen(rows.getString(3), PostgresNames::isOfConstraint),
                      rows.getString(3),
                      PostgresCheckText.canonical(rows.getString(4)),
                      comments.onConstraint(rows.getString(1), rows.getString(3)))
                  .writtenAs(PostgresCheckText.written(rows.getString(4))));
    }
  }

  private void readForeignKeys(ResultSet rows) throws SQLException {
    while (rows.next()) {
      foreignKeys
          .computeIfAbsent(rows.getString(1), key -> new ArrayList<>())
          .add(
              new ForeignKey(
                  CatalogRows.chosen(rows.getString(2), PostgresNames::isOfConstraint),
                  rows.getString(2),
                  attributes.names(rows.getString(1), attributes.numbers(rows.getString(4))),
                  ObjectId.of(Kind.TABLE, rows.getString(10), rows.getString(11)),
                  targets(rows),
                  rows.getString(7),
                  rows.getString(8),
                  rows.getString(9),
                  comments.onConstraint(rows.getString(1), rows.getString(2)),
                  ""));
    }
  }

  /** The columns that a foreign key points to; those of a table that is not read come by name. */
  private List<String> targets(ResultSet key) throws SQLException {
    Array names = key.getArray(6);
    return names == null
        ? attributes.names(key.getString(3), attributes.numbers(key.getString(5)))
        : List.of((String[]) names.getArray());
  }
}
