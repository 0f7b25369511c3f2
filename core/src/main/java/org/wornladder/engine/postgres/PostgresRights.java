package org.wornladder.engine.postgres;

/**
 * Whose things are, and who else may do what with them (manual, 5.8 "Privileges"). What the owner
 * may do is not told: it is the owner's.
 */
final class PostgresRights {
  private static final String THINGS =
      """
      (SELECT CASE c.relkind WHEN 'v' THEN 'view' WHEN 'm' THEN 'materialised view'
            WHEN 'S' THEN 'sequence' ELSE 'table' END AS kind, %name(c.relname) AS name,
          c.relowner AS owner, c.relacl AS acl
        FROM pg_catalog.pg_class c JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace
       WHERE c.relkind IN ('r', 'p', 'v', 'm', 'S') AND %here AND %own(pg_class, c)
      UNION ALL SELECT 'routine', %name(p.proname) || '(' ||
          pg_catalog.pg_get_function_identity_arguments(p.oid) || ')', p.proowner, p.proacl
        FROM pg_catalog.pg_proc p JOIN pg_catalog.pg_namespace n ON n.oid = p.pronamespace
       WHERE %here AND %own(pg_proc, p)
      UNION ALL SELECT 'type', %name(t.typname), t.typowner, t.typacl
        FROM pg_catalog.pg_type t JOIN pg_catalog.pg_namespace n ON n.oid = t.typnamespace
       WHERE t.typtype IN ('e', 'd') AND %here AND %own(pg_type, t)
      UNION ALL SELECT 'schema', n.nspname, n.nspowner, n.nspacl
        FROM pg_catalog.pg_namespace n WHERE %here) thing""";

  static final String OWNERS =
      "SELECT thing.kind || ' ' || thing.name, CASE WHEN thing.kind = 'table' THEN thing.name ELSE ''"
          + " END, '', pg_catalog.pg_get_userbyid(thing.owner) AS owner FROM "
          + THINGS;

  static final String GRANTS =
      """
      SELECT concat(thing.kind, ' ', thing.name, ' to ', CASE WHEN a.grantee = 0 THEN 'PUBLIC'
            ELSE pg_catalog.pg_get_userbyid(a.grantee) END), CASE WHEN thing.kind = 'table'
            THEN thing.name ELSE '' END, '', string_agg(a.privilege_type || CASE WHEN a.is_grantable
            THEN ' (may grant it on)' ELSE '' END, ', ' ORDER BY a.privilege_type) AS rights
        FROM THINGS
       CROSS JOIN LATERAL pg_catalog.aclexplode(thing.acl) a
       WHERE a.grantee <> thing.owner GROUP BY thing.kind, thing.name, a.grantee"""
          .replace("THINGS", THINGS);

  private PostgresRights() {}
}
