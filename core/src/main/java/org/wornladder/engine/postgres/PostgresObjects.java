package org.wornladder.engine.postgres;

import static java.util.Map.entry;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.function.UnaryOperator;
import org.wornladder.engine.CatalogRows;
import org.wornladder.engine.postgres.PostgresCatalogQueries.Query;
import org.wornladder.schema.Kind;
import org.wornladder.schema.SchemaObject;

/** Reads what is no table, a query a kind; each gives a name, a table and a definition. */
final class PostgresObjects {
  private static final String SCHEMAS =
      """
      SELECT n.nspname, '', 'CREATE SCHEMA ' || quote_ident(n.nspname),
          pg_catalog.obj_description(n.oid, 'pg_namespace') AS comment
        FROM pg_catalog.pg_namespace n WHERE n.nspname IN (%others)""";
  private static final String VIEWS =
      """
      SELECT %name(c.relname), '', concat('CREATE ', CASE c.relkind WHEN 'm' THEN 'MATERIALIZED ' END,
          'VIEW ', %quoted(c.relname), ' WITH (' || array_to_string(c.reloptions, ', ') || ')', E' AS\n',
          rtrim(pg_catalog.pg_get_viewdef(c.oid), ';'),
          CASE WHEN NOT c.relispopulated THEN E'\n WITH NO DATA' END),
          pg_catalog.obj_description(c.oid, 'pg_class') AS comment
        FROM pg_catalog.pg_class c JOIN %schemas ON n.oid = c.relnamespace
       WHERE c.relkind = '%kind' AND %own(pg_class, c)""";
  private static final String MATERIALISED_INDEXES =
      """
      SELECT %name(i.relname), %name(c.relname), concat('CREATE ', CASE WHEN x.indisunique THEN
          'UNIQUE ' END, 'INDEX ', quote_ident(i.relname), ' ON ', %quoted(c.relname),
          substr(pg_catalog.pg_get_indexdef(i.oid),
            position(' USING ' IN pg_catalog.pg_get_indexdef(i.oid)))),
          pg_catalog.obj_description(i.oid, 'pg_class') AS comment
        FROM pg_catalog.pg_index x JOIN pg_catalog.pg_class c ON c.oid = x.indrelid
        JOIN pg_catalog.pg_class i ON i.oid = x.indexrelid
        JOIN %schemas ON n.oid = c.relnamespace
       WHERE c.relkind = 'm' AND %own(pg_class, c)""";
  private static final String ROUTINES =
      """
      SELECT %name(p.proname) || '(' || pg_catalog.pg_get_function_identity_arguments(p.oid) || ')',
          '', concat('CREATE ', '%word ', %quoted(p.proname), substr(pg_catalog.pg_get_functiondef(p.oid),
            length(concat('CREATE OR REPLACE ', '%word ', quote_ident(n.nspname), '.',
              quote_ident(p.proname))) + 1)),
          pg_catalog.obj_description(p.oid, 'pg_proc') AS comment
        FROM pg_catalog.pg_proc p JOIN %schemas ON n.oid = p.pronamespace
       WHERE p.prokind %kind AND %own(pg_proc, p)""";

  /** Nobody made the functions of a range type: they are part of it (manual, "Range Types"). */
  private static final String NOT_OF_A_RANGE =
      """
       AND NOT EXISTS (SELECT 1 FROM pg_catalog.pg_depend r WHERE r.objid = p.oid
         AND r.classid = 'pg_catalog.pg_proc'::pg_catalog.regclass AND r.deptype = 'i')""";

