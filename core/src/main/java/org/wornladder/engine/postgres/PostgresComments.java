package org.wornladder.engine.postgres;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.HashMap;
import java.util.Map;

/** The comments on parts: constraints and indexes of tables, columns of views. */
final class PostgresComments {
  static final String QUERY =
      """
      SELECT %name(c.relname), 'constraint ' || k.conname, d.description
        FROM pg_catalog.pg_description d JOIN pg_catalog.pg_constraint k ON k.oid = d.objoid
        JOIN pg_catalog.pg_class c ON c.oid = k.conrelid JOIN %schemas ON n.oid = c.relnamespace
       WHERE d.classoid = 'pg_catalog.pg_constraint'::pg_catalog.regclass AND %own(pg_class, c)
      UNION ALL SELECT %name(c.relname), 'index ' || i.relname, d.description
        FROM pg_catalog.pg_index x JOIN pg_catalog.pg_class c ON c.oid = x.indrelid
        JOIN %schemas ON n.oid = c.relnamespace
        JOIN pg_catalog.pg_class i ON i.oid = x.indexrelid AND NOT i.relispartition
        JOIN pg_catalog.pg_description d ON d.objoid = i.oid AND d.objsubid = 0
          AND d.classoid = 'pg_catalog.pg_class'::pg_catalog.regclass
       WHERE c.relkind IN ('r', 'p') AND %own(pg_class, c)
      UNION ALL SELECT %name(c.relname), 'column ' || a.attname, d.description
        FROM pg_catalog.pg_class c JOIN %schemas ON n.oid = c.relnamespace
        JOIN pg_catalog.pg_attribute a ON a.attrelid = c.oid
        JOIN pg_catalog.pg_description d ON d.objoid = c.oid AND d.objsubid = a.attnum
          AND d.classoid = 'pg_catalog.pg_class'::pg_catalog.regclass
       WHERE c.relkind IN ('v', 'm') AND %own(pg_class, c)
       ORDER BY 1, 2""";

  private final Map<String, Map<String, String>> byThing = new HashMap<>();

  /** Takes what {@link #QUERY} found. */
  void read(ResultSet rows) throws SQLException {
    while (rows.next()) {
      byThing
          .computeIfAbsent(rows.getString(1), key -> new HashMap<>())
          .put(rows.getString(2), rows.getString(3));
    }
  }

  /** The comment on a constraint of a table; empty if it has none. */
  String onConstraint(String table, String name) {
    return on(table, "constraint ", name);
  }

  /** The comment on an index of a table; empty if it has none. */
  String onIndex(String table, String name) {
    return on(table, "index ", name);
  }

  private String on(String table, String sort, String name) {
    Map<String, String> ofTable = of(table);
    return ofTable.isEmpty() ? "" : ofTable.getOrDefault(sort + name, "");
  }

  private Map<String, String> of(String object) {
    return byThing.getOrDefault(object, Map.of());
  }

  /** The comments on a view's columns, each as a fact of the view. */
  Map<String, String> onColumns(String view) {
    Map<String, String> facts = new HashMap<>();
    of(view).forEach((part, words) -> facts.put("comment on " + part, words));
    return facts;
  }
}
