package org.wornladder.engine.postgres;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Optional;
import org.wornladder.engine.Access;
import org.wornladder.sql.Quoting;

/**
 * What speaks against trusting a table. Whoever owns it decides what runs where it is read or
 * written: triggers, rules, policies, defaults and checks run with the rights of who writes.
 *
 * @param owner who may own it beside the connection's own user
 */
record PostgresSuspicion(Statement sql, Access access, Optional<String> owner) {
  private static final Quoting QUOTING = PostgresEngine.QUOTING;

  /** A member of the owning role may be it; a superuser is a member of every role. */
  private static final String QUERY =
      """
      SELECT c.relkind, c.relhasrules, c.relrowsecurity, o.rolname,
        o.rolname = current_user OR o.rolname = session_user OR o.rolsuper
          OR (NOT u.rolsuper AND pg_catalog.pg_has_role(current_user, o.oid, 'USAGE')),
        (SELECT pg_catalog.min(t.tgname::pg_catalog.text) FROM pg_catalog.pg_trigger t
          WHERE t.tgrelid = c.oid AND NOT t.tgisinternal)
      FROM pg_catalog.pg_class c
        JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace
        JOIN pg_catalog.pg_roles o ON o.oid = c.relowner
        JOIN pg_catalog.pg_roles u ON u.rolname = current_user
      WHERE n.nspname = %s AND c.relname = %s""";

  Optional<String> of(String schema, String table) throws SQLException {
    String query = QUERY.formatted(QUOTING.text(schema), QUOTING.text(table));
    try (ResultSet row = sql.executeQuery(query)) {
      if (!row.next()) {
        return Optional.empty();
      }
      String trigger = row.getString(6);
      if (!row.getString(1).equals("r")) {
        return Optional.of("it is no plain table");
      }
      if (trigger != null) {
        return Optional.of("the trigger " + trigger + " is on it");
      }
      if (row.getBoolean(2)) {
        return Optional.of("a rule is on it");
      }
      if (row.getBoolean(3)) {
        return Optional.of("policies hide rows of it");
      }
      boolean foreign =
          access == Access.WRITE
              && !row.getBoolean(5)
              && owner.filter(row.getString(4)::equals).isEmpty();
      return foreign
          ? Optional.of(
              "it belongs to " + row.getString(4) + ", who decides what runs where it is written")
          : Optional.empty();
    }
  }
}
