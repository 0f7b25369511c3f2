package org.wornladder.engine.postgres;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.function.UnaryOperator;
import org.wornladder.engine.StructureRows;
import org.wornladder.schema.Kind;
import org.wornladder.schema.SchemaObject;

/** Reads what is no table, a query a kind; each gives a name, a table and a definition. */
final class PostgresObjects {
  private static final String VIEWS =
      """
      SELECT %name(c.relname), '', concat_ws(' ', array_to_string(c.reloptions, ', '),
          pg_catalog.pg_get_viewdef(c.oid))
        FROM pg_catalog.pg_class c JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace
       WHERE c.relkind = '%kind' AND %here AND %own(pg_class, c)""";
  private static final String MATERIALISED_INDEXES =
      """
      SELECT %name(i.relname), %name(c.relname),
          regexp_replace(pg_catalog.pg_get_indexdef(i.oid), ' INDEX .* USING ', ' INDEX USING ')
        FROM pg_catalog.pg_index x JOIN pg_catalog.pg_class c ON c.oid = x.indrelid
        JOIN pg_catalog.pg_class i ON i.oid = x.indexrelid
        JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace
       WHERE c.relkind = 'm' AND %here AND %own(pg_class, c)""";
  private static final String ROUTINES =
      """
      SELECT %name(p.proname) || '(' || pg_catalog.pg_get_function_identity_arguments(p.oid) || ')',
          '', pg_catalog.pg_get_functiondef(p.oid)
        FROM pg_catalog.pg_proc p JOIN pg_catalog.pg_namespace n ON n.oid = p.pronamespace
       WHERE p.prokind %kind AND %here AND %own(pg_proc, p)""";
  private static final String AGGREGATES =
      """
      SELECT %name(p.proname) || '(' || pg_catalog.pg_get_function_identity_arguments(p.oid) || ')',
          '', concat_ws(', ', 'sfunc = ' || a.aggtransfn, 'stype = ' ||
          pg_catalog.format_type(a.aggtranstype, NULL), 'finalfunc = ' || nullif(a.aggfinalfn::oid, 0)::pg_catalog.regproc,
          'combinefunc = ' || nullif(a.aggcombinefn::oid, 0)::pg_catalog.regproc, 'initcond = ' || a.agginitval,
          'sortop = ' || nullif(a.aggsortop, 0)::pg_catalog.regoperator)
        FROM pg_catalog.pg_aggregate a JOIN pg_catalog.pg_proc p ON p.oid = a.aggfnoid
        JOIN pg_catalog.pg_namespace n ON n.oid = p.pronamespace
       WHERE %here AND %own(pg_proc, p)""";
  private static final String TRIGGERS =
      """
      SELECT t.tgname || ' on ' || %name(c.relname), %name(c.relname),
          pg_catalog.pg_get_triggerdef(t.oid) || CASE t.tgenabled WHEN 'D' THEN ' (disabled)'
          WHEN 'A' THEN ' (always)' WHEN 'R' THEN ' (replica)' ELSE '' END
        FROM pg_catalog.pg_trigger t JOIN pg_catalog.pg_class c ON c.oid = t.tgrelid
        JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace
       WHERE NOT t.tgisinternal AND t.tgparentid = 0 AND %here AND %own(pg_class, c)""";
  private static final String SEQUENCES =
      """
      SELECT %name(c.relname), '', concat_ws(' ', 'AS', pg_catalog.format_type(s.seqtypid, NULL),
          'START', s.seqstart, 'INCREMENT', s.seqincrement, 'MINVALUE', s.seqmin, 'MAXVALUE',
          s.seqmax, 'CACHE', s.seqcache, CASE WHEN s.seqcycle THEN 'CYCLE' END,
          (SELECT 'OWNED BY ' || t.relname || '.' || a.attname FROM pg_catalog.pg_depend o
             JOIN pg_catalog.pg_class t ON t.oid = o.refobjid
             JOIN pg_catalog.pg_attribute a ON a.attrelid = t.oid AND a.attnum = o.refobjsubid
            WHERE o.classid = 'pg_catalog.pg_class'::pg_catalog.regclass AND o.objid = c.oid
              AND o.deptype = 'a'))
        FROM pg_catalog.pg_sequence s JOIN pg_catalog.pg_class c ON c.oid = s.seqrelid
        JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace
       WHERE %here AND %own(pg_class, c) AND NOT EXISTS (SELECT 1 FROM pg_catalog.pg_depend o
           WHERE o.classid = 'pg_catalog.pg_class'::pg_catalog.regclass AND o.objid = c.oid
             AND o.deptype = 'i')""";
  private static final String ENUMS =
      """
      SELECT %name(t.typname), '', (SELECT string_agg(quote_literal(e.enumlabel), ', '
          ORDER BY e.enumsortorder) FROM pg_catalog.pg_enum e WHERE e.enumtypid = t.oid)
        FROM pg_catalog.pg_type t JOIN pg_catalog.pg_namespace n ON n.oid = t.typnamespace
       WHERE t.typtype = 'e' AND %here AND %own(pg_type, t)""";
  private static final String DOMAINS =
      """
      SELECT %name(t.typname), '', concat_ws(' ',
          pg_catalog.format_type(t.typbasetype, t.typtypmod),
          CASE WHEN t.typnotnull THEN 'NOT NULL' END, 'DEFAULT ' || t.typdefault,
          (SELECT string_agg(pg_catalog.pg_get_constraintdef(k.oid), ' ' ORDER BY k.conname)
             FROM pg_catalog.pg_constraint k WHERE k.contypid = t.oid AND k.contype = 'c'))
        FROM pg_catalog.pg_type t JOIN pg_catalog.pg_namespace n ON n.oid = t.typnamespace
       WHERE t.typtype = 'd' AND %here AND %own(pg_type, t)""";
  private static final String COMPOSITES =
      """
      SELECT %name(c.relname), '', (SELECT string_agg(quote_ident(a.attname) || ' ' ||
          pg_catalog.format_type(a.atttypid, a.atttypmod), ', ' ORDER BY a.attnum)
          FROM pg_catalog.pg_attribute a WHERE a.attrelid = c.oid AND a.attnum > 0
           AND NOT a.attisdropped)
        FROM pg_catalog.pg_class c JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace
       WHERE c.relkind = 'c' AND %here AND %own(pg_class, c)""";
  private static final String POLICIES =
      """
      SELECT p.polname || ' on ' || %name(c.relname), %name(c.relname), concat_ws(' ',
          CASE WHEN NOT p.polpermissive THEN 'AS RESTRICTIVE' END, 'FOR', CASE p.polcmd
          WHEN 'r' THEN 'SELECT' WHEN 'a' THEN 'INSERT' WHEN 'w' THEN 'UPDATE'
          WHEN 'd' THEN 'DELETE' ELSE 'ALL' END, 'TO ' || CASE WHEN p.polroles = '{0}' THEN 'PUBLIC'
          ELSE (SELECT string_agg(quote_ident(r.rolname), ', ' ORDER BY r.rolname)
            FROM pg_catalog.pg_roles r WHERE r.oid = ANY (p.polroles)) END,
          'USING (' || pg_catalog.pg_get_expr(p.polqual, p.polrelid) || ')',
          'WITH CHECK (' || pg_catalog.pg_get_expr(p.polwithcheck, p.polrelid) || ')')
        FROM pg_catalog.pg_policy p JOIN pg_catalog.pg_class c ON c.oid = p.polrelid
        JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace WHERE %here""";
  private static final String EXTENSIONS =
      """
      SELECT e.extname::text, '', 'VERSION ' || e.extversion FROM pg_catalog.pg_extension e
       WHERE e.extname <> 'plpgsql'""";

