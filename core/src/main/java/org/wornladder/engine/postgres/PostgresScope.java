package org.wornladder.engine.postgres;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/**
 * What a query of the catalogue reads: the managed schemas, without what belongs to an extension.
 * Names in the first schema stand alone. What need not be asked need not be planned either: the
 * schemas are in the queries as numbers, and of what there is none of, none is asked for.
 */
final class PostgresScope {
  private static final String SCHEMAS =
      "SELECT n.oid, n.nspname FROM pg_catalog.pg_namespace n WHERE n.nspname IN (%all) ORDER BY n.oid";

  /** How a column {@code a} of {@code c} numbers its rows; what is usual is not said. */
  private static final String IDENTITY =
      """
      CASE WHEN a.attidentity <> '' THEN (SELECT concat_ws(' ', CASE a.attidentity WHEN 'a'
            THEN 'always' ELSE 'by default' END, '(' || nullif(concat_ws(' ',
              CASE WHEN s.seqstart <> 1 THEN 'START WITH ' || s.seqstart END,
              CASE WHEN s.seqincrement <> 1 THEN 'INCREMENT BY ' || s.seqincrement END,
              CASE WHEN s.seqmin <> 1 THEN 'MINVALUE ' || s.seqmin END,
              CASE WHEN s.seqmax NOT IN (32767, 2147483647, 9223372036854775807)
                THEN 'MAXVALUE ' || s.seqmax END,
              CASE WHEN s.seqcache <> 1 THEN 'CACHE ' || s.seqcache END,
              CASE WHEN s.seqcycle THEN 'CYCLE' END), '') || ')')
            FROM pg_catalog.pg_depend o JOIN pg_catalog.pg_sequence s ON s.seqrelid = o.objid
            WHERE o.refobjid = c.oid AND o.refobjsubid = a.attnum AND o.deptype = 'i'
              AND o.classid = 'pg_catalog.pg_class'::pg_catalog.regclass
              AND o.refclassid = 'pg_catalog.pg_class'::pg_catalog.regclass) END""";

  /** The number of no schema. */
  private static final String NONE = "(0::pg_catalog.oid, '')";

  private final String first;
  private final String all;
  private final String others;
  private final String numbered;
  private final String without;
  private final Set<String> sorts;

  private PostgresScope(
      List<String> texts, List<String> numbered, List<String> without, Set<String> sorts) {
    first = texts.get(0);
    all = String.join(", ", texts);
    others = texts.size() == 1 ? "" : String.join(", ", texts.subList(1, texts.size()));
    this.numbered = numbered.isEmpty() ? NONE : String.join(", ", numbered);
    this.without = String.join(", ", texts(without));
    this.sorts = Set.copyOf(sorts);
  }

  /**
   * The scope as it is now: a schema may be made again, and an extension installed.
   *
   * @param schemas the managed ones; those that are not there hold nothing
   * @param without the tables that are left out, as {@code %name} writes them
   */
  static PostgresScope of(Statement sql, List<String> schemas, List<String> without)
      throws SQLException {
    List<String> texts = texts(schemas);
    String all = String.join(", ", texts);
    List<String> numbered = new ArrayList<>();
    Set<String> sorts = new HashSet<>();
    sql.execute(SCHEMAS.replace("%all", all) + "; " + PostgresObjectKinds.query(all));
    try (ResultSet rows = sql.getResultSet()) {
      while (rows.next()) {
        String name = PostgresEngine.QUOTING.text(rows.getString(2));
        numbered.add("(" + rows.getLong(1) + "::pg_catalog.oid, " + name + ")");
      }
    }
    sql.getMoreResults();
    try (ResultSet rows = sql.getResultSet()) {
      while (rows.next()) {
        sorts.add(rows.getString(1));
      }
    }
    return new PostgresScope(texts, numbered, without, sorts);
  }

  private static List<String> texts(List<String> names) {
    List<String> texts = new ArrayList<>();
    names.forEach(name -> texts.add(PostgresEngine.QUOTING.text(name)));
    return texts;
  }

  /** Whether there is anything of a kind, as {@link PostgresObjectKinds} names it. */
  boolean has(String sort) {
    return sorts.contains(sort);
  }

  /** Whether other schemas than the first are managed. */
  boolean hasOthers() {
    return !others.isEmpty();
  }

