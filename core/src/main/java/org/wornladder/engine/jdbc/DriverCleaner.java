package org.wornladder.engine.jdbc;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import org.wornladder.sql.Quoting;

/** Takes all tables and views out of the schema that a connection is in. */
record DriverCleaner(DriverSession session) {
  /**
   * @param last tables that go last
   * @throws SQLException if something cannot be dropped, and nothing else is left that can
   */
  void empty(List<String> last) throws SQLException {
    DriverCatalog catalog = session.catalog();
    Quoting quoting = session.traits().quoting();
    List<String> drops = new ArrayList<>();
    catalog.names(true).forEach(view -> drops.add("DROP VIEW " + quoting.name(view)));
    for (String table : catalog.names(false)) {
      String name = quoting.name(table);
      catalog.foreignKeys(
          table,
          row -> {
            if (row.getInt("KEY_SEQ") == 1 && row.getString("FK_NAME") != null) {
              drops.add(
                  "ALTER TABLE "
                      + name
                      + " DROP CONSTRAINT "
                      + quoting.name(row.getString("FK_NAME")));
            }
          });
    }
    whileSomethingGoes(drops);
    List<String> tables = new ArrayList<>();
    for (String table : catalog.names(false)) {
      if (!last.contains(table) && !table.equals(LeaseTable.NAME)) {
        tables.add("DROP TABLE " + quoting.name(table));
      }
    }
    whileSomethingGoes(tables);
    for (String table : last) {
      if (catalog.table(table).isPresent()) {
        session.change("DROP TABLE " + quoting.name(table));
      }
    }
  }

  /** What depends on what is not known: whatever cannot go yet is tried again after the others. */
  private void whileSomethingGoes(List<String> statements) throws SQLException {
    List<String> left = statements;
    while (!left.isEmpty()) {
      List<String> later = new ArrayList<>();
      List<SQLException> failures = new ArrayList<>();
      for (String statement : left) {
        try {
          session.change(statement);
        } catch (SQLException e) {
          later.add(statement);
          failures.add(e);
        }
      }
      if (later.size() == left.size()) {
        throw failures.get(0);
      }
      left = later;
    }
  }
}
