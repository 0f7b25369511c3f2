package org.wornladder.server;

import io.zonky.test.db.postgres.embedded.EmbeddedPostgres;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Comparator;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Stream;

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
    static final Path DATA = folder();
    static EmbeddedPostgres server = start(0);

    static {
      Runtime.getRuntime().addShutdownHook(new Thread(Holder::end));
    }

    private static Path folder() {
      try {
        return Files.createTempDirectory("ladder-postgres").resolve("data");
      } catch (IOException e) {
        throw new UncheckedIOException(e);
      }
    }

    private static EmbeddedPostgres start(int port) {
      try {
        EmbeddedPostgres.Builder builder =
            EmbeddedPostgres.builder()
                .setDataDirectory(DATA)
                .setCleanDataDirectory(false)
                .setServerConfig("fsync", "off")
                .setServerConfig("max_wal_size", "128MB")
                .setServerConfig("max_connections", "120");
        return (port == 0 ? builder : builder.setPort(port)).start();
      } catch (IOException e) {
        throw new UncheckedIOException(e);
      }
    }

    private static void restart() {
      try {
        int port = server.getPort();
        server.close();
        server = start(port);
      } catch (IOException e) {
        throw new UncheckedIOException(e);
      }
    }

    private static void end() {
      try {
        server.close();
        try (Stream<Path> files = Files.walk(DATA.getParent())) {
          for (Path file : files.sorted(Comparator.reverseOrder()).toList()) {
            Files.delete(file);
          }
        }
      } catch (IOException e) {
        throw new UncheckedIOException(e);
      }
    }
  }

  /** Whether it is this process's own, so that it can be restarted. */
  public static boolean isOurs() {
    return NAMED == null;
  }

  /** Stops the server and starts it again, with the data that it has. */
  public static void restart() {
    Holder.restart();
  }

  private static String admin() {
    return NAMED != null ? NAMED : Holder.server.getJdbcUrl("postgres", "postgres");
  }

  /** Makes an empty database; returns its JDBC URL. */
  public static String newDatabase() {
    String name = "ladder_test_" + ProcessHandle.current().pid() + "_" + NUMBER.incrementAndGet();
    execute("CREATE DATABASE " + name);
    DroppedDatabases.note(() -> drop(name));
    return admin().replaceFirst("(//[^/]+/)[^?]*", "$1" + name);
  }

  /** Processes that a test has killed may still be known to the server. */
  private static void drop(String name) {
    execute("DROP DATABASE IF EXISTS " + name + " WITH (FORCE)");
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
