package org.wornladder.server;

import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.wornladder.engine.Ability;
import org.wornladder.engine.Engine;
import org.wornladder.engine.Engines;

/** An empty database of one engine, for one test. */
public record TestDatabase(Kind kind, String url) {
  /** The engines that every test of behaviour runs on. */
  public enum Kind {
    SQLITE,
    POSTGRES,
    MARIADB,
    H2
  }

  /** A new one; files stand in the folder. */
  public static TestDatabase make(Kind kind, Path folder) {
    return new TestDatabase(
        kind,
        switch (kind) {
          case SQLITE -> "jdbc:sqlite:" + folder.resolve("dev.db");
          case POSTGRES -> PostgresServer.newDatabase();
          case MARIADB -> MariadbServer.newDatabase();
          case H2 -> "jdbc:h2:" + folder.resolve("dev");
        });
  }

  /** The port of its server. */
  public int port() {
    return Integer.parseInt(url.replaceFirst(".*//[^/:]+:(\\d+)/.*", "$1"));
  }

  /** The same database by way of another port. */
  public String urlAt(int port) {
    return url.replaceFirst("(//[^/:]+:)\\d+/", "$1" + port + "/");
  }

  public Engine engine() {
    return Engines.forUrl(url).orElseThrow();
  }

  public boolean can(Ability ability) {
    return engine().abilities().contains(ability);
  }

  public Connection connect() throws SQLException {
    return DriverManager.getConnection(url);
  }

  public void execute(String... statements) {
    try (Connection connection = connect();
        Statement sql = connection.createStatement()) {
      for (String statement : statements) {
        sql.execute(statement);
      }
    } catch (SQLException e) {
      throw new IllegalStateException(e);
    }
  }

  /** The first column of a query. */
  public List<String> query(String query) {
    List<String> values = new ArrayList<>();
    try (Connection connection = connect();
        Statement sql = connection.createStatement();
        ResultSet rows = sql.executeQuery(query)) {
      while (rows.next()) {
        values.add(Optional.ofNullable(rows.getString(1)).orElse("NULL"));
      }
      return values;
    } catch (SQLException e) {
      throw new IllegalStateException(e);
    }
  }

  /** What the journal says happened, entry by entry. */
  public List<String> events() {
    String journal = engine().quoting().name("ladder_journal");
    return query("SELECT event FROM " + journal + " ORDER BY number");
  }

  @Override
  public String toString() {
    return kind.name();
  }
}