  /**
   * A query with its short-hand written out: {@code %schemas} the managed schemas as {@code n},
   * {@code %name(x)} a name in the schema {@code n}, {@code %schema} that schema unless it is the
   * first, {@code %inschema} the same as statements write it in front of a name, {@code %quoted(x)}
   * the same as statements write it, {@code %collation(x)} the collation of that number, {@code
   * %own(catalogue, x)} that no extension owns x, and that it is none of the tables left out,
   * {@code %comment(x)} the comment on the column of that number of {@code c}, {@code %identity}
   * how a column {@code a} of {@code c} numbers its rows, {@code %reordered} that {@code c} is a
   * partition whose columns are in another order than its parent's, {@code %action(x)} what a
   * foreign key does, {@code %some} the columns that a foreign key {@code k} sets, where not all;
   * {@code %modify(x)} what an aggregate's function does to its state, where that is not the usual;
   * {@code %all}, {@code %others} and {@code %first} the names of the schemas.
   */
  String of(String query) {
    StringBuilder text = new StringBuilder(query.length() * 2);
    int from = 0;
    for (int mark = query.indexOf('%'); mark >= 0; mark = query.indexOf('%', from)) {
      text.append(query.substring(from, mark));
      from = mark + 1;
      while (from < query.length() && Character.isLetter(query.charAt(from))) {
        from++;
      }
      String word = query.substring(mark + 1, from);
      String given = "";
      if (from < query.length() && query.charAt(from) == '(') {
        int end = query.indexOf(')', from);
        given = query.substring(from + 1, end);
        from = end + 1;
      }
      text.append(written(word, given));
    }
    return text.append(query.substring(from)).toString();
  }

  private String written(String word, String given) {
    String inFirst = "CASE WHEN n.nspname = " + first + " THEN ";
    return switch (word) {
      case "schemas" -> "(VALUES " + numbered + ") n (oid, nspname)";
      case "name" -> inFirst + given + "::text ELSE n.nspname || '.' || " + given + " END";
      case "inschema" -> inFirst + "'' ELSE quote_ident(n.nspname) || '.' END";
      case "schema" -> inFirst + "'' ELSE n.nspname END";
      case "quoted" ->
          inFirst + "'' ELSE quote_ident(n.nspname) || '.' END || quote_ident(" + given + ")";
      case "collation" ->
          "(SELECT CASE WHEN cn.nspname = 'pg_catalog' THEN '' ELSE"
              + " quote_ident(cn.nspname) || '.' END || quote_ident(co.collname)"
              + " FROM pg_catalog.pg_collation co JOIN pg_catalog.pg_namespace cn"
              + " ON cn.oid = co.collnamespace WHERE co.oid = "
              + given
              + ")";
      case "comment" ->
          has(PostgresObjectKinds.COMMENT)
              ? "(SELECT de.description FROM pg_catalog.pg_description de WHERE de.objoid = c.oid"
                  + " AND de.classoid = 'pg_catalog.pg_class'::pg_catalog.regclass AND de.objsubid = "
                  + given
                  + ")"
              : "NULL";
      case "identity" -> has(PostgresObjectKinds.SEQUENCE) ? IDENTITY : "NULL";
      case "reordered" ->
          // A partition's columns are in the parent's order, but for one that was a table before.
          "c.relispartition AND "
              + columnsOf("c.oid")
              + " <> (SELECT "
              + columnsOf("i.inhparent")
              + " FROM pg_catalog.pg_inherits i WHERE i.inhrelid = c.oid)";
      case "some" ->
          // The catalogue has the word since version 15 alone.
          "CASE WHEN k.confdeltype IN ('n', 'd') THEN coalesce((SELECT ' (' || string_agg("
              + "quote_ident(a.attname), ', ' ORDER BY u.place) || ')' FROM"
              + " jsonb_array_elements_text(nullif(to_jsonb(k) -> 'confdelsetcols', 'null'))"
              + " WITH ORDINALITY u (number, place) JOIN pg_catalog.pg_attribute a"
              + " ON a.attrelid = k.conrelid AND a.attnum = u.number::int), '') ELSE '' END";
      case "action" ->
          "CASE "
              + given
              + " WHEN 'r' THEN 'RESTRICT' WHEN 'c' THEN 'CASCADE' WHEN 'n' THEN 'SET NULL'"
              + " WHEN 'd' THEN 'SET DEFAULT' ELSE 'NO ACTION' END";
      case "modify" ->
          "CASE WHEN "
              + given
              + " <> CASE a.aggkind WHEN 'n' THEN 'r' ELSE 'w' END THEN CASE "
              + given
              + " WHEN 'r' THEN 'READ_ONLY' WHEN 's' THEN 'SHAREABLE' ELSE 'READ_WRITE' END END";
      case "own" -> own(given.split(", "));
      case "all" -> all;
      case "others" -> others;
      case "first" -> first;
      default -> throw new IllegalArgumentException("%" + word);
    };
  }

  private static String columnsOf(String table) {
    return "ARRAY(SELECT a.attname FROM pg_catalog.pg_attribute a WHERE a.attrelid = "
        + table
        + " AND a.attnum > 0 AND NOT a.attisdropped ORDER BY a.attnum)";
  }

  private String own(String... what) {
    String own = has(PostgresObjectKinds.EXTENSION) ? ofNoExtension(what) : "TRUE";
    return what[0].equals("pg_class") && !without.isEmpty()
        ? own + " AND " + written("name", what[1] + ".relname") + " NOT IN (" + without + ")"
        : own;
  }

  private static String ofNoExtension(String... what) {
    return "NOT EXISTS (SELECT 1 FROM pg_catalog.pg_depend d WHERE d.deptype = 'e'"
        + " AND d.classid = 'pg_catalog."
        + what[0]
        + "'::pg_catalog.regclass AND d.objid = "
        + what[1]
        + ".oid)";
  }
}
