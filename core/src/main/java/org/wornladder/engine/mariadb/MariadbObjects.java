package org.wornladder.engine.mariadb;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import org.wornladder.engine.CatalogRows;
import org.wornladder.schema.Kind;
import org.wornladder.schema.SchemaObject;

/** Reads what is no table, a query a kind (MariaDB documentation, "Information Schema Tables"). */
final class MariadbObjects {
  /**
   * Settings under which a text says something else (MariaDB documentation, "SQL_MODE"). That
   * blanks are ignored is none of them: some drivers ask for it, other clients do not.
   */
  private static final List<String> READ_AS =
      List.of(
          "ANSI_QUOTES",
          "PIPES_AS_CONCAT",
          "NO_BACKSLASH_ESCAPES",
          "HIGH_NOT_PRECEDENCE",
          "REAL_AS_FLOAT",
          "ORACLE",
          "MSSQL");

  /** How a text was read when it was made, where that is not how this session reads. */
  private static final String MODE =
      "CASE WHEN %1$s <> %2$s THEN coalesce(nullif(%1$s, ''), 'plain') END"
          .formatted(readAs("sql_mode"), readAs("@@sql_mode"));

  private static final String VIEWS =
      """
      SELECT table_name, '', CASE WHEN view_definition <> '' THEN concat('CREATE ', CASE WHEN algorithm IN ('UNDEFINED', 'NONE') THEN ''
          ELSE concat('ALGORITHM = ', algorithm, ' ') END, CASE WHEN security_type = 'DEFINER' THEN ''
          ELSE 'SQL SECURITY INVOKER ' END, 'VIEW `', replace(table_name, '`', '``'), '` AS ',
          view_definition, CASE WHEN check_option = 'NONE' THEN ''
          ELSE concat(' WITH ', check_option, ' CHECK OPTION') END) END
        FROM information_schema.views WHERE table_schema = %s ORDER BY table_name""";

  /** One of several of a table's, at the same time, runs behind the one before it. */
  private static final String TRIGGERS =
      """
      SELECT trigger_name, event_object_table, concat('CREATE TRIGGER `',
          replace(trigger_name, '`', '``'), '` ', action_timing, ' ', event_manipulation, ' ON `',
          replace(event_object_table, '`', '``'), '` FOR EACH ROW ', coalesce(concat('FOLLOWS `',
          replace(lag(trigger_name) OVER (PARTITION BY event_object_table, action_timing,
            event_manipulation ORDER BY action_order), '`', '``'), '` '), ''), action_statement),
          %2$s AS `sql mode`
        FROM information_schema.triggers WHERE trigger_schema = %1$s""";

  /**
   * Which function is an aggregate, its text alone says: it must fetch rows of the group, and no
   * other may (MariaDB documentation, "Stored Aggregate Functions"). A character set is the
   * database's own where none was written. The parameters are joined: the server would open every
   * routine again for each row of a subquery that asks for those of one.
   */
  private static final String ROUTINES =
      """
      SELECT r.routine_name, '', concat('CREATE ', CASE WHEN r.routine_definition REGEXP
          '(?i)fetch[[:space:]]+group[[:space:]]+next[[:space:]]+row' THEN 'AGGREGATE ' ELSE '' END,
          r.routine_type, ' `', replace(r.routine_name, '`', '``'), '`(', coalesce(a.all_of_them, ''), ') ',
          CASE WHEN r.routine_type = 'PROCEDURE' THEN '' ELSE concat('RETURNS ', r.dtd_identifier,
            CASE WHEN r.collation_name <> r.database_collation THEN concat(' CHARACTER SET ',
              r.character_set_name, ' COLLATE ', r.collation_name) ELSE '' END, ' ')
          END, r.sql_data_access, ' ', CASE WHEN r.is_deterministic = 'YES' THEN 'DETERMINISTIC '
          ELSE '' END, CASE WHEN r.security_type = 'INVOKER' THEN 'SQL SECURITY INVOKER ' ELSE ''
          END, CASE WHEN r.routine_comment = '' THEN '' ELSE concat('COMMENT ',
          quote(r.routine_comment), ' ') END, r.routine_definition), %2$s AS `sql mode`
        FROM information_schema.routines r LEFT JOIN (SELECT o.specific_name,
          group_concat(concat(CASE WHEN o.routine_type = 'PROCEDURE'
            THEN concat(p.parameter_mode, ' ') ELSE '' END, '`', replace(p.parameter_name, '`', '``'),
            '` ', p.dtd_identifier, CASE WHEN p.collation_name <> o.database_collation
              THEN concat(' CHARACTER SET ', p.character_set_name, ' COLLATE ', p.collation_name)
              ELSE '' END) ORDER BY p.ordinal_position SEPARATOR ', ') AS all_of_them
            FROM information_schema.routines o JOIN information_schema.parameters p
              ON p.specific_name = o.specific_name
           WHERE o.routine_schema = %1$s AND o.routine_type = '%3$s'
             AND p.specific_schema = %1$s AND p.routine_type = '%3$s' AND p.ordinal_position > 0
           GROUP BY o.specific_name) a ON a.specific_name = r.specific_name
       WHERE r.routine_schema = %1$s AND r.routine_type = '%3$s' ORDER BY r.routine_name""";

