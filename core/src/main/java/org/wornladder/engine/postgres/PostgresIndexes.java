package org.wornladder.engine.postgres;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.wornladder.engine.CatalogRows;
import org.wornladder.engine.postgres.PostgresAttributes.Attribute;
import org.wornladder.engine.postgres.PostgresCatalogQueries.Query;
import org.wornladder.engine.postgres.PostgresCatalogQueries.Question;
import org.wornladder.engine.postgres.PostgresCatalogQueries.Reader;
import org.wornladder.schema.Facts;
import org.wornladder.schema.Index;
import org.wornladder.schema.PrimaryKey;

/**
 * The indexes of tables, primary keys among them. The server takes its time to write a definition,
 * and most indexes are plain: these are written here in the same words (manual, "CREATE INDEX").
 */
final class PostgresIndexes {
  /**
   * What is not set is null, and so is what is not needed: many rows come, most of them plain. A
   * plain index has no definition here, but a colon, its number, and those of its columns' operator
   * classes and collations, with colons between them.
   */
  static final String QUERY =
      """
      SELECT %name(c.relname), i.relname, x.indkey::text, nullif(concat(
            CASE WHEN x.indisprimary THEN 'p' END, CASE WHEN x.indisunique THEN 'u' END,
            CASE WHEN x.indpred IS NOT NULL THEN 'w' END, CASE WHEN k.oid IS NOT NULL THEN 'c' END,
            CASE WHEN NOT x.indisvalid THEN 'n' END), ''),
          CASE WHEN k.oid IS NOT NULL THEN NULL WHEN x.indisunique OR x.indexprs IS NOT NULL
              OR x.indpred IS NOT NULL OR x.indnatts > x.indnkeyatts OR i.reloptions IS NOT NULL
              OR translate(x.indoption::text, '0 ', '') <> '' OR i.relam <> (SELECT m.oid
                FROM pg_catalog.pg_am m WHERE m.amname = 'btree')
            THEN pg_catalog.pg_get_indexdef(i.oid)
            ELSE ':' || i.oid || ':' || x.indclass::text || ':' || x.indcollation::text END,
          CASE WHEN x.indnatts > x.indnkeyatts THEN x.indnkeyatts END,
          CASE WHEN x.indisprimary AND k.conname <> left(c.relname, 58) || '_pkey' THEN k.conname END,
          CASE WHEN x.indisprimary AND (k.condeferrable OR x.indnatts > x.indnkeyatts)
            THEN pg_catalog.pg_get_constraintdef(k.oid) END
        FROM pg_catalog.pg_index x JOIN pg_catalog.pg_class c ON c.oid = x.indrelid
        JOIN pg_catalog.pg_class i ON i.oid = x.indexrelid
        JOIN %schemas ON n.oid = c.relnamespace
        LEFT JOIN pg_catalog.pg_constraint k ON k.conindid = x.indexrelid
          AND k.conrelid = x.indrelid AND k.contype IN ('p', 'u', 'x')
       WHERE c.relkind IN ('r', 'p') AND NOT i.relispartition AND %own(pg_class, c)
       ORDER BY x.indrelid, i.relname""";

  /** The operator classes that need not be named, and the type whose order each of them is. */
  static final String DEFAULT_CLASSES =
      """
      SELECT o.oid, o.opcintype FROM pg_catalog.pg_opclass o
        JOIN pg_catalog.pg_am m ON m.oid = o.opcmethod WHERE m.amname = 'btree' AND o.opcdefault
        ORDER BY o.oid""";

  private static final String DEFINITIONS =
      "SELECT u.oid, pg_catalog.pg_get_indexdef(u.oid) FROM unnest(ARRAY[%s]::oid[]) AS u (oid)";

  private static final char PRIMARY = 'p';
  private static final char UNIQUE = 'u';
  private static final char PARTIAL = 'w';
  private static final char OF_CONSTRAINT = 'c';
  private static final char NOT_VALID = 'n';

  private final PostgresCatalogQueries queries;
  private final PostgresAttributes attributes;
  private final PostgresComments comments;
  private final Map<String, PrimaryKey> primaryKeys = new HashMap<>();
  private final Map<String, List<Index>> indexes = new HashMap<>();
  private final Map<String, String> classes = new HashMap<>();

  private final List<Undefined> undefined = new ArrayList<>();

  /**
   * @param queries asks for what is not plain
   * @param attributes complete when {@link #read} is called
   * @param comments likewise
   */
  PostgresIndexes(
      PostgresCatalogQueries queries, PostgresAttributes attributes, PostgresComments comments) {
    this.queries = queries;
    this.comments = comments;
    this.attributes = attributes;
  }

  /**
   * What the catalogue says of an index.
   *
   * @param keys the numbers of its columns, 0 for an expression
   * @param columns their names, without those that are included
   * @param is a letter for each thing that it is: primary, unique, with a condition, a
   *     constraint's, not valid
   */
  private record Row(
      String table, String name, List<String> keys, List<String> columns, String is) {
    boolean is(char letter) {
      return is.indexOf(letter) >= 0;
    }
  }

  /** What says the definition of an index that looks plain: numbers, and its own one. */
  private record Plain(String number, List<String> classes, List<String> collations) {}

  /** An index whose definition only the server can write, and where it is. */
  private record Undefined(Row row, Plain plain, List<Index> ofTable, int place) {}

  /** Takes what {@link #DEFAULT_CLASSES} found; before the indexes, or it is asked for. */
  void readClasses(ResultSet found) throws SQLException {
    while (found.next()) {
      classes.put(found.getString(1), found.getString(2));
    }
  }

