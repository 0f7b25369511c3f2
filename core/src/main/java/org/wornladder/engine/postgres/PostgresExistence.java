package org.wornladder.engine.postgres;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import org.wornladder.project.Condition;
import org.wornladder.sql.Quoting;

/** Whether something is in the first of the managed schemas, or in one that is named. */
final class PostgresExistence {
  private static final Quoting QUOTING = PostgresEngine.QUOTING;

  private PostgresExistence() {}

  static boolean of(Statement sql, List<String> schemas, Condition.Presence object)
      throws SQLException {
    String kinds =
        switch (object.kind()) {
          case TABLE, COLUMN -> "'r', 'p', 'f'";
          case INDEX -> "'i', 'I'";
          case VIEW -> "'v', 'm'";
        };
    String column =
        object.kind() == Condition.Kind.COLUMN
            ? " JOIN pg_catalog.pg_attribute a ON a.attrelid = c.oid AND a.attnum > 0"
                + " AND NOT a.attisdropped AND a.attname = "
                + QUOTING.text(object.column())
            : "";
    String query =
        "SELECT 1 FROM pg_catalog.pg_class c JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace"
            + column
            + " WHERE c.relkind IN ("
            + kinds
            + ") AND ("
            + String.join(" OR ", places(schemas, object.table()))
            + ")";
    try (ResultSet rows = sql.executeQuery(query)) {
      return rows.next();
    }
  }

  /**
   * Asks for the tables that the user may read and that have no block in their file, and so no row;
   * a table whose rows are those of others has none either, and is left out. To be run in the
   * catalogue's own path.
   */
  static String tablesWithoutBlocks(List<String> schemas) {
    List<String> names = schemas.stream().map(QUOTING::text).toList();
    return """
        SELECT CASE WHEN n.nspname = %s THEN '' ELSE concat(n.nspname, '.') END || c.relname
        FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace
        WHERE n.nspname IN (%s) AND c.relkind = 'r' AND NOT c.relhassubclass
          AND pg_relation_size(c.oid) = 0 AND has_table_privilege(c.oid, 'SELECT')"""
        .formatted(names.get(0), String.join(", ", names));
  }

  /** The name alone in the first schema, or with any schema in front. */
  private static List<String> places(List<String> schemas, String name) {
    List<String> places = new ArrayList<>();
    places.add(place(schemas.get(0), name));
    for (int dot = name.indexOf('.'); dot >= 0; dot = name.indexOf('.', dot + 1)) {
      places.add(place(name.substring(0, dot), name.substring(dot + 1)));
    }
    return places;
  }

  private static String place(String schema, String name) {
    return "(n.nspname = " + QUOTING.text(schema) + " AND c.relname = " + QUOTING.text(name) + ")";
  }
}