  /**
   * One that begins in the second in which it was made begins then because nobody said when. Times
   * are written in the time zone that it was made in.
   */
  private static final String EVENTS =
      """
      SELECT event_name, '', concat('CREATE EVENT `', replace(event_name, '`', '``'),
          '` ON SCHEDULE ', CASE WHEN event_type = 'ONE TIME' THEN concat('AT ', quote(execute_at))
          ELSE concat('EVERY ', CASE WHEN interval_value REGEXP '^[0-9]+$' THEN interval_value
          ELSE quote(interval_value) END, ' ', interval_field,
          CASE WHEN %3$s IS NULL THEN '' ELSE concat(' STARTS ', quote(starts)) END,
          CASE WHEN ends IS NULL THEN '' ELSE concat(' ENDS ', quote(ends)) END) END,
          ' ON COMPLETION ', on_completion, CASE status WHEN 'ENABLED' THEN ' ENABLE'
          ELSE ' DISABLE' END, CASE WHEN event_comment = '' THEN '' ELSE concat(' COMMENT ',
          quote(event_comment)) END, ' DO ', event_definition), %2$s AS `sql mode`,
          CASE WHEN time_zone <> 'SYSTEM' AND coalesce(%3$s, ends, execute_at) IS NOT NULL
            THEN time_zone END AS `time zone`
        FROM information_schema.events WHERE event_schema = %1$s ORDER BY event_name""";

  /** When an event begins, if somebody said so. */
  private static final String BEGINS =
      """
      CASE WHEN convert_tz(starts, time_zone, @@session.time_zone) IN (created, last_altered)
        THEN NULL ELSE starts END""";

  private static final String OTHERS =
      """
      SELECT concat(lower(table_type), ' ', table_name), '', '' FROM information_schema.tables
       WHERE table_schema = %1$s
         AND table_type NOT IN ('BASE TABLE', 'SYSTEM VERSIONED', 'VIEW', 'SYSTEM VIEW', 'SEQUENCE')
      UNION ALL SELECT concat(lower(routine_type), ' ', routine_name), '', ''
        FROM information_schema.routines WHERE routine_schema = %1$s
         AND routine_type NOT IN ('FUNCTION', 'PROCEDURE')
       ORDER BY 1""";
  private static final String GRANTS =
      """
      SELECT concat('table ', table_name, ' to ', grantee), table_name, '', group_concat(concat(
          privilege_type, CASE is_grantable WHEN 'YES' THEN ' (may grant it on)' ELSE '' END)
          ORDER BY privilege_type SEPARATOR ', ') AS rights
        FROM information_schema.table_privileges WHERE table_schema = %1$s GROUP BY 1, 2
      UNION ALL SELECT concat('database to ', grantee), '', '', group_concat(concat(privilege_type,
          CASE is_grantable WHEN 'YES' THEN ' (may grant it on)' ELSE '' END) ORDER BY privilege_type
          SEPARATOR ', ') FROM information_schema.schema_privileges WHERE table_schema = %1$s
       GROUP BY 1 ORDER BY 1""";
  private static final String SEQUENCES =
      """
      SELECT table_name, concat(CASE WHEN engine = 'InnoDB' THEN '' ELSE concat(' ENGINE = ', engine)
          END, CASE WHEN table_comment = '' THEN '' ELSE concat(' COMMENT = ', quote(table_comment))
          END) FROM information_schema.tables
       WHERE table_schema = %s AND table_type = 'SEQUENCE' ORDER BY table_name""";
  private static final String SEQUENCE =
      "SELECT %s, '', concat('CREATE SEQUENCE ', %s, ' START WITH ', start_value, ' MINVALUE ',"
          + " minimum_value, ' MAXVALUE ', maximum_value, ' INCREMENT BY ', increment, ' CACHE ',"
          + " cache_size, CASE WHEN cycle_option THEN ' CYCLE' ELSE ' NOCYCLE' END, %s) FROM %s";