  /** Named, so that nothing that stands there is passed over in silence. */
  private static final String OTHERS =
      """
      SELECT 'foreign table ' || %name(c.relname), '', '' FROM pg_catalog.pg_class c
        JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace
       WHERE c.relkind = 'f' AND %here AND %own(pg_class, c)
      UNION ALL SELECT 'publication ' || pubname, '', '' FROM pg_catalog.pg_publication
      UNION ALL SELECT 'event trigger ' || evtname, '', evtevent FROM pg_catalog.pg_event_trigger g
       WHERE %own(pg_event_trigger, g)
      UNION ALL SELECT 'text search configuration ' || %name(g.cfgname), '', ''
        FROM pg_catalog.pg_ts_config g JOIN pg_catalog.pg_namespace n ON n.oid = g.cfgnamespace
       WHERE %here AND %own(pg_ts_config, g)
      UNION ALL SELECT 'text search parser ' || %name(g.prsname), '', ''
        FROM pg_catalog.pg_ts_parser g JOIN pg_catalog.pg_namespace n ON n.oid = g.prsnamespace
       WHERE %here AND %own(pg_ts_parser, g)
      UNION ALL SELECT 'text search dictionary ' || %name(g.dictname), '', g.dictinitoption
        FROM pg_catalog.pg_ts_dict g JOIN pg_catalog.pg_namespace n ON n.oid = g.dictnamespace
       WHERE %here AND %own(pg_ts_dict, g)
      UNION ALL SELECT 'statistics ' || %name(g.stxname), '',
          pg_catalog.pg_get_statisticsobjdef(g.oid)
        FROM pg_catalog.pg_statistic_ext g JOIN pg_catalog.pg_namespace n ON n.oid = g.stxnamespace
       WHERE %here AND %own(pg_statistic_ext, g)
      UNION ALL SELECT 'collation ' || %name(g.collname), '', '' FROM pg_catalog.pg_collation g
        JOIN pg_catalog.pg_namespace n ON n.oid = g.collnamespace
       WHERE %here AND %own(pg_collation, g)
      UNION ALL SELECT 'operator ' || %name(g.oprname) || ' (' || g.oprleft::pg_catalog.regtype || ', '
          || g.oprright::pg_catalog.regtype || ')', '', '' FROM pg_catalog.pg_operator g
        JOIN pg_catalog.pg_namespace n ON n.oid = g.oprnamespace
       WHERE %here AND %own(pg_operator, g)
      UNION ALL SELECT 'range type ' || %name(t.typname), '', '' FROM pg_catalog.pg_type t
        JOIN pg_catalog.pg_namespace n ON n.oid = t.typnamespace
       WHERE t.typtype = 'r' AND %here AND %own(pg_type, t)
      UNION ALL SELECT 'rule ' || r.rulename || ' on ' || %name(c.relname), '',
          pg_catalog.pg_get_ruledef(r.oid) FROM pg_catalog.pg_rewrite r
        JOIN pg_catalog.pg_class c ON c.oid = r.ev_class
        JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace
       WHERE r.rulename <> '_RETURN' AND %here AND %own(pg_class, c)""";

