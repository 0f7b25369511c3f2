package org.wornladder.engine.postgres;

import static java.util.Map.entry;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.wornladder.engine.CatalogRows;
import org.wornladder.engine.postgres.PostgresCatalogQueries.Query;
import org.wornladder.schema.Column;
import org.wornladder.schema.CompositeType;
import org.wornladder.schema.Constraint;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.DefinedObject;
import org.wornladder.schema.DomainType;
import org.wornladder.schema.EnumType;
import org.wornladder.schema.Facts;
import org.wornladder.schema.Index;
import org.wornladder.schema.Kind;
import org.wornladder.schema.NameList;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.Policy;
import org.wornladder.schema.Sequence;
import org.wornladder.schema.Trigger;
import org.wornladder.schema.View;

/** Reads what is no table, a query a kind; each gives a name, a table and a definition. */
final class PostgresObjects {
  /** Every query begins with a schema, a name, the catalogue's number and a definition. */
  private static final int TEXTS = 4;

  private static final String SCHEMAS =
      """
      SELECT '', n.nspname, n.oid, 'CREATE SCHEMA ' || quote_ident(n.nspname),
          pg_catalog.obj_description(n.oid, 'pg_namespace') AS comment
        FROM pg_catalog.pg_namespace n WHERE n.nspname IN (%others)""";
  private static final String VIEWS =
      """
      SELECT %schema, c.relname, c.oid, concat('CREATE ', CASE c.relkind WHEN 'm' THEN
          'MATERIALIZED ' END,
          'VIEW ', %quoted(c.relname), ' WITH (' || array_to_string(c.reloptions, ', ') || ')', E' AS\n',
          rtrim(pg_catalog.pg_get_viewdef(c.oid), ';'),
          CASE WHEN NOT c.relispopulated THEN E'\n WITH NO DATA' END),
          pg_catalog.obj_description(c.oid, 'pg_class') AS comment
        FROM pg_catalog.pg_class c JOIN %schemas ON n.oid = c.relnamespace
       WHERE c.relkind = '%kind' AND %own(pg_class, c)""";
  private static final String MATERIALISED_INDEXES =
      """
      SELECT c.oid, i.relname, concat('CREATE ', CASE WHEN x.indisunique THEN
          'UNIQUE ' END, 'INDEX', substr(pg_catalog.pg_get_indexdef(i.oid),
            position(' USING ' IN pg_catalog.pg_get_indexdef(i.oid)))), x.indisunique,
          pg_catalog.obj_description(i.oid, 'pg_class')
        FROM pg_catalog.pg_index x JOIN pg_catalog.pg_class c ON c.oid = x.indrelid
        JOIN pg_catalog.pg_class i ON i.oid = x.indexrelid
        JOIN %schemas ON n.oid = c.relnamespace
       WHERE c.relkind = 'm' AND %own(pg_class, c)""";
  private static final String ROUTINES =
      """
      SELECT %schema, p.proname, p.oid, concat('CREATE ', '%word ', %quoted(p.proname), substr(pg_catalog.pg_get_functiondef(p.oid),
            length(concat('CREATE OR REPLACE ', '%word ', quote_ident(n.nspname), '.',
              quote_ident(p.proname))) + 1)),
          '(' || pg_catalog.pg_get_function_identity_arguments(p.oid) || ')' AS qualifier,
          pg_catalog.pg_get_function_result(p.oid) AS result,
          pg_catalog.pg_get_function_arguments(p.oid) AS parameters,
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
      SELECT %schema, p.proname, p.oid, concat('CREATE AGGREGATE ', %quoted(p.proname), '(',
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
          '(' || pg_catalog.pg_get_function_identity_arguments(p.oid) || ')' AS qualifier,
          pg_catalog.obj_description(p.oid, 'pg_proc') AS comment
        FROM pg_catalog.pg_aggregate a JOIN pg_catalog.pg_proc p ON p.oid = a.aggfnoid
        JOIN %schemas ON n.oid = p.pronamespace
       WHERE %own(pg_proc, p)""";
  private static final String TRIGGERS =
      """
      SELECT %schema, t.tgname, t.oid, pg_catalog.pg_get_triggerdef(t.oid, true),
          c.relname AS "table", c.relkind, CASE t.tgenabled WHEN 'D' THEN 'disabled'
          WHEN 'A' THEN 'always' WHEN 'R' THEN 'replica' END AS state,
          pg_catalog.obj_description(t.oid, 'pg_trigger') AS comment
        FROM pg_catalog.pg_trigger t JOIN pg_catalog.pg_class c ON c.oid = t.tgrelid
        JOIN %schemas ON n.oid = c.relnamespace
       WHERE NOT t.tgisinternal AND t.tgparentid = 0 AND %own(pg_class, c)""";
  private static final String SEQUENCES =
      """
      SELECT %schema, c.relname, c.oid, '', CASE c.relpersistence WHEN 'u' THEN 'yes' END AS unlogged,
          pg_catalog.format_type(s.seqtypid, NULL) AS type, s.seqstart AS start,
          s.seqincrement AS increment, s.seqmin AS minimum, s.seqmax AS maximum, s.seqcache AS cache,
          CASE WHEN s.seqcycle THEN 'yes' END AS cycle, o.refobjid AS owner, a.attname AS "column",
          pg_catalog.obj_description(c.oid, 'pg_class') AS comment
        FROM pg_catalog.pg_sequence s JOIN pg_catalog.pg_class c ON c.oid = s.seqrelid
        JOIN %schemas ON n.oid = c.relnamespace
        LEFT JOIN pg_catalog.pg_depend o ON o.objid = c.oid AND o.deptype = 'a'
          AND o.classid = 'pg_catalog.pg_class'::pg_catalog.regclass
          AND o.refclassid = 'pg_catalog.pg_class'::pg_catalog.regclass
        LEFT JOIN pg_catalog.pg_attribute a ON a.attrelid = o.refobjid AND a.attnum = o.refobjsubid
       WHERE %own(pg_class, c) AND NOT EXISTS (SELECT 1 FROM pg_catalog.pg_depend o
           WHERE o.classid = 'pg_catalog.pg_class'::pg_catalog.regclass AND o.objid = c.oid
             AND o.deptype = 'i')""";
  private static final String ENUMS =
      """
      SELECT %schema, t.typname, t.oid, '(' || coalesce((SELECT string_agg('"' ||
          replace(e.enumlabel, '"', '""') || '"', ', ' ORDER BY e.enumsortorder)
             FROM pg_catalog.pg_enum e WHERE e.enumtypid = t.oid), '') || ')',
          pg_catalog.obj_description(t.oid, 'pg_type') AS comment
        FROM pg_catalog.pg_type t JOIN %schemas ON n.oid = t.typnamespace
       WHERE t.typtype = 'e' AND %own(pg_type, t)""";
  private static final String DOMAIN_CHECKS =
      """
      SELECT k.contypid, k.conname, pg_catalog.pg_get_constraintdef(k.oid),
          pg_catalog.obj_description(k.oid, 'pg_constraint')
        FROM pg_catalog.pg_constraint k JOIN %schemas ON n.oid = k.connamespace
       WHERE k.contypid <> 0 AND k.contype = 'c'""";
  private static final String DOMAINS =
      """
      SELECT %schema, t.typname, t.oid, pg_catalog.format_type(t.typbasetype, t.typtypmod),
          (SELECT %collation(t.typcollation) FROM pg_catalog.pg_type b
            WHERE b.oid = t.typbasetype AND t.typcollation <> b.typcollation) AS collation,
          t.typdefault AS default, CASE WHEN t.typnotnull THEN 'no' END AS nullable,
          pg_catalog.obj_description(t.oid, 'pg_type') AS comment
        FROM pg_catalog.pg_type t JOIN %schemas ON n.oid = t.typnamespace
       WHERE t.typtype = 'd' AND %own(pg_type, t)""";
  private static final String RANGES =
      """
      SELECT %schema, t.typname, t.oid, concat('CREATE TYPE ', %quoted(t.typname), ' AS RANGE (',
          concat_ws(', ', 'SUBTYPE = ' || pg_catalog.format_type(r.rngsubtype, NULL),
            (SELECT 'SUBTYPE_OPCLASS = ' || quote_ident(n2.nspname) || '.' || quote_ident(oc.opcname)
              FROM pg_catalog.pg_opclass oc JOIN pg_catalog.pg_namespace n2
                ON n2.oid = oc.opcnamespace WHERE oc.oid = r.rngsubopc AND NOT oc.opcdefault),
            (SELECT 'COLLATION = ' || %collation(r.rngcollation) FROM pg_catalog.pg_type b
              WHERE b.oid = r.rngsubtype AND r.rngcollation <> b.typcollation),
            'CANONICAL = ' || nullif(r.rngcanonical::oid, 0)::pg_catalog.regproc,
            'SUBTYPE_DIFF = ' || nullif(r.rngsubdiff::oid, 0)::pg_catalog.regproc), ')'),
          pg_catalog.obj_description(t.oid, 'pg_type') AS comment
        FROM pg_catalog.pg_type t JOIN pg_catalog.pg_range r ON r.rngtypid = t.oid
        JOIN %schemas ON n.oid = t.typnamespace
       WHERE t.typtype = 'r' AND %own(pg_type, t)""";
  private static final String ATTRIBUTES =
      """
      SELECT c.oid, a.attname, pg_catalog.format_type(a.atttypid, a.atttypmod),
          CASE WHEN a.attcollation <> y.typcollation THEN %collation(a.attcollation) END,
          %comment(a.attnum)
        FROM pg_catalog.pg_class c JOIN %schemas ON n.oid = c.relnamespace
        JOIN pg_catalog.pg_attribute a ON a.attrelid = c.oid AND a.attnum > 0 AND NOT a.attisdropped
        JOIN pg_catalog.pg_type y ON y.oid = a.atttypid
       WHERE c.relkind = 'c' AND %own(pg_class, c) ORDER BY c.oid, a.attnum""";
  private static final String COMPOSITES =
      """
      SELECT %schema, c.relname, c.oid, '', pg_catalog.obj_description(c.reltype, 'pg_type') AS comment
        FROM pg_catalog.pg_class c JOIN %schemas ON n.oid = c.relnamespace
       WHERE c.relkind = 'c' AND %own(pg_class, c)""";
  private static final String POLICIES =
      """
      SELECT %schema, p.polname, p.oid, concat_ws(' ',
          'CREATE POLICY', quote_ident(p.polname), 'ON', %quoted(c.relname),
          CASE WHEN NOT p.polpermissive THEN 'AS RESTRICTIVE' END, 'FOR', CASE p.polcmd
          WHEN 'r' THEN 'SELECT' WHEN 'a' THEN 'INSERT' WHEN 'w' THEN 'UPDATE'
          WHEN 'd' THEN 'DELETE' ELSE 'ALL' END, 'TO ' || CASE WHEN p.polroles = '{0}' THEN 'PUBLIC'
          ELSE (SELECT string_agg(quote_ident(r.rolname), ', ' ORDER BY r.rolname)
            FROM pg_catalog.pg_roles r WHERE r.oid = ANY (p.polroles)) END,
          'USING (' || pg_catalog.pg_get_expr(p.polqual, p.polrelid) || ')',
          'WITH CHECK (' || pg_catalog.pg_get_expr(p.polwithcheck, p.polrelid) || ')'),
          c.relname AS "table", c.relkind,
          pg_catalog.obj_description(p.oid, 'pg_policy') AS comment
        FROM pg_catalog.pg_policy p JOIN pg_catalog.pg_class c ON c.oid = p.polrelid
        JOIN %schemas ON n.oid = c.relnamespace
       WHERE %own(pg_class, c)""";
  private static final String EXTENSIONS =
      """
      SELECT '', e.extname, e.oid, 'CREATE EXTENSION IF NOT EXISTS ' || quote_ident(e.extname) ||
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
              SELECT '', 'foreign table ' || %name(c.relname), 0, '' FROM pg_catalog.pg_class c
              JOIN %schemas ON n.oid = c.relnamespace
              WHERE c.relkind = 'f' AND %own(pg_class, c)"""),
          entry(
              PostgresObjectKinds.PUBLICATION,
              """
              SELECT '', 'publication ' || pubname, 0, '' FROM pg_catalog.pg_publication"""),
          entry(
              PostgresObjectKinds.EVENT_TRIGGER,
              """
              SELECT '', 'event trigger ' || evtname, 0, evtevent FROM pg_catalog.pg_event_trigger g
              WHERE %own(pg_event_trigger, g)"""),
          entry(
              PostgresObjectKinds.SEARCH_CONFIGURATION,
              """
              SELECT '', 'text search configuration ' || %name(g.cfgname), 0, ''
              FROM pg_catalog.pg_ts_config g JOIN %schemas ON n.oid = g.cfgnamespace
              WHERE %own(pg_ts_config, g)"""),
          entry(
              PostgresObjectKinds.SEARCH_PARSER,
              """
              SELECT '', 'text search parser ' || %name(g.prsname), 0, ''
              FROM pg_catalog.pg_ts_parser g JOIN %schemas ON n.oid = g.prsnamespace
              WHERE %own(pg_ts_parser, g)"""),
          entry(
              PostgresObjectKinds.SEARCH_DICTIONARY,
              """
              SELECT '', 'text search dictionary ' || %name(g.dictname), 0, g.dictinitoption
              FROM pg_catalog.pg_ts_dict g JOIN %schemas ON n.oid = g.dictnamespace
              WHERE %own(pg_ts_dict, g)"""),
          entry(
              PostgresObjectKinds.STATISTICS,
              """
              SELECT '', 'statistics ' || %name(g.stxname), g.oid,
              pg_catalog.pg_get_statisticsobjdef(g.oid), 'STATISTICS ' || %quoted(g.stxname)
                AS "dropped as"
              FROM pg_catalog.pg_statistic_ext g JOIN %schemas ON n.oid = g.stxnamespace
              WHERE %own(pg_statistic_ext, g)"""),
          entry(
              PostgresObjectKinds.COLLATION,
              """
              SELECT '', 'collation ' || %name(g.collname), 0, '' FROM pg_catalog.pg_collation g
              JOIN %schemas ON n.oid = g.collnamespace
              WHERE %own(pg_collation, g)"""),
          entry(
              PostgresObjectKinds.OPERATOR,
              """
              SELECT '', 'operator ' || %name(g.oprname) || ' (' || CASE WHEN g.oprleft = 0 THEN 'NONE'
                  ELSE pg_catalog.format_type(g.oprleft, NULL) END || ', '
                  || pg_catalog.format_type(g.oprright, NULL) || ')', g.oid,
                concat('CREATE OPERATOR ', %inschema, g.oprname, ' (', concat_ws(', ',
                  'FUNCTION = ' || g.oprcode, 'LEFTARG = ' || pg_catalog.format_type(
                    nullif(g.oprleft, 0), NULL), 'RIGHTARG = ' || pg_catalog.format_type(
                    nullif(g.oprright, 0), NULL), 'COMMUTATOR = ' || (SELECT 'OPERATOR(' ||
                    quote_ident(n2.nspname) || '.' || o.oprname || ')' FROM pg_catalog.pg_operator o
                    JOIN pg_catalog.pg_namespace n2 ON n2.oid = o.oprnamespace
                    WHERE o.oid = g.oprcom), 'NEGATOR = ' || (SELECT 'OPERATOR(' ||
                    quote_ident(n2.nspname) || '.' || o.oprname || ')' FROM pg_catalog.pg_operator o
                    JOIN pg_catalog.pg_namespace n2 ON n2.oid = o.oprnamespace
                    WHERE o.oid = g.oprnegate), 'RESTRICT = ' || nullif(g.oprrest::oid, 0)::pg_catalog.regproc,
                  'JOIN = ' || nullif(g.oprjoin::oid, 0)::pg_catalog.regproc,
                  CASE WHEN g.oprcanhash THEN 'HASHES' END, CASE WHEN g.oprcanmerge THEN 'MERGES' END),
                  ')'), concat('OPERATOR ', %inschema, g.oprname, ' (', CASE WHEN g.oprleft = 0
                  THEN 'NONE' ELSE pg_catalog.format_type(g.oprleft, NULL) END, ', ',
                  pg_catalog.format_type(g.oprright, NULL), ')') AS "dropped as"
              FROM pg_catalog.pg_operator g
              JOIN %schemas ON n.oid = g.oprnamespace
              WHERE %own(pg_operator, g)"""),
          entry(
              PostgresObjectKinds.RULE,
              """
              SELECT '', 'rule ' || r.rulename || ' on ' || %name(c.relname), r.oid,
              pg_catalog.pg_get_ruledef(r.oid), 'RULE ' || quote_ident(r.rulename) || ' ON ' ||
                %quoted(c.relname) AS "dropped as" FROM pg_catalog.pg_rewrite r
              JOIN pg_catalog.pg_class c ON c.oid = r.ev_class
              JOIN %schemas ON n.oid = c.relnamespace
              WHERE r.rulename <> '_RETURN' AND %own(pg_class, c)"""));

  /** The server says the same in the same order every time. */
  private static final String BY_NAME = " ORDER BY 1, 2, 3";

  private final PostgresScope scope;
  private final PostgresNumbers numbers;
  private final PostgresComments comments;
  private final List<DatabaseObject> found;
  private final Map<String, List<Index>> indexes = new HashMap<>();
  private final Map<String, List<Constraint>> checks = new HashMap<>();
  private final Map<String, List<Column>> attributes = new HashMap<>();
  private final List<Query> queries = new ArrayList<>();

  /**
   * @param numbers takes the number of each object that is found
   * @param comments those on the columns of views
   * @param found what is found is added to it
   */
  PostgresObjects(
      PostgresScope scope,
      PostgresNumbers numbers,
      PostgresComments comments,
      List<DatabaseObject> found) {
    this.scope = scope;
    this.numbers = numbers;
    this.comments = comments;
    this.found = found;
  }

  /** All kinds in one message: most have few objects, and the way there would take longer. */
  List<Query> queries() {
    if (scope.hasOthers()) {
      ask(SCHEMAS, Kind.SCHEMA, this::defined);
    }
    askFor(PostgresObjectKinds.EXTENSION, EXTENSIONS, Kind.EXTENSION, this::defined);
    askFor(PostgresObjectKinds.ENUM, ENUMS, Kind.ENUM, PostgresObjects::enumType);
    if (scope.has(PostgresObjectKinds.DOMAIN)) {
      queries.add(new Query(scope.of(DOMAIN_CHECKS) + BY_NAME, this::readChecks));
      ask(DOMAINS, Kind.DOMAIN, this::domain);
    }
    askFor(PostgresObjectKinds.RANGE, RANGES, Kind.RANGE, this::defined);
    if (scope.has(PostgresObjectKinds.COMPOSITE_TYPE)) {
      queries.add(new Query(scope.of(ATTRIBUTES), this::readAttributes));
      ask(COMPOSITES, Kind.COMPOSITE, this::composite);
    }
    askFor(PostgresObjectKinds.SEQUENCE, SEQUENCES, Kind.SEQUENCE, this::sequence);
    askFor(PostgresObjectKinds.POLICY, POLICIES, Kind.POLICY, this::ofTable);
    askFor(PostgresObjectKinds.VIEW, views("v"), Kind.VIEW, this::view);
    if (scope.has(PostgresObjectKinds.MATERIALISED_VIEW)) {
      queries.add(new Query(scope.of(MATERIALISED_INDEXES) + BY_NAME, this::readIndexes));
      ask(views("m"), Kind.MATERIALISED_VIEW, this::view);
    }
    if (scope.has(PostgresObjectKinds.FUNCTION) || scope.has(PostgresObjectKinds.WINDOW_FUNCTION)) {
      String functions = routines("FUNCTION", "IN ('f', 'w')");
      boolean ranges = scope.has(PostgresObjectKinds.RANGE);
      ask(ranges ? functions + " " + NOT_OF_A_RANGE : functions, Kind.FUNCTION, this::defined);
    }
    askFor(
        PostgresObjectKinds.PROCEDURE,
        routines("PROCEDURE", "= 'p'"),
        Kind.PROCEDURE,
        this::defined);
    askFor(PostgresObjectKinds.AGGREGATE, AGGREGATES, Kind.AGGREGATE, this::defined);
    askFor(PostgresObjectKinds.TRIGGER, TRIGGERS, Kind.TRIGGER, this::ofTable);
    OTHERS.forEach(other -> askFor(other.getKey(), other.getValue(), Kind.OTHER, this::defined));
    queries.add(
        new Query(scope.of(PostgresRights.QUERY), rows -> PostgresRights.read(rows, found)));
    return queries;
  }

  private static String views(String kind) {
    return VIEWS.replace("%kind", kind);
  }

  private static String routines(String word, String kind) {
    return ROUTINES.replace("%word", word).replace("%kind", kind);
  }

  /** Makes an object of a row whose identity is known. */
  private interface Maker {
    DatabaseObject of(ObjectId id, CatalogRows.Row row);
  }

  private void askFor(String sort, String query, Kind kind, Maker maker) {
    if (scope.has(sort)) {
      ask(query, kind, maker);
    }
  }

  private void ask(String query, Kind kind, Maker maker) {
    queries.add(
        new Query(
            scope.of(query) + BY_NAME,
            rows -> CatalogRows.objects(found, rows, TEXTS, row -> made(kind, row, maker))));
  }

  private DatabaseObject made(Kind kind, CatalogRows.Row row, Maker maker) {
    String qualifier =
        kind == Kind.TRIGGER || kind == Kind.POLICY
            ? row.facts().get(Facts.TABLE)
            : row.take("qualifier");
    ObjectId id = new ObjectId(kind, row.text(0), row.text(1), qualifier);
    numbers.add(PostgresNumbers.catalog(kind), row.text(2), id);
    return maker.of(id, row);
  }

  private DatabaseObject defined(ObjectId id, CatalogRows.Row row) {
    return DefinedObject.of(
        id, row.with(Facts.DEFINITION, row.definition(3)), List.of(), List.of());
  }

  private DatabaseObject ofTable(ObjectId id, CatalogRows.Row row) {
    String view = row.take("relkind");
    Kind kind =
        switch (view) {
          case "v" -> Kind.VIEW;
          case "m" -> Kind.MATERIALISED_VIEW;
          default -> Kind.TABLE;
        };
    ObjectId table = ObjectId.of(kind, id.schema(), row.take(Facts.TABLE));
    return id.kind() == Kind.TRIGGER
        ? new Trigger(id, table, row.definition(3), row.facts(), List.of())
        : new Policy(
            id, table, PostgresCheckText.canonical(row.definition(3)), row.facts(), List.of());
  }

  private DatabaseObject view(ObjectId id, CatalogRows.Row row) {
    Map<String, String> more = new HashMap<>(row.facts());
    more.putAll(comments.onColumns(id.displayName()));
    String text = PostgresViewText.canonical(row.definition(3));
    more.put(Facts.TEXT, PostgresCheckText.written(text));
    return new View(
        id,
        PostgresCheckText.canonical(text),
        more,
        indexes.getOrDefault(row.text(2), List.of()),
        List.of());
  }

  private static DatabaseObject enumType(ObjectId id, CatalogRows.Row row) {
    return new EnumType(id, NameList.inParentheses(row.text(3)), row.facts());
  }

  private DatabaseObject domain(ObjectId id, CatalogRows.Row row) {
    return new DomainType(
        id, row.text(3), checks.getOrDefault(row.text(2), List.of()), row.facts(), List.of());
  }

  private DatabaseObject composite(ObjectId id, CatalogRows.Row row) {
    return new CompositeType(
        id, attributes.getOrDefault(row.text(2), List.of()), row.facts(), List.of());
  }

  private DatabaseObject sequence(ObjectId id, CatalogRows.Row row) {
    Optional<ObjectId> owner = numbers.object(PostgresNumbers.CLASS, row.take("owner"));
    String column = row.take("column");
    Map<String, String> more = new HashMap<>();
    more.put(Facts.COMMENT, row.take(Facts.COMMENT));
    more.put(PostgresDdl.UNLOGGED, row.take(PostgresDdl.UNLOGGED));
    return new Sequence(id, row.facts(), owner, owner.isPresent() ? column : "", more, List.of());
  }

  private void readIndexes(ResultSet rows) throws SQLException {
    while (rows.next()) {
      indexes
          .computeIfAbsent(rows.getString(1), view -> new ArrayList<>())
          .add(
              new Index(
                  rows.getString(2),
                  List.of(),
                  rows.getBoolean(4),
                  false,
                  false,
                  PostgresNames.isOfIndex(rows.getString(2)),
                  rows.getString(3),
                  Optional.ofNullable(rows.getString(5)).orElse("")));
    }
  }

  private void readChecks(ResultSet rows) throws SQLException {
    while (rows.next()) {
      checks
          .computeIfAbsent(rows.getString(1), domain -> new ArrayList<>())
          .add(
              new Constraint(
                      Kind.CHECK,
                      CatalogRows.chosen(rows.getString(2), PostgresNames::isOfConstraint),
                      rows.getString(2),
                      PostgresCheckText.canonical(rows.getString(3)),
                      Optional.ofNullable(rows.getString(4)).orElse(""))
                  .writtenAs(PostgresCheckText.written(rows.getString(3))));
    }
  }

  private void readAttributes(ResultSet rows) throws SQLException {
    while (rows.next()) {
      Map<String, String> more = new HashMap<>();
      CatalogRows.put(more, Column.COLLATION, rows.getString(4));
      CatalogRows.put(more, Facts.COMMENT, rows.getString(5));
      attributes
          .computeIfAbsent(rows.getString(1), type -> new ArrayList<>())
          .add(new Column(rows.getString(2), rows.getString(3), true, Optional.empty(), more));
    }
  }
}
