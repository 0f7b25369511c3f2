package org.wornladder.engine.postgres;

import java.util.List;
import java.util.regex.Pattern;

/**
 * What a query of the catalogue reads: the managed schemas, without what belongs to an extension.
 * Names in the first schema stand alone.
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

  private final String first;
  private final String all;
  private final String others;

  PostgresScope(List<String> schemas) {
    List<String> texts = schemas.stream().map(PostgresEngine.QUOTING::text).toList();
    first = texts.get(0);
    all = String.join(", ", texts);
    others = texts.size() == 1 ? "NULL" : String.join(", ", texts.subList(1, texts.size()));
  }

  /**
   * A query with its short-hand written out: {@code %name(x)} is a name in the schema {@code n},
   * {@code %quoted(x)} the same as statements write it, {@code %collation(x)} the collation of that
   * number, {@code %here} that {@code n} is managed, {@code %own(catalogue, x)} that no extension
   * owns x.
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
    String owned =
        OWN.matcher(collated)
            .replaceAll(
                "NOT EXISTS (SELECT 1 FROM pg_catalog.pg_depend d WHERE d.deptype = 'e'"
                    + " AND d.classid = 'pg_catalog.$1'::pg_catalog.regclass"
                    + " AND d.objid = $2.oid)");
    return owned
        .replace("%here", "n.nspname IN (" + all + ")")
        .replace("%others", others)
        .replace("%first", first);
  }
}
