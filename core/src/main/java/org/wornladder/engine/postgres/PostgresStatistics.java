package org.wornladder.engine.postgres;

import org.wornladder.RefusedException;

/** Statistics of statements (PostgreSQL manual, "pg_stat_statements"). */
final class PostgresStatistics {
  /**
   * The schema of the extension's view; a view of the same name elsewhere is not the extension's.
   */
  static final String SCHEMA =
      "SELECT pg_catalog.quote_ident(CAST(n.nspname AS pg_catalog.text))"
          + " FROM pg_catalog.pg_extension e JOIN pg_catalog.pg_namespace n"
          + " ON n.oid OPERATOR(pg_catalog.=) e.extnamespace"
          + " WHERE e.extname OPERATOR(pg_catalog.=) 'pg_stat_statements'";

  /** How many it has room for. */
  static final String ROOM = "SELECT pg_catalog.current_setting('pg_stat_statements.max')";

  private PostgresStatistics() {}

  static String statements(String schema) {
    return "SELECT s.query FROM "
        + schema
        + ".pg_stat_statements s JOIN pg_catalog.pg_database d"
        + " ON d.oid OPERATOR(pg_catalog.=) s.dbid"
        + " WHERE d.datname OPERATOR(pg_catalog.=) pg_catalog.current_database()"
        + " AND s.query IS NOT NULL ORDER BY s.calls DESC, s.query";
  }

  /** How many statements the view holds, those of other databases included. */
  static String held(String schema) {
    return "SELECT pg_catalog.count(*) FROM " + schema + ".pg_stat_statements";
  }

  /** When there is no room left, the rarest twentieth goes (manual, pg_stat_statements.max). */
  static boolean isComplete(long held, long room) {
    return held < room * 0.94;
  }

  static RefusedException missing(String address) {
    return RefusedException.of(
        "the server counts no statements here: the extension pg_stat_statements is not there",
        address,
        "set shared_preload_libraries = 'pg_stat_statements' for the server, and run CREATE"
            + " EXTENSION pg_stat_statements");
  }
}
