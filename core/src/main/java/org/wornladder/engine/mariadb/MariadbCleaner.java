package org.wornladder.engine.mariadb;

import java.sql.SQLException;
import java.util.List;
import org.wornladder.engine.DatabaseCleaner;
import org.wornladder.engine.Session;

/** Takes everything out of a database, the database itself stays. */
final class MariadbCleaner {
  private static final String EVERYTHING =
      """
      SELECT concat(CASE table_type WHEN 'VIEW' THEN 'DROP VIEW `' WHEN 'SEQUENCE' THEN
          'DROP SEQUENCE `' ELSE 'DROP TABLE `' END, replace(table_name, '`', '``'), '`')
        FROM information_schema.tables WHERE table_schema = database()
      UNION ALL SELECT concat('DROP ', routine_type, ' `', replace(routine_name, '`', '``'), '`')
        FROM information_schema.routines WHERE routine_schema = database()
      UNION ALL SELECT concat('DROP EVENT `', replace(event_name, '`', '``'), '`')
        FROM information_schema.events WHERE event_schema = database()""";

  private MariadbCleaner() {}

  static void empty(Session session, List<String> last) throws SQLException {
    DatabaseCleaner emptying = new DatabaseCleaner(session);
    session.change("SET foreign_key_checks = 0");
    emptying.run(
        emptying.list(EVERYTHING), last.stream().map(MariadbEngine.QUOTING::name).toList());
    session.change("SET foreign_key_checks = 1");
  }
}
