package org.wornladder.engine.postgres;

import java.sql.SQLException;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.wornladder.schema.Column;

/**
 * How values of a type are compared. The operator is named with its schema, since the server would
 * look for the best one along the search path, where a user may have put another (manual, "Operator
 * Type Resolution"). It is that of the type's default operator class, the one that unique indexes
 * use, which a superuser alone can make (manual, "CREATE OPERATOR CLASS").
 *
 * @param elsewhere the schema of the operator by the type's name, for types whose operator is not
 *     in {@code pg_catalog}; an empty one for types that have none
 */
record PostgresEquality(Map<String, Optional<String>> elsewhere) {
  static final PostgresEquality OF_THE_SERVER = new PostgresEquality(Map.of());

  private static final String CATALOG = "pg_catalog";

  /** From domains and arrays down to the types that they are made of. */
  private static final String QUERY =
      """
      WITH RECURSIVE parts (type, part, in_array) AS (
        SELECT t.oid, t.oid, false FROM pg_type t WHERE t.typtype IN ('b', 'd')
        UNION ALL
        SELECT p.type, CASE t.typtype WHEN 'd' THEN t.typbasetype ELSE t.typelem END,
          p.in_array OR t.typcategory = 'A'
        FROM parts p JOIN pg_type t ON t.oid = p.part
        WHERE t.typtype = 'd' OR t.typcategory = 'A'),
      base AS (
        SELECT p.type, p.in_array, t.oid AS part FROM parts p JOIN pg_type t ON t.oid = p.part
        WHERE t.typtype = 'b' AND t.typcategory <> 'A'),
      equality AS MATERIALIZED (
        SELECT c.opcintype AS type, n.nspname
        FROM pg_opclass c
          JOIN pg_am m ON m.oid = c.opcmethod AND m.amname IN ('btree', 'hash')
          JOIN pg_amop a ON a.amopfamily = c.opcfamily AND a.amoplefttype = c.opcintype
            AND a.amoprighttype = c.opcintype
            AND a.amopstrategy = CASE m.amname WHEN 'btree' THEN 3 ELSE 1 END
          JOIN pg_operator e ON e.oid = a.amopopr
          JOIN pg_namespace n ON n.oid = e.oprnamespace
        WHERE c.opcdefault),
      known AS (
        SELECT type, nspname, true AS own FROM equality
        UNION ALL
        SELECT k.castsource, e.nspname, false FROM equality e JOIN pg_cast k
          ON k.casttarget = e.type AND k.castmethod = 'b' AND k.castcontext = 'i'),
      best AS (
        SELECT DISTINCT ON (type) type, nspname FROM known ORDER BY type, own DESC, nspname)
      SELECT pg_catalog.format_type(b.type, NULL), k.nspname
      FROM base b LEFT JOIN best k ON k.type = b.part
      WHERE k.nspname IS NULL OR (k.nspname <> 'pg_catalog' AND NOT b.in_array)""";

  /** Reads which types are compared otherwise than by an operator of the server's own schema. */
  static PostgresEquality read(PostgresSession session) throws SQLException {
    Map<String, Optional<String>> found = new HashMap<>();
    PostgresCatalogQueries.Query query =
        new PostgresCatalogQueries.Query(
            QUERY,
            rows -> {
              while (rows.next()) {
                found.put(rows.getString(1), Optional.ofNullable(rows.getString(2)));
              }
            });
    return session.inCatalog(
        () -> {
          new PostgresCatalogQueries(session.connection(), session.schemas())
              .inTurn(List.of(new PostgresCatalogQueries.Question(query)));
          return new PostgresEquality(Map.copyOf(found));
        });
  }

  /** Whether two values are equal as a unique index takes them; NULL if one is. */
  String equal(Column column, String left, String right) {
    return schema(column)
        .map(schema -> left + operator(schema) + right)
        .orElseGet(() -> asText(left, right));
  }

  /**
   * Whether two values are the same one, case included; NULL if one is. Types without an operator
   * are compared as documents or texts, those of an extension as texts too.
   */
  String same(Column column, String left, String right) {
    if (column.type().equals("json")) {
      return left + "::jsonb" + operator(CATALOG) + right + "::jsonb";
    }
    return schema(column).filter(CATALOG::equals).isPresent()
        ? left + operator(CATALOG) + right
        : asText(left, right);
  }

  private Optional<String> schema(Column column) {
    String type = column.type().replaceFirst("\\([^)]*\\)", "");
    return elsewhere.getOrDefault(type, Optional.of(CATALOG));
  }

  private static String operator(String schema) {
    return " OPERATOR(" + PostgresEngine.QUOTING.name(schema) + ".=) ";
  }

  private static String asText(String left, String right) {
    return left + "::pg_catalog.text" + operator(CATALOG) + right + "::pg_catalog.text";
  }
}