  private static final String AGGREGATES =
      """
      SELECT %name(p.proname) || '(' || pg_catalog.pg_get_function_identity_arguments(p.oid) || ')',
          '', concat('CREATE AGGREGATE ', %quoted(p.proname), '(',
          CASE WHEN p.pronargs = 0 THEN '*' ELSE pg_catalog.pg_get_function_arguments(p.oid) END,
          ') (', concat_ws(', ', 'SFUNC = ' || a.aggtransfn, 'STYPE = ' ||
          pg_catalog.format_type(a.aggtranstype, NULL), 'SSPACE = ' || nullif(a.aggtransspace, 0),
          'FINALFUNC = ' || nullif(a.aggfinalfn::oid, 0)::pg_catalog.regproc,
          CASE WHEN a.aggfinalextra THEN 'FINALFUNC_EXTRA' END,
          'FINALFUNC_MODIFY = ' || %modify(a.aggfinalmodify),
          'SERIALFUNC = ' || nullif(a.aggserialfn::oid, 0)::pg_catalog.regproc,
          'DESERIALFUNC = ' || nullif(a.aggdeserialfn::oid, 0)::pg_catalog.regproc,
          'COMBINEFUNC = ' || nullif(a.aggcombinefn::oid, 0)::pg_catalog.regproc,
          'INITCOND = ' || quote_literal(a.agginitval),
          'MSFUNC = ' || nullif(a.aggmtransfn::oid, 0)::pg_catalog.regproc,
          'MINVFUNC = ' || nullif(a.aggminvtransfn::oid, 0)::pg_catalog.regproc,
          'MSTYPE = ' || pg_catalog.format_type(nullif(a.aggmtranstype, 0), NULL),
          'MSSPACE = ' || nullif(a.aggmtransspace, 0),
          'MFINALFUNC = ' || nullif(a.aggmfinalfn::oid, 0)::pg_catalog.regproc,
          CASE WHEN a.aggmfinalextra THEN 'MFINALFUNC_EXTRA' END,
          'MFINALFUNC_MODIFY = ' || %modify(a.aggmfinalmodify),
          'MINITCOND = ' || quote_literal(a.aggminitval),
          'SORTOP = ' || (SELECT 'OPERATOR(' || quote_ident(s.nspname) || '.' || o.oprname || ')'
            FROM pg_catalog.pg_operator o JOIN pg_catalog.pg_namespace s ON s.oid = o.oprnamespace
            WHERE o.oid = a.aggsortop),
          'PARALLEL = ' || CASE p.proparallel WHEN 's' THEN 'SAFE' WHEN 'r' THEN 'RESTRICTED' END,
          CASE WHEN a.aggkind = 'h' THEN 'HYPOTHETICAL' END), ')'),
          pg_catalog.obj_description(p.oid, 'pg_proc') AS comment
        FROM pg_catalog.pg_aggregate a JOIN pg_catalog.pg_proc p ON p.oid = a.aggfnoid
        JOIN %schemas ON n.oid = p.pronamespace
       WHERE %own(pg_proc, p)""";
  private static final String TRIGGERS =
      """
      SELECT t.tgname || ' on ' || %name(c.relname), %name(c.relname),
          pg_catalog.pg_get_triggerdef(t.oid, true), CASE t.tgenabled WHEN 'D' THEN 'disabled'
          WHEN 'A' THEN 'always' WHEN 'R' THEN 'replica' END AS state,
          pg_catalog.obj_description(t.oid, 'pg_trigger') AS comment
        FROM pg_catalog.pg_trigger t JOIN pg_catalog.pg_class c ON c.oid = t.tgrelid
        JOIN %schemas ON n.oid = c.relnamespace
       WHERE NOT t.tgisinternal AND t.tgparentid = 0 AND %own(pg_class, c)""";
  private static final String SEQUENCES =
      """
      SELECT %name(c.relname), '', concat_ws(' ', 'CREATE', CASE c.relpersistence WHEN 'u' THEN
          'UNLOGGED' END, 'SEQUENCE', %quoted(c.relname), 'AS',
          pg_catalog.format_type(s.seqtypid, NULL), 'START WITH', s.seqstart, 'INCREMENT BY',
          s.seqincrement, 'MINVALUE', s.seqmin, 'MAXVALUE', s.seqmax, 'CACHE', s.seqcache,
          CASE WHEN s.seqcycle THEN 'CYCLE' END),
          (SELECT o.refobjid::pg_catalog.regclass || '.' || quote_ident(a.attname)
             FROM pg_catalog.pg_depend o
             JOIN pg_catalog.pg_attribute a ON a.attrelid = o.refobjid AND a.attnum = o.refobjsubid
            WHERE o.classid = 'pg_catalog.pg_class'::pg_catalog.regclass AND o.objid = c.oid
              AND o.deptype = 'a') AS "owned by",
          pg_catalog.obj_description(c.oid, 'pg_class') AS comment
        FROM pg_catalog.pg_sequence s JOIN pg_catalog.pg_class c ON c.oid = s.seqrelid
        JOIN %schemas ON n.oid = c.relnamespace
       WHERE %own(pg_class, c) AND NOT EXISTS (SELECT 1 FROM pg_catalog.pg_depend o
           WHERE o.classid = 'pg_catalog.pg_class'::pg_catalog.regclass AND o.objid = c.oid
             AND o.deptype = 'i')""";
  private static final String ENUMS =
      """
      SELECT %name(t.typname), '', concat('CREATE TYPE ', %quoted(t.typname), ' AS ENUM (',
          (SELECT string_agg(quote_literal(e.enumlabel), ', ' ORDER BY e.enumsortorder)
             FROM pg_catalog.pg_enum e WHERE e.enumtypid = t.oid), ')'),
          pg_catalog.obj_description(t.oid, 'pg_type') AS comment
        FROM pg_catalog.pg_type t JOIN %schemas ON n.oid = t.typnamespace
       WHERE t.typtype = 'e' AND %own(pg_type, t)""";
  private static final String DOMAINS =
      """
      SELECT %name(t.typname), '', concat_ws(' ', 'CREATE DOMAIN', %quoted(t.typname), 'AS',
          pg_catalog.format_type(t.typbasetype, t.typtypmod),
          (SELECT 'COLLATE ' || %collation(t.typcollation) FROM pg_catalog.pg_type b
            WHERE b.oid = t.typbasetype AND t.typcollation <> b.typcollation),
          'DEFAULT ' || t.typdefault, CASE WHEN t.typnotnull THEN 'NOT NULL' END,
          (SELECT string_agg(CASE WHEN k.conname ~ '_check[0-9]*$' THEN '' ELSE 'CONSTRAINT ' ||
             quote_ident(k.conname) || ' ' END || pg_catalog.pg_get_constraintdef(k.oid), ' '
             ORDER BY k.conname)
             FROM pg_catalog.pg_constraint k WHERE k.contypid = t.oid AND k.contype = 'c')),
          pg_catalog.obj_description(t.oid, 'pg_type') AS comment
        FROM pg_catalog.pg_type t JOIN %schemas ON n.oid = t.typnamespace
       WHERE t.typtype = 'd' AND %own(pg_type, t)""";
  private static final String COMPOSITES =
      """
      SELECT %name(c.relname), '', concat('CREATE TYPE ', %quoted(c.relname), ' AS (',
          (SELECT string_agg(quote_ident(a.attname) || ' ' ||
             pg_catalog.format_type(a.atttypid, a.atttypmod) || CASE WHEN a.attcollation <> y.typcollation
               THEN ' COLLATE ' || %collation(a.attcollation) ELSE '' END, ', '
             ORDER BY a.attnum)
             FROM pg_catalog.pg_attribute a JOIN pg_catalog.pg_type y ON y.oid = a.atttypid
            WHERE a.attrelid = c.oid AND a.attnum > 0 AND NOT a.attisdropped), ')'),
          pg_catalog.obj_description(c.reltype, 'pg_type') AS comment
        FROM pg_catalog.pg_class c JOIN %schemas ON n.oid = c.relnamespace
       WHERE c.relkind = 'c' AND %own(pg_class, c)""";
  private static final String POLICIES =
      """
      SELECT p.polname || ' on ' || %name(c.relname), %name(c.relname), concat_ws(' ',
          'CREATE POLICY', quote_ident(p.polname), 'ON', %quoted(c.relname),
          CASE WHEN NOT p.polpermissive THEN 'AS RESTRICTIVE' END, 'FOR', CASE p.polcmd
          WHEN 'r' THEN 'SELECT' WHEN 'a' THEN 'INSERT' WHEN 'w' THEN 'UPDATE'
          WHEN 'd' THEN 'DELETE' ELSE 'ALL' END, 'TO ' || CASE WHEN p.polroles = '{0}' THEN 'PUBLIC'
          ELSE (SELECT string_agg(quote_ident(r.rolname), ', ' ORDER BY r.rolname)
            FROM pg_catalog.pg_roles r WHERE r.oid = ANY (p.polroles)) END,
          'USING (' || pg_catalog.pg_get_expr(p.polqual, p.polrelid) || ')',
          'WITH CHECK (' || pg_catalog.pg_get_expr(p.polwithcheck, p.polrelid) || ')'),
          pg_catalog.obj_description(p.oid, 'pg_policy') AS comment
        FROM pg_catalog.pg_policy p JOIN pg_catalog.pg_class c ON c.oid = p.polrelid
        JOIN %schemas ON n.oid = c.relnamespace
       WHERE %own(pg_class, c)""";
  private static final String EXTENSIONS =
      """
      SELECT e.extname::text, '', 'CREATE EXTENSION IF NOT EXISTS ' || quote_ident(e.extname) ||
          CASE WHEN n.nspname = %first OR n.nspname IN ('public', 'pg_catalog') THEN ''
          ELSE ' WITH SCHEMA ' || quote_ident(n.nspname) END, e.extversion AS version
        FROM pg_catalog.pg_extension e JOIN pg_catalog.pg_namespace n ON n.oid = e.extnamespace
       WHERE e.extname <> 'plpgsql'""";

