package org.wornladder.engine.mariadb;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.wornladder.engine.CatalogRows;
import org.wornladder.engine.Fault;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.DefinedObject;
import org.wornladder.schema.Facts;
import org.wornladder.schema.Kind;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.Right;
import org.wornladder.schema.Sequence;
import org.wornladder.schema.Trigger;

/** Reads what is no table, a query a kind (MariaDB documentation, "Information Schema Tables"). */
final class MariadbObjects {
  /**
   * The settings of the session in which an object was made, which its statements run under. That
   * blanks are ignored is none of them: some drivers ask for it, other clients do not.
   */
  private static final String MADE_UNDER =
      "coalesce(nullif(trim(BOTH ',' FROM replace(concat(',', %1$ssql_mode, ','),"
          + " ',IGNORE_SPACE,', ',')), ''), '"
          + MariadbSettings.PLAIN
          + "') AS `sql mode`, concat(%1$scharacter_set_client, ' ', %1$scollation_connection)"
          + " AS `character sets`";

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
          %2$s
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
          quote(r.routine_comment), ' ') END, r.routine_definition), %2$s
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
          quote(event_comment)) END, ' DO ', event_definition), %2$s,
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
      SELECT table_name, grantee, group_concat(concat(privilege_type, CASE is_grantable
          WHEN 'YES' THEN ' (may grant it on)' ELSE '' END) ORDER BY privilege_type SEPARATOR ', ')
        FROM information_schema.table_privileges WHERE table_schema = %1$s GROUP BY 1, 2
      UNION ALL SELECT '', grantee, group_concat(concat(privilege_type, CASE is_grantable
          WHEN 'YES' THEN ' (may grant it on)' ELSE '' END) ORDER BY privilege_type SEPARATOR ', ')
        FROM information_schema.schema_privileges WHERE table_schema = %1$s
       GROUP BY 2 ORDER BY 1, 2""";
  private static final String SEQUENCES =
      """
      SELECT table_name, CASE WHEN engine <> 'InnoDB' THEN engine END, nullif(table_comment, '')
        FROM information_schema.tables
       WHERE table_schema = %s AND table_type = 'SEQUENCE' ORDER BY table_name""";
  private static final String SEQUENCE =
      "SELECT %s, start_value AS start, minimum_value AS minimum, maximum_value AS maximum,"
          + " increment AS increment, cache_size AS cache, CASE WHEN cycle_option THEN 'yes' END AS"
          + " cycle, %s AS engine, %s AS comment FROM %s";

  private static final int SEQUENCES_IN_ONE_QUERY = 200;

  private final Statement sql;
  private final String database;
  private final String here;
  private final MariadbServer server;

  /**
   * @param database its name as a text
   * @param here its own name, which the server writes in front of every table of a view
   */
  MariadbObjects(Statement sql, String database, String here, MariadbServer server) {
    this.sql = sql;
    this.database = database;
    this.here = here;
    this.server = server;
  }

  /** The objects, by kind and name. */
  List<DatabaseObject> read() throws SQLException {
    List<DatabaseObject> found = new ArrayList<>();
    sequences(found);
    views(found);
    defined(found, Kind.FUNCTION, query(ROUTINES, MADE_UNDER.formatted("r."), "FUNCTION"));
    defined(found, Kind.PROCEDURE, query(ROUTINES, MADE_UNDER.formatted("r."), "PROCEDURE"));
    triggers(found);
    defined(found, Kind.EVENT, query(EVENTS, MADE_UNDER.formatted(""), BEGINS));
    defined(found, Kind.OTHER, query(OTHERS));
    CatalogRows.objects(found, query(GRANTS), 3, MariadbObjects::grant);
    return found;
  }

  private void defined(List<DatabaseObject> found, Kind kind, ResultSet rows) throws SQLException {
    CatalogRows.objects(
        found,
        rows,
        3,
        row ->
            DefinedObject.of(
                ObjectId.of(kind, row.text(0)),
                row.with(Facts.DEFINITION, own(row.definition(2))),
                List.of(),
                List.of()));
  }

  private void views(List<DatabaseObject> found) throws SQLException {
    if (!server.isMysql()) {
      defined(found, Kind.VIEW, query(VIEWS));
      return;
    }
    List<DatabaseObject> views = new ArrayList<>();
    defined(views, Kind.VIEW, query(MysqlCatalog.VIEWS));
    for (DatabaseObject view : views) {
      Optional<String> algorithm = algorithm(view.id());
      found.add(
          algorithm.isEmpty()
              ? view
              : view.map(
                  text ->
                      text.replaceFirst(
                          "^CREATE ", "CREATE ALGORITHM = " + algorithm.get() + " ")));
    }
  }

  /** The algorithm of a view, as far as the user may see its statement. */
  private Optional<String> algorithm(ObjectId view) throws SQLException {
    String show = "SHOW CREATE VIEW " + here + MariadbEngine.QUOTING.name(view.name());
    try (ResultSet row = sql.executeQuery(show)) {
      return row.next() ? MysqlCatalog.algorithm(row.getString(2)) : Optional.empty();
    } catch (SQLException e) {
      if (MariadbFaults.of(e).kind() == Fault.Kind.DENIED) {
        return Optional.empty();
      }
      throw e;
    }
  }

  private void triggers(List<DatabaseObject> found) throws SQLException {
    CatalogRows.objects(
        found,
        query(TRIGGERS, MADE_UNDER.formatted("")),
        3,
        row ->
            new Trigger(
                ObjectId.of(Kind.TRIGGER, row.text(0)),
                ObjectId.of(Kind.TABLE, row.text(1)),
                own(row.definition(2)),
                row.facts(),
                List.of()));
  }

  private static DatabaseObject grant(CatalogRows.Row row) {
    String table = row.text(0);
    return table.isEmpty()
        ? Right.grant(ObjectId.of(Kind.SCHEMA, ""), "database", row.text(1), row.text(2))
        : Right.grant(ObjectId.of(Kind.TABLE, table), "table " + table, row.text(1), row.text(2));
  }

  private String own(String text) {
    return text.replace(here, "");
  }

  private ResultSet query(String text, String... more) throws SQLException {
    List<String> given = new ArrayList<>(List.of(database));
    given.addAll(List.of(more));
    return sql.executeQuery(text.formatted(given.toArray()));
  }

  /** What a sequence is is in the sequence alone: one query for many of them. */
  private void sequences(List<DatabaseObject> found) throws SQLException {
    List<String> parts = new ArrayList<>();
    try (ResultSet rows = query(SEQUENCES)) {
      while (rows.next()) {
        parts.add(
            SEQUENCE.formatted(
                text(rows.getString(1)),
                text(rows.getString(2)),
                text(rows.getString(3)),
                here + MariadbEngine.QUOTING.name(rows.getString(1))));
      }
    }
    for (int from = 0; from < parts.size(); from += SEQUENCES_IN_ONE_QUERY) {
      int to = Math.min(parts.size(), from + SEQUENCES_IN_ONE_QUERY);
      String all = String.join(" UNION ALL ", parts.subList(from, to));
      CatalogRows.objects(found, sql.executeQuery(all), 1, MariadbObjects::sequence);
    }
  }

  private static String text(String value) {
    return value == null ? "NULL" : MariadbEngine.QUOTING.text(value);
  }

  private static DatabaseObject sequence(CatalogRows.Row row) {
    Map<String, String> more = new HashMap<>();
    more.put(MariadbDdl.ENGINE, row.take(MariadbDdl.ENGINE));
    more.put(Facts.COMMENT, row.take(Facts.COMMENT));
    return new Sequence(
        ObjectId.of(Kind.SEQUENCE, row.text(0)),
        row.facts(),
        Optional.empty(),
        "",
        more,
        List.of());
  }
}
