package org.wornladder.engine.postgres;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import org.wornladder.engine.CatalogRows;
import org.wornladder.engine.postgres.PostgresCatalogQueries.Query;
import org.wornladder.engine.postgres.PostgresCatalogQueries.Question;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.Kind;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.OtherObject;

/**
 * Objects of many kinds that few databases have: named, so that nothing that is there is passed
 * over in silence. To look into so many catalogues takes a while, so that it is asked whether there
 * are any while the server would wait.
 */
final class PostgresOtherObjects {
  /** Numbers below 16384 are the server's own (manual, "Object Identifier Types"). */
  static final String EXISTS =
      """
      SELECT EXISTS (SELECT 1 FROM pg_catalog.pg_cast WHERE oid >= 16384)
          OR EXISTS (SELECT 1 FROM pg_catalog.pg_type WHERE oid >= 16384
            AND typtype IN ('b', 'p') AND typcategory <> 'A')
          OR EXISTS (SELECT 1 FROM pg_catalog.pg_opfamily WHERE oid >= 16384)
          OR EXISTS (SELECT 1 FROM pg_catalog.pg_conversion WHERE oid >= 16384)
          OR EXISTS (SELECT 1 FROM pg_catalog.pg_ts_template WHERE oid >= 16384)
          OR EXISTS (SELECT 1 FROM pg_catalog.pg_foreign_data_wrapper)
          OR EXISTS (SELECT 1 FROM pg_catalog.pg_transform)
          OR EXISTS (SELECT 1 FROM pg_catalog.pg_language WHERE oid >= 16384)
          OR EXISTS (SELECT 1 FROM pg_catalog.pg_am WHERE oid >= 16384)
          OR EXISTS (SELECT 1 FROM pg_catalog.pg_subscription)""";

  private static final String QUERY =
      """
      SELECT '', i.type || ' ' || i.identity, '', '' FROM (
          SELECT 'pg_cast', oid FROM pg_catalog.pg_cast
          UNION ALL SELECT 'pg_type', x.oid FROM pg_catalog.pg_type x
            JOIN %schemas ON n.oid = x.typnamespace WHERE x.typtype IN ('b', 'p')
              AND x.typcategory <> 'A'
          UNION ALL SELECT 'pg_opfamily', x.oid FROM pg_catalog.pg_opfamily x
            JOIN %schemas ON n.oid = x.opfnamespace
          UNION ALL SELECT 'pg_opclass', x.oid FROM pg_catalog.pg_opclass x
            JOIN %schemas ON n.oid = x.opcnamespace
          UNION ALL SELECT 'pg_conversion', x.oid FROM pg_catalog.pg_conversion x
            JOIN %schemas ON n.oid = x.connamespace
          UNION ALL SELECT 'pg_ts_template', x.oid FROM pg_catalog.pg_ts_template x
            JOIN %schemas ON n.oid = x.tmplnamespace
          UNION ALL SELECT 'pg_foreign_data_wrapper', oid FROM pg_catalog.pg_foreign_data_wrapper
          UNION ALL SELECT 'pg_foreign_server', oid FROM pg_catalog.pg_foreign_server
          UNION ALL SELECT 'pg_transform', oid FROM pg_catalog.pg_transform
          UNION ALL SELECT 'pg_language', oid FROM pg_catalog.pg_language
          UNION ALL SELECT 'pg_am', oid FROM pg_catalog.pg_am) g (catalogue, oid)
        CROSS JOIN pg_catalog.pg_identify_object(
          ('pg_catalog.' || g.catalogue)::pg_catalog.regclass, g.oid, 0) i
       WHERE g.oid >= 16384 AND NOT EXISTS (SELECT 1 FROM pg_catalog.pg_depend d
           WHERE d.classid = ('pg_catalog.' || g.catalogue)::pg_catalog.regclass
             AND d.objid = g.oid AND d.deptype IN ('e', 'i'))
      UNION ALL SELECT '', 'subscription ' || subname, '', '' FROM pg_catalog.pg_subscription
       WHERE subdbid = (SELECT oid FROM pg_catalog.pg_database WHERE datname = current_database())
       ORDER BY 2""";

  private boolean exist;

  /** Takes what {@link #EXISTS} found. */
  void readExists(ResultSet found) throws SQLException {
    found.next();
    exist = found.getBoolean(1);
  }

  /** What asks for them; empty if there are none. */
  Optional<Question> question(PostgresScope scope, List<DatabaseObject> found) {
    return exist
        ? Optional.of(
            new Question(
                new Query(
                    scope.of(QUERY),
                    rows -> CatalogRows.objects(found, rows, 4, PostgresOtherObjects::object))))
        : Optional.empty();
  }

  private static DatabaseObject object(CatalogRows.Row row) {
    return new OtherObject(ObjectId.of(Kind.OTHER, row.text(1)), "", row.facts(), List.of());
  }
}