  private static final int SEQUENCES_IN_ONE_QUERY = 200;

  private final Statement sql;
  private final String database;
  private final String here;

  /**
   * @param database its name as a text
   * @param here its own name, which the server writes in front of every table of a view
   */
  MariadbObjects(Statement sql, String database, String here) {
    this.sql = sql;
    this.database = database;
    this.here = here;
  }

  /** The objects, by kind and name. */
  List<SchemaObject> read() throws SQLException {
    List<SchemaObject> found = new ArrayList<>();
    UnaryOperator<String> own = text -> text.replace(here, "");
    sequences(found);
    CatalogRows.objects(found, Kind.VIEW, query(VIEWS), own);
    CatalogRows.objects(found, Kind.FUNCTION, query(ROUTINES, MODE, "FUNCTION"), own);
    CatalogRows.objects(found, Kind.PROCEDURE, query(ROUTINES, MODE, "PROCEDURE"), own);
    CatalogRows.objects(found, Kind.TRIGGER, query(TRIGGERS, MODE), own);
    CatalogRows.objects(found, Kind.EVENT, query(EVENTS, MODE, BEGINS), own);
    CatalogRows.objects(found, Kind.OTHER, query(OTHERS), own);
    CatalogRows.objects(found, Kind.GRANT, query(GRANTS), own);
    return found;
  }

  private ResultSet query(String text, String... more) throws SQLException {
    List<String> given = new ArrayList<>(List.of(database));
    given.addAll(List.of(more));
    return sql.executeQuery(text.formatted(given.toArray()));
  }

  /** The settings that change how a text is read, in one order. */
  private static String readAs(String mode) {
    return READ_AS.stream()
        .map(word -> "CASE WHEN find_in_set('" + word + "', " + mode + ") THEN '" + word + "' END")
        .collect(Collectors.joining(", ", "concat_ws(', ', ", ")"));
  }

  /** What a sequence is is in the sequence alone: one query for many of them. */
  private void sequences(List<SchemaObject> found) throws SQLException {
    List<String> parts = new ArrayList<>();
    try (ResultSet rows = query(SEQUENCES)) {
      while (rows.next()) {
        String quoted = MariadbEngine.QUOTING.name(rows.getString(1));
        parts.add(
            SEQUENCE.formatted(
                MariadbEngine.QUOTING.text(rows.getString(1)),
                MariadbEngine.QUOTING.text(quoted),
                MariadbEngine.QUOTING.text(rows.getString(2)),
                here + quoted));
      }
    }
    for (int from = 0; from < parts.size(); from += SEQUENCES_IN_ONE_QUERY) {
      int to = Math.min(parts.size(), from + SEQUENCES_IN_ONE_QUERY);
      String all = String.join(" UNION ALL ", parts.subList(from, to));
      CatalogRows.objects(found, Kind.SEQUENCE, sql.executeQuery(all), text -> text);
    }
  }
}