  /** By sort. Named, so that nothing that is there is passed over in silence. */
  private static final List<Map.Entry<String, String>> OTHERS =
      List.of(
          entry(
              PostgresObjectKinds.FOREIGN_TABLE,
              """
              SELECT 'foreign table ' || %name(c.relname), '', '' FROM pg_catalog.pg_class c
              JOIN %schemas ON n.oid = c.relnamespace
              WHERE c.relkind = 'f' AND %own(pg_class, c)"""),
          entry(
              PostgresObjectKinds.PUBLICATION,
              """
              SELECT 'publication ' || pubname, '', '' FROM pg_catalog.pg_publication"""),
          entry(
              PostgresObjectKinds.EVENT_TRIGGER,
              """
              SELECT 'event trigger ' || evtname, '', evtevent FROM pg_catalog.pg_event_trigger g
              WHERE %own(pg_event_trigger, g)"""),
          entry(
              PostgresObjectKinds.SEARCH_CONFIGURATION,
              """
              SELECT 'text search configuration ' || %name(g.cfgname), '', ''
              FROM pg_catalog.pg_ts_config g JOIN %schemas ON n.oid = g.cfgnamespace
              WHERE %own(pg_ts_config, g)"""),
          entry(
              PostgresObjectKinds.SEARCH_PARSER,
              """
              SELECT 'text search parser ' || %name(g.prsname), '', ''
              FROM pg_catalog.pg_ts_parser g JOIN %schemas ON n.oid = g.prsnamespace
              WHERE %own(pg_ts_parser, g)"""),
          entry(
              PostgresObjectKinds.SEARCH_DICTIONARY,
              """
              SELECT 'text search dictionary ' || %name(g.dictname), '', g.dictinitoption
              FROM pg_catalog.pg_ts_dict g JOIN %schemas ON n.oid = g.dictnamespace
              WHERE %own(pg_ts_dict, g)"""),
          entry(
              PostgresObjectKinds.STATISTICS,
              """
              SELECT 'statistics ' || %name(g.stxname), '',
              pg_catalog.pg_get_statisticsobjdef(g.oid)
              FROM pg_catalog.pg_statistic_ext g JOIN %schemas ON n.oid = g.stxnamespace
              WHERE %own(pg_statistic_ext, g)"""),
          entry(
              PostgresObjectKinds.COLLATION,
              """
              SELECT 'collation ' || %name(g.collname), '', '' FROM pg_catalog.pg_collation g
              JOIN %schemas ON n.oid = g.collnamespace
              WHERE %own(pg_collation, g)"""),
          entry(
              PostgresObjectKinds.OPERATOR,
              """
              SELECT 'operator ' || %name(g.oprname) || ' (' || g.oprleft::pg_catalog.regtype || ', '
              || g.oprright::pg_catalog.regtype || ')', '', '' FROM pg_catalog.pg_operator g
              JOIN %schemas ON n.oid = g.oprnamespace
              WHERE %own(pg_operator, g)"""),
          entry(
              PostgresObjectKinds.RANGE,
              """
              SELECT 'range type ' || %name(t.typname), '', '' FROM pg_catalog.pg_type t
              JOIN %schemas ON n.oid = t.typnamespace
              WHERE t.typtype = 'r' AND %own(pg_type, t)"""),
          entry(
              PostgresObjectKinds.RULE,
              """
              SELECT 'rule ' || r.rulename || ' on ' || %name(c.relname), '',
              pg_catalog.pg_get_ruledef(r.oid) FROM pg_catalog.pg_rewrite r
              JOIN pg_catalog.pg_class c ON c.oid = r.ev_class
              JOIN %schemas ON n.oid = c.relnamespace
              WHERE r.rulename <> '_RETURN' AND %own(pg_class, c)"""));

