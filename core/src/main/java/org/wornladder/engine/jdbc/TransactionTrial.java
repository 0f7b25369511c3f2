package org.wornladder.engine.jdbc;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;

/**
 * Finds out what a rollback undoes, by a table of a name that no other process has: what a driver
 * claims of it is not always so.
 */
record TransactionTrial(Connection connection, DriverCatalog catalog, DriverTraits traits) {
  Transactions run() throws SQLException {
    if (!traits.transactions()) {
      return Transactions.NOTHING;
    }
    String name = "ladder_trial_" + ProcessHandle.current().pid() + "_" + System.nanoTime();
    if (traits.structureInTransactions() && isCreationUndone(name)) {
      return Transactions.ROWS_AND_STRUCTURE;
    }
    if (!catalog.isPlainTable(name)) {
      create(name);
    }
    boolean undone = isInsertionUndone(name);
    execute("DROP TABLE " + quoted(name));
    return undone ? Transactions.ROWS : Transactions.NOTHING;
  }

  private boolean isCreationUndone(String name) throws SQLException {
    rolledBack(() -> create(name));
    return !catalog.isPlainTable(name);
  }

  private boolean isInsertionUndone(String name) throws SQLException {
    rolledBack(() -> execute("INSERT INTO " + quoted(name) + " (" + quoted("id") + ") VALUES (1)"));
    try (Statement sql = connection.createStatement();
        ResultSet row = sql.executeQuery("SELECT count(*) FROM " + quoted(name))) {
      row.next();
      return row.getLong(1) == 0;
    }
  }

  /** Some work. */
  private interface Work {
    void run() throws SQLException;
  }

  private void rolledBack(Work work) throws SQLException {
    connection.setAutoCommit(false);
    try {
      work.run();
      connection.rollback();
    } finally {
      connection.setAutoCommit(true);
    }
  }

  private String quoted(String name) {
    return traits.quoting().name(name);
  }

  private void create(String name) throws SQLException {
    execute(
        "CREATE TABLE "
            + quoted(name)
            + " ("
            + quoted("id")
            + " "
            + traits.storage().number()
            + " NOT NULL PRIMARY KEY, "
            + quoted("word")
            + " "
            + traits.storage().small()
            + ")");
  }

  private void execute(String statement) throws SQLException {
    try (Statement sql = connection.createStatement()) {
      sql.executeUpdate(statement);
    }
  }
}
