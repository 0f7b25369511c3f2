package org.wornladder.server;

import io.zonky.test.db.postgres.embedded.EmbeddedPostgres;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.concurrent.atomic.AtomicInteger;

/**
 * A PostgreSQL server for the tests: the one that {@code LADDER_TEST_POSTGRES} names (a JDBC URL of
 * a user who may make databases), or one that is started for this process and stopped with it.
 */
public final class PostgresServer {
  private static final String NAMED = System.getenv("LADDER_TEST_POSTGRES");
  private static final AtomicInteger NUMBER = new AtomicInteger();

  private PostgresServer() {}

  /** Started when it is first asked for. */
  private static final class Holder {
    static final EmbeddedPostgres SERVER = start();

    private static EmbeddedPostgres start() {
      try {
        EmbeddedPostgres server =
            EmbeddedPostgres.builder()
                .setServerConfig("fsync", "off")
                .setServerConfig("max_connections", "120")
                .start();
        Runtime.getRuntime().addShutdownHook(new Thread(() -> close(server)));
        return server;
      } catch (IOException e) {
        throw new UncheckedIOException(e);
      }
    }

    private static void close(EmbeddedPostgres server) {
      try {
        server.close();
      } catch (IOException e) {
        throw new UncheckedIOException(e);
      }
    }
  }

  private static String admin() {
    return NAMED != null ? NAMED : Holder.SERVER.getJdbcUrl("postgres", "postgres");
  }

  /** Makes an empty database; returns its JDBC URL. */
  public static String newDatabase() {
    String name = "ladder_test_" + ProcessHandle.current().pid() + "_" + NUMBER.incrementAndGet();
    execute("CREATE DATABASE " + name);
    return admin().replaceFirst("(//[^/]+/)[^?]*", "$1" + name);
  }

  /** Runs a statement as the server's owner. */
  public static void execute(String sql) {
    try (Connection connection = DriverManager.getConnection(admin());
        Statement statement = connection.createStatement()) {
      statement.execute(sql);
    } catch (SQLException e) {
      throw new IllegalStateException(e);
    }
  }
}