  /** The server says the same in the same order every time. */
  private static final String BY_NAME = " ORDER BY 1";

  private final PostgresScope scope;
  private final List<SchemaObject> found;
  private final List<Query> queries = new ArrayList<>();

  /**
   * @param found what is found is added to it
   */
  PostgresObjects(PostgresScope scope, List<SchemaObject> found) {
    this.scope = scope;
    this.found = found;
  }

  /** All kinds in one message: most have few objects, and the way there would take longer. */
  List<Query> queries() {
    if (scope.hasOthers()) {
      ask(Kind.SCHEMA, SCHEMAS);
    }
    askFor(PostgresObjectKinds.EXTENSION, Kind.EXTENSION, EXTENSIONS);
    askFor(PostgresObjectKinds.ENUM, Kind.ENUM, ENUMS);
    askFor(PostgresObjectKinds.DOMAIN, Kind.DOMAIN, DOMAINS);
    askFor(PostgresObjectKinds.COMPOSITE_TYPE, Kind.COMPOSITE, COMPOSITES);
    askFor(PostgresObjectKinds.SEQUENCE, Kind.SEQUENCE, SEQUENCES);
    askFor(PostgresObjectKinds.MATERIALISED_VIEW, Kind.INDEX, MATERIALISED_INDEXES);
    askFor(PostgresObjectKinds.POLICY, Kind.POLICY, POLICIES);
    askFor(PostgresObjectKinds.VIEW, Kind.VIEW, views("v"));
    askFor(PostgresObjectKinds.MATERIALISED_VIEW, Kind.MATERIALISED_VIEW, views("m"));
    if (scope.has(PostgresObjectKinds.FUNCTION) || scope.has(PostgresObjectKinds.WINDOW_FUNCTION)) {
      String functions = routines("FUNCTION", "IN ('f', 'w')");
      ask(
          Kind.FUNCTION,
          scope.has(PostgresObjectKinds.RANGE) ? functions + " " + NOT_OF_A_RANGE : functions);
    }
    askFor(PostgresObjectKinds.PROCEDURE, Kind.PROCEDURE, routines("PROCEDURE", "= 'p'"));
    askFor(PostgresObjectKinds.AGGREGATE, Kind.AGGREGATE, AGGREGATES);
    askFor(PostgresObjectKinds.TRIGGER, Kind.TRIGGER, TRIGGERS);
    OTHERS.forEach(other -> askFor(other.getKey(), Kind.OTHER, other.getValue()));
    String rights = scope.of(PostgresRights.QUERY) + BY_NAME;
    queries.add(new Query(rights, rows -> PostgresRights.read(rows, found)));
    return queries;
  }

  private static String views(String kind) {
    return VIEWS.replace("%kind", kind);
  }

  private static String routines(String word, String kind) {
    return ROUTINES.replace("%word", word).replace("%kind", kind);
  }

  private void askFor(String sort, Kind kind, String query) {
    if (scope.has(sort)) {
      ask(kind, query);
    }
  }

  private void ask(Kind kind, String query) {
    UnaryOperator<String> canonical = kind.isView() ? PostgresViewText::canonical : text -> text;
    queries.add(
        new Query(
            scope.of(query) + BY_NAME, rows -> CatalogRows.objects(found, kind, rows, canonical)));
  }
}
