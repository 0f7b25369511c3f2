package org.wornladder.engine.jdbc;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Optional;
import org.wornladder.engine.LeaseStore;

/**
 * The table with the one row that a lock is on. It also says what a rollback undoes here, which is
 * tried before the table is made.
 */
record LeaseTable(Connection connection, DriverCatalog catalog, DriverTraits traits)
    implements LeaseStore {
  static final String NAME = "ladder_lock";

  /** The column that says what a rollback undoes. */
  private static final String UNDONE = "rollback_undoes";

  private static final int ATTEMPTS = 20;
  private static final long PAUSE_MS = 100;

  private String column(String name) {
    return traits.quoting().name(name);
  }

  /** The table's name as statements write it. */
  String name() {
    return traits.quoting().name(NAME);
  }

  boolean exists() throws SQLException {
    return catalog.isPlainTable(NAME);
  }

  /** What was found out when the table was made; empty if it is not there. */
  Optional<Transactions> transactions() throws SQLException {
    if (!exists()) {
      return Optional.empty();
    }
    try (Statement sql = connection.createStatement();
        ResultSet row = sql.executeQuery("SELECT " + column(UNDONE) + " FROM " + name())) {
      return row.next() ? Optional.of(recorded(row.getString(1))) : Optional.empty();
    }
  }

  private static Transactions recorded(String word) throws SQLException {
    for (Transactions one : Transactions.values()) {
      if (one.name().equals(word)) {
        return one;
      }
    }
    throw new SQLException(
        "the table " + NAME + " holds '" + word + "', which this version does not know", "22000");
  }

  /** Makes the table with its row, unless another process does in the same moment. */
  Transactions make() throws SQLException {
    for (int attempt = 1; ; attempt++) {
      try {
        Transactions found = new TransactionTrial(connection, catalog, traits).run();
        if (!exists()) {
          create();
        }
        insert(found);
        return found;
      } catch (SQLException e) {
        Optional<Transactions> others = transactions();
        if (others.isPresent()) {
          return others.get();
        }
        if (attempt == ATTEMPTS) {
          throw e;
        }
        pause();
      }
    }
  }

  private static void pause() {
    try {
      Thread.sleep(PAUSE_MS);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }

  private void create() throws SQLException {
    String number = traits.storage().number() + " NOT NULL";
    String text = traits.storage().text();
    execute(
        "CREATE TABLE "
            + name()
            + " ("
            + column("id")
            + " "
            + number
            + " PRIMARY KEY, "
            + column("holder")
            + " "
            + text
            + ", "
            + column("fence")
            + " "
            + number
            + ", "
            + column("beat")
            + " "
            + number
            + ", "
            + column(UNDONE)
            + " "
            + text
            + ", "
            + column("taken_over_from")
            + " "
            + text
            + ")"
            + traits.storage().options());
  }

  private void insert(Transactions found) throws SQLException {
    execute(
        "INSERT INTO "
            + name()
            + " ("
            + String.join(
                ", ",
                column("id"),
                column("holder"),
                column("fence"),
                column("beat"),
                column(UNDONE),
                column("taken_over_from"))
            + ") VALUES (1, '', 0, 0, '"
            + found.name()
            + "', '')");
  }

  private void execute(String statement) throws SQLException {
    try (Statement sql = connection.createStatement()) {
      sql.executeUpdate(statement);
    }
  }

  @Override
  public Lease read() throws SQLException {
    String query =
        "SELECT "
            + String.join(", ", column("holder"), column("fence"), column("beat"))
            + " FROM "
            + name()
            + " WHERE "
            + column("id")
            + " = 1";
    try (Statement sql = connection.createStatement();
        ResultSet row = sql.executeQuery(query)) {
      if (!row.next()) {
        throw new SQLException("the row of " + NAME + " is missing", "02000");
      }
      return new Lease(
          Optional.ofNullable(row.getString(1)).orElse(""), row.getLong(2), row.getLong(3));
    }
  }

  /**
   * Changes the row if it is as it was.
   *
   * @param values what is set, as statements write it
   * @return whether it was
   */
  private boolean changeIf(String values, long fence) throws SQLException {
    String update =
        "UPDATE %s SET %s WHERE %s = 1 AND %s = %d"
            .formatted(name(), values, column("id"), column("fence"), fence);
    try (Statement sql = connection.createStatement()) {
      return sql.executeUpdate(update) == 1;
    }
  }

  @Override
  public boolean take(Lease was, String holder) throws SQLException {
    String values =
        column("holder")
            + " = "
            + traits.quoting().text(holder)
            + ", "
            + column("fence")
            + " = "
            + (was.fence() + 1)
            + ", "
            + column("beat")
            + " = 0, "
            + column("taken_over_from")
            + " = "
            + traits.quoting().text(was.holder());
    return changeIf(values, was.fence());
  }

  @Override
  public boolean beat(long fence) throws SQLException {
    return changeIf(column("beat") + " = " + column("beat") + " + 1", fence);
  }

  @Override
  public void release(long fence) throws SQLException {
    changeIf(column("holder") + " = ''", fence);
  }

  /** Closes the connection. */
  @Override
  public void close() throws SQLException {
    connection.close();
  }
}
