package org.wornladder.engine.postgres;

import java.sql.SQLException;
import java.util.List;
import java.util.stream.Collectors;
import org.wornladder.engine.DatabaseCleaner;

/**
 * Takes everything out of the managed schemas. The schemas themselves stay, with their owners and
 * grants, and so do extensions that belong to other users.
 */
final class PostgresCleaner {
  /**
   * How many drops are one transaction: each holds locks until its end, and the server has room for
   * some thousands (manual, "max_locks_per_transaction").
   */
  private static final int TOGETHER = 500;

  /** What is in a schema depends on it (manual, "pg_depend"). */
  private static final String DROPS =
      """
      SELECT 'DROP ' || CASE i.type WHEN 'composite type' THEN 'type'
        WHEN 'statistics object' THEN 'statistics' ELSE i.type END || ' IF EXISTS ' || i.identity || ' CASCADE'
      FROM pg_catalog.pg_depend d
      CROSS JOIN LATERAL pg_catalog.pg_identify_object(d.classid, d.objid, d.objsubid) i
      WHERE d.refclassid = 'pg_catalog.pg_namespace'::regclass AND d.deptype = 'n'
        AND d.refobjid IN (SELECT n.oid FROM pg_catalog.pg_namespace n WHERE n.nspname IN (%s))
        AND NOT EXISTS (SELECT 1 FROM pg_catalog.pg_depend e
          WHERE e.classid = d.classid AND e.objid = d.objid AND e.objsubid = 0
            AND e.deptype IN ('e', 'i'))
        AND NOT EXISTS (SELECT 1 FROM pg_catalog.pg_extension x
          WHERE d.classid = 'pg_catalog.pg_extension'::regclass AND x.oid = d.objid
            AND NOT pg_catalog.pg_has_role(x.extowner, 'USAGE'))
      ORDER BY i.type <> 'view', i.type NOT LIKE '%%table', i.type""";

  private static final String OUTSIDE =
      """
      WITH managed AS (SELECT oid FROM pg_catalog.pg_namespace WHERE nspname IN (%s)),
      objects AS (
        SELECT 'pg_catalog.pg_class'::regclass AS class, oid FROM pg_catalog.pg_class
          WHERE relnamespace IN (SELECT oid FROM managed)
        UNION ALL SELECT 'pg_catalog.pg_proc'::regclass, oid FROM pg_catalog.pg_proc
          WHERE pronamespace IN (SELECT oid FROM managed)
        UNION ALL SELECT 'pg_catalog.pg_type'::regclass, oid FROM pg_catalog.pg_type
          WHERE typnamespace IN (SELECT oid FROM managed)),
      found AS (
        SELECT coalesce(r.ev_class, f.conrelid, a.adrelid, k.oid) AS relation
        FROM pg_catalog.pg_depend d
        JOIN objects t ON t.class = d.refclassid AND t.oid = d.refobjid
        LEFT JOIN pg_catalog.pg_rewrite r
          ON d.classid = 'pg_catalog.pg_rewrite'::regclass AND r.oid = d.objid
        LEFT JOIN pg_catalog.pg_constraint f
          ON d.classid = 'pg_catalog.pg_constraint'::regclass AND f.oid = d.objid
        LEFT JOIN pg_catalog.pg_attrdef a
          ON d.classid = 'pg_catalog.pg_attrdef'::regclass AND a.oid = d.objid
        LEFT JOIN pg_catalog.pg_class k
          ON d.classid = 'pg_catalog.pg_class'::regclass AND k.oid = d.objid
        UNION ALL SELECT inhrelid FROM pg_catalog.pg_inherits
          JOIN objects t ON t.oid = inhparent)
      SELECT DISTINCT n.nspname || '.' || c.relname
      FROM found JOIN pg_catalog.pg_class c ON c.oid = found.relation
      JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace
      WHERE n.oid NOT IN (SELECT oid FROM managed) AND n.nspname NOT LIKE 'pg\\_%%'
      ORDER BY 1""";

  private PostgresCleaner() {}

  static void empty(PostgresSession session, List<String> last) throws SQLException {
    DatabaseCleaner emptying = new DatabaseCleaner(session);
    List<String> drops = session.inCatalog(() -> emptying.list(DROPS.formatted(schemas(session))));
    List<String> ordered =
        DatabaseCleaner.ordered(drops, last.stream().map(session::quoted).toList());
    for (int from = 0; from < ordered.size(); from += TOGETHER) {
      session.begin();
      for (String drop : ordered.subList(from, Math.min(ordered.size(), from + TOGETHER))) {
        session.change(drop);
      }
      session.commit();
    }
  }

  /** Tables and views elsewhere that would go with what is here. */
  static List<String> outside(PostgresSession session) throws SQLException {
    return session.inCatalog(
        () -> new DatabaseCleaner(session).list(OUTSIDE.formatted(schemas(session))));
  }

  private static String schemas(PostgresSession session) {
    return session.schemas().stream()
        .map(PostgresEngine.QUOTING::text)
        .collect(Collectors.joining(", "));
  }
}
