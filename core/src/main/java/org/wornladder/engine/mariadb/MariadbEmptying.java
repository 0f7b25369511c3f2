package org.wornladder.engine.mariadb;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import org.wornladder.engine.Session;
import org.wornladder.sql.Place;
import org.wornladder.sql.Statement;

/** Takes everything out of a database, the database itself stays. */
final class MariadbEmptying {
  private static final String EVERYTHING =
      """
      SELECT concat(CASE table_type WHEN 'VIEW' THEN 'DROP VIEW `' WHEN 'SEQUENCE' THEN
          'DROP SEQUENCE `' ELSE 'DROP TABLE `' END, replace(table_name, '`', '``'), '`')
        FROM information_schema.tables WHERE table_schema = database()
      UNION ALL SELECT concat('DROP ', routine_type, ' `', replace(routine_name, '`', '``'), '`')
        FROM information_schema.routines WHERE routine_schema = database()
      UNION ALL SELECT concat('DROP EVENT `', replace(event_name, '`', '``'), '`')
        FROM information_schema.events WHERE event_schema = database()""";

  private MariadbEmptying() {}

  static void empty(Session session) throws SQLException {
    List<String> drops = new ArrayList<>();
    drops.add("SET foreign_key_checks = 0");
    try (java.sql.Statement sql = session.connection().createStatement();
        ResultSet rows = sql.executeQuery(EVERYTHING)) {
      while (rows.next()) {
        drops.add(rows.getString(1));
      }
    }
    drops.add("SET foreign_key_checks = 1");
    for (String drop : drops) {
      session.execute(new Statement(drop, Place.of("scratch"), ""));
    }
  }
}
