package org.wornladder.engine.postgres;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import org.wornladder.project.Condition;
import org.wornladder.sql.Quoting;

/** Whether something is in one of the managed schemas. */
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

  /** The name alone in the first schema, or with one of the others in front. */
  private static List<String> places(List<String> schemas, String name) {
    List<String> places = new ArrayList<>();
    for (int i = 0; i < schemas.size(); i++) {
      String front = schemas.get(i) + ".";
      String schema = "n.nspname = " + QUOTING.text(schemas.get(i)) + " AND c.relname = ";
      if (i == 0) {
        places.add("(" + schema + QUOTING.text(name) + ")");
      }
      if (name.startsWith(front)) {
        places.add("(" + schema + QUOTING.text(name.substring(front.length())) + ")");
      }
    }
    return places;
  }
}
