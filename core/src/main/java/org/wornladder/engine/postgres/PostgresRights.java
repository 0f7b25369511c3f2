package org.wornladder.engine.postgres;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.List;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.Kind;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.Right;

/**
 * Whose objects are, and who else may do what with them (manual, 5.8 "Privileges"). What the owner
 * may do is not listed: it is the owner's.
 */
final class PostgresRights {
  /** The object's kind, schema, name and qualifier; its owner, or who may do what with it. */
  static final String QUERY =
      """
      WITH object AS (SELECT CASE c.relkind WHEN 'v' THEN 'view' WHEN 'm' THEN 'materialised view'
            WHEN 'S' THEN 'sequence' ELSE 'table' END AS kind, %schema AS schema,
          c.relname::text AS name, '' AS qualifier, c.relowner AS owner, c.relacl AS acl
        FROM pg_catalog.pg_class c JOIN %schemas ON n.oid = c.relnamespace
       WHERE c.relkind IN ('r', 'p', 'v', 'm', 'S') AND %own(pg_class, c)
      UNION ALL SELECT CASE p.prokind WHEN 'p' THEN 'procedure' WHEN 'a' THEN 'aggregate'
          ELSE 'function' END, %schema, p.proname, '(' ||
          pg_catalog.pg_get_function_identity_arguments(p.oid) || ')', p.proowner,
          coalesce(p.proacl, pg_catalog.acldefault('f', p.proowner))
        FROM pg_catalog.pg_proc p JOIN %schemas ON n.oid = p.pronamespace
       WHERE %own(pg_proc, p)
      UNION ALL SELECT CASE t.typtype WHEN 'e' THEN 'enum' ELSE 'domain' END, %schema, t.typname, '',
          t.typowner, coalesce(t.typacl, pg_catalog.acldefault('T', t.typowner))
        FROM pg_catalog.pg_type t JOIN %schemas ON n.oid = t.typnamespace
       WHERE t.typtype IN ('e', 'd') AND %own(pg_type, t)
      UNION ALL SELECT 'schema', '', n.nspname, '', n.nspowner, n.nspacl
        FROM pg_catalog.pg_namespace n WHERE n.nspname IN (%all))
      SELECT object.kind, object.schema, object.name, object.qualifier,
          pg_catalog.pg_get_userbyid(object.owner), NULL, NULL FROM object
      UNION ALL SELECT object.kind, object.schema, object.name, object.qualifier, NULL,
          CASE WHEN a.grantee = 0 THEN 'PUBLIC' ELSE pg_catalog.pg_get_userbyid(a.grantee) END,
          string_agg(a.privilege_type || CASE WHEN a.is_grantable THEN ' (may grant it on)' ELSE ''
            END, ', ' ORDER BY a.privilege_type)
        FROM object CROSS JOIN LATERAL pg_catalog.aclexplode(object.acl) a
       WHERE object.acl IS NOT NULL AND a.grantee <> object.owner
       GROUP BY object.kind, object.schema, object.name, object.qualifier, a.grantee
       ORDER BY 1, 2, 3, 4, 6 NULLS FIRST""";

  private PostgresRights() {}

  /** Adds what {@link #QUERY} found. */
  static void read(ResultSet rows, List<DatabaseObject> found) throws SQLException {
    while (rows.next()) {
      ObjectId object =
          new ObjectId(
              Kind.of(rows.getString(1)).orElse(Kind.OTHER),
              rows.getString(2),
              rows.getString(3),
              rows.getString(4));
      String owner = rows.getString(5);
      found.add(
          owner == null
              ? Right.grant(object, label(object), rows.getString(6), rows.getString(7))
              : Right.owner(object, label(object), owner));
    }
  }

  /** An object's kind and name as people read them. */
  static String label(ObjectId object) {
    String kind =
        switch (object.kind()) {
          case FUNCTION, PROCEDURE, AGGREGATE -> "routine";
          case ENUM, DOMAIN -> "type";
          default -> object.kind().label();
        };
    return kind + " " + object.displayName();
  }
}
