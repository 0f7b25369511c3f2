package org.wornladder.cli.demo;

import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Properties;
import org.sqlite.JDBC;

/** The person in the example who works at the database itself, past the ladder. */
final class ManualChange {
  private ManualChange() {}

  /** Runs a statement in a database file. */
  static void at(Path file, String statement) {
    try (Connection connection = new JDBC().connect("jdbc:sqlite:" + file, new Properties());
        Statement sql = connection.createStatement()) {
      sql.execute(statement);
    } catch (SQLException e) {
      throw new IllegalStateException("the example's own statement failed", e);
    }
  }
}
