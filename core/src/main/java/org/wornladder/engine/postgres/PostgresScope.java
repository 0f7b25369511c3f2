package org.wornladder.engine.postgres;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Pattern;

/**
 * What a query of the catalogue reads: the managed schemas, without what belongs to an extension.
 * Names in the first schema stand alone. The schemas stand in the queries as numbers, and where no
 * extension is installed none is asked for: what need not be joined need not be planned.
 */
final class PostgresScope {
  private static final Pattern NAME = Pattern.compile("%name\\(([a-z.]+)\\)");
  private static final Pattern QUOTED = Pattern.compile("%quoted\\(([a-z.]+)\\)");
  private static final Pattern COLLATION = Pattern.compile("%collation\\(([a-z.]+)\\)");
  private static final String COLLATION_NAME =
      "(SELECT CASE WHEN cn.nspname = 'pg_catalog' THEN '' ELSE quote_ident(cn.nspname) || '.' END"
          + " || quote_ident(co.collname) FROM pg_catalog.pg_collation co"
          + " JOIN pg_catalog.pg_namespace cn ON cn.oid = co.collnamespace WHERE co.oid = $1)";
  private static final Pattern OWN = Pattern.compile("%own\\((\\w+), (\\w+)\\)");
  private static final String NOT_AN_EXTENSIONS =
      "NOT EXISTS (SELECT 1 FROM pg_catalog.pg_depend d WHERE d.deptype = 'e'"
          + " AND d.classid = 'pg_catalog.$1'::pg_catalog.regclass AND d.objid = $2.oid)";

  /** The language's extension stands in every database, and owns nothing in a managed schema. */
  private static final String STANDING =
      """
      SELECT n.oid, n.nspname, EXISTS (SELECT 1 FROM pg_catalog.pg_extension WHERE extname <> 'plpgsql')
        FROM pg_catalog.pg_namespace n WHERE n.nspname IN (%s) ORDER BY n.oid""";

  /** The number of no schema. */
  private static final String NONE = "(0::pg_catalog.oid, '')";

  private final String first;
  private final String all;
  private final String others;
  private final String numbered;
  private final boolean extensions;

  private PostgresScope(List<String> texts, List<String> numbered, boolean extensions) {
    first = texts.get(0);
    all = String.join(", ", texts);
    others = texts.size() == 1 ? "NULL" : String.join(", ", texts.subList(1, texts.size()));
    this.numbered = numbered.isEmpty() ? NONE : String.join(", ", numbered);
    this.extensions = extensions;
  }

  /**
   * The scope as it is now: a schema may be made again, and an extension installed.
   *
   * @param schemas the managed ones; those that are not there hold nothing
   */
  static PostgresScope of(Statement sql, List<String> schemas) throws SQLException {
    List<String> texts = schemas.stream().map(PostgresEngine.QUOTING::text).toList();
    List<String> numbered = new ArrayList<>();
    boolean extensions = false;
    try (ResultSet rows = sql.executeQuery(STANDING.formatted(String.join(", ", texts)))) {
      while (rows.next()) {
        String name = PostgresEngine.QUOTING.text(rows.getString(2));
        numbered.add("(" + rows.getLong(1) + "::pg_catalog.oid, " + name + ")");
        extensions = rows.getBoolean(3);
      }
    }
    return new PostgresScope(texts, numbered, extensions);
  }

  /**
   * A query with its short-hand written out: {@code %schemas} the managed schemas as {@code n},
   * {@code %name(x)} a name in the schema {@code n}, {@code %quoted(x)} the same as statements
   * write it, {@code %collation(x)} the collation of that number, {@code %here} that a row {@code
   * n} of the catalogue's schemas is managed, {@code %own(catalogue, x)} that no extension owns x.
   */
  String of(String query) {
    String named =
        NAME.matcher(query)
            .replaceAll(
                "CASE WHEN n.nspname = "
                    + first.replace("$", "\\$")
                    + " THEN $1::text ELSE n.nspname || '.' || $1 END");
    String quoted =
        QUOTED
            .matcher(named)
            .replaceAll(
                "CASE WHEN n.nspname = "
                    + first.replace("$", "\\$")
                    + " THEN '' ELSE quote_ident(n.nspname) || '.' END || quote_ident($1)");
    String collated = COLLATION.matcher(quoted).replaceAll(COLLATION_NAME);
    return OWN.matcher(collated)
        .replaceAll(extensions ? NOT_AN_EXTENSIONS : "TRUE")
        .replace("%schemas", "(VALUES " + numbered + ") n (oid, nspname)")
        .replace("%here", "n.nspname IN (" + all + ")")
        .replace("%others", others)
        .replace("%first", first);
  }
}