  private final Statement sql;
  private final PostgresScope scope;
  private final List<SchemaObject> found = new ArrayList<>();

  PostgresObjects(Statement sql, PostgresScope scope) {
    this.sql = sql;
    this.scope = scope;
  }

  List<SchemaObject> read() throws SQLException {
    objects(Kind.EXTENSION, EXTENSIONS);
    objects(Kind.ENUM, ENUMS);
    objects(Kind.DOMAIN, DOMAINS);
    objects(Kind.COMPOSITE, COMPOSITES);
    objects(Kind.SEQUENCE, SEQUENCES);
    objects(Kind.INDEX, MATERIALISED_INDEXES);
    objects(Kind.POLICY, POLICIES);
    objects(Kind.VIEW, VIEWS.replace("%kind", "v"));
    objects(Kind.MATERIALISED_VIEW, VIEWS.replace("%kind", "m"));
    objects(Kind.FUNCTION, ROUTINES.replace("%kind", "IN ('f', 'w')"));
    objects(Kind.PROCEDURE, ROUTINES.replace("%kind", "= 'p'"));
    objects(Kind.AGGREGATE, AGGREGATES);
    objects(Kind.TRIGGER, TRIGGERS);
    objects(Kind.OTHER, OTHERS);
    return found;
  }

  private void objects(Kind kind, String query) throws SQLException {
    ResultSet rows = sql.executeQuery(scope.of(query) + " ORDER BY 1");
    StructureRows.objects(found, kind, rows, UnaryOperator.identity());
  }
}
