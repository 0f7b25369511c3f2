package org.wornladder.engine.sqlite;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import org.wornladder.engine.DatabaseCleaner;
import org.wornladder.engine.Session;

/** Takes everything out of a SQLite database, in one transaction. */
final class SqliteCleaner {
  /** What goes with its table is not named; tables of a virtual one go with it. */
  private static final String DROPS =
      """
      SELECT 'DROP ' || upper(type) || ' IF EXISTS "' || replace(name, '"', '""') || '"'
      FROM sqlite_schema WHERE type IN ('view', 'table') AND name NOT LIKE 'sqlite\\_%' ESCAPE '\\'
      ORDER BY type = 'table', sql LIKE 'CREATE VIRTUAL%' DESC""";

  private SqliteCleaner() {}

  static void empty(Session session, List<String> last) throws SQLException {
    DatabaseCleaner emptying = new DatabaseCleaner(session);
    List<String> own = new ArrayList<>();
    last.forEach(table -> own.add(SqliteEngine.QUOTING.name(table)));
    session.change("PRAGMA foreign_keys = OFF");
    session.begin();
    emptying.run(emptying.list(DROPS), own);
    session.commit();
    session.reset();
  }
}