  /** Takes what {@link #QUERY} found. */
  void read(ResultSet found) throws SQLException {
    while (found.next()) {
      String table = found.getString(1);
      List<String> keys = attributes.numbers(found.getString(3));
      List<String> columns = attributes.names(table, keys);
      String is = found.getString(4);
      String first = found.getString(6);
      Row row =
          new Row(
              table,
              found.getString(2),
              keys,
              first == null ? columns : columns.subList(0, Integer.parseInt(first)),
              is == null ? "" : is);
      add(row, found.getString(5));
      if (row.is(PRIMARY)) {
        primaryKeys.put(table, key(row, found.getString(7), found.getString(8)));
      }
    }
  }

  /** A name that looks invented is that of a table which had another name then. */
  private PrimaryKey key(Row row, String name, String definition) {
    Map<String, String> more = new HashMap<>();
    boolean invented = name != null && name.endsWith(PostgresNames.KEY);
    if (invented) {
      more.put(Facts.GENERATED_NAME, name);
    }
    CatalogRows.put(more, Facts.DEFINITION, definition);
    more.put(Facts.COMMENT, comments.onConstraint(row.table(), row.name()));
    return new PrimaryKey(
        row.columns(), invented ? Optional.empty() : Optional.ofNullable(name), more);
  }

  /**
   * @param written its definition, or the numbers of a plain one; null for a constraint's
   */
  private void add(Row row, String written) throws SQLException {
    List<Index> ofTable = indexes.computeIfAbsent(row.table(), key -> new ArrayList<>());
    Optional<String> definition;
    if (written != null && written.startsWith(":")) {
      Plain plain = plain(written);
      definition = definition(row, plain);
      if (definition.isEmpty()) {
        undefined.add(new Undefined(row, plain, ofTable, ofTable.size()));
      }
    } else {
      definition = Optional.of(unnamed(written));
    }
    ofTable.add(index(row, definition.orElse("")));
  }

  private Plain plain(String written) {
    int classes = written.indexOf(':', 1) + 1;
    int collations = written.indexOf(':', classes) + 1;
    return new Plain(
        written.substring(1, classes - 1),
        attributes.numbers(written.substring(classes, collations - 1)),
        attributes.numbers(written.substring(collations)));
  }

  /**
   * To be called when all that was asked is read: asks for the definitions that are not plain.
   *
   * @return whether these say nothing that what was read does not say: they name operator classes
   *     and collations, and only the server's own keep their names
   */
  boolean complete() throws SQLException {
    if (undefined.isEmpty()) {
      return true;
    }
    String numbers =
        undefined.stream().map(one -> one.plain().number()).collect(Collectors.joining(","));
    Map<String, String> definitions = pairs(DEFINITIONS.formatted(numbers));
    for (Undefined one : undefined) {
      String definition = unnamed(definitions.get(one.plain().number()));
      one.ofTable().set(one.place(), index(one.row(), definition));
    }
    return undefined.stream().allMatch(one -> isComplete(one.plain()));
  }

  private static boolean isComplete(Plain plain) {
    return Stream.concat(plain.classes().stream(), plain.collations().stream())
        .allMatch(number -> Long.parseLong(number) < PostgresObjectKinds.FIRST_OF_USERS);
  }

  private Index index(Row row, String definition) {
    String whole = definition + (row.is(NOT_VALID) ? " (not valid)" : "");
    return new Index(
            row.name(),
            row.columns(),
            row.is(UNIQUE),
            row.is(PARTIAL),
            row.is(OF_CONSTRAINT),
            PostgresNames.isOfIndex(row.name()),
            PostgresCheckText.canonical(whole),
            comments.onIndex(row.table(), row.name()))
        .writtenAs(PostgresCheckText.written(whole));
  }

  private Map<String, String> pairs(String query) throws SQLException {
    Map<String, String> pairs = new HashMap<>();
    Reader reader =
        found -> {
          while (found.next()) {
            pairs.put(found.getString(1), found.getString(2));
          }
        };
    queries.inTurn(List.of(new Question(new Query(query, reader))));
    return pairs;
  }

  /** The definition of a plain index; empty if a class or a collation must be named. */
  private Optional<String> definition(Row row, Plain plain) throws SQLException {
    if (classes.isEmpty()) {
      classes.putAll(pairs(DEFAULT_CLASSES));
    }
    StringBuilder definition = new StringBuilder("CREATE INDEX USING btree (");
    for (int i = 0; i < row.keys().size(); i++) {
      Optional<Attribute> column = attributes.of(row.table(), row.keys().get(i));
      if (column.isEmpty()
          || !column.get().type().equals(classes.get(plain.classes().get(i)))
          || !column.get().collation().equals(plain.collations().get(i))) {
        return Optional.empty();
      }
      definition.append(i == 0 ? "" : ", ").append(column.get().quoted());
    }
    return Optional.of(definition.append(')').toString());
  }

  /** A definition without the names of index and table; empty if it is null or gone. */
  private static String unnamed(String definition) {
    if (definition == null) {
      return "";
    }
    int kind = definition.indexOf(" INDEX ");
    int method = definition.indexOf(" USING ", kind);
    return definition.substring(0, kind) + " INDEX" + definition.substring(method);
  }

  Optional<PrimaryKey> primaryKey(String table) {
    return Optional.ofNullable(primaryKeys.get(table));
  }

  /** The indexes of a table, by name. */
  List<Index> of(String table) {
    return indexes.getOrDefault(table, List.of());
  }
}
