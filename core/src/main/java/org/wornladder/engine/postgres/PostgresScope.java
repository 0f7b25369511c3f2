package org.wornladder.engine.postgres;

import java.util.List;
import java.util.regex.Pattern;

/**
 * What a query of the catalogue reads: the managed schemas, without what belongs to an extension.
 * Names in the first schema stand alone.
 */
final class PostgresScope {
  private static final Pattern NAME = Pattern.compile("%name\\(([a-z.]+)\\)");
  private static final Pattern OWN = Pattern.compile("%own\\((\\w+), (\\w+)\\)");

  private final String first;
  private final String all;

  PostgresScope(List<String> schemas) {
    List<String> texts = schemas.stream().map(PostgresEngine.QUOTING::text).toList();
    first = texts.get(0);
    all = String.join(", ", texts);
  }

  /**
   * A query with its short-hand written out: {@code %name(x)} is a name in the schema {@code n},
   * {@code %here} that {@code n} is managed, {@code %own(catalogue, x)} that no extension owns x.
   */
  String of(String query) {
    String named =
        NAME.matcher(query)
            .replaceAll(
                "CASE WHEN n.nspname = "
                    + first.replace("$", "\\$")
                    + " THEN $1::text ELSE n.nspname || '.' || $1 END");
    String owned =
        OWN.matcher(named)
            .replaceAll(
                "NOT EXISTS (SELECT 1 FROM pg_catalog.pg_depend d WHERE d.deptype = 'e'"
                    + " AND d.classid = 'pg_catalog.$1'::pg_catalog.regclass"
                    + " AND d.objid = $2.oid)");
    return owned.replace("%here", "n.nspname IN (" + all + ")");
  }
}
