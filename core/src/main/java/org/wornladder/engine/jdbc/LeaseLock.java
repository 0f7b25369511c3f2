package org.wornladder.engine.jdbc;

import java.net.InetAddress;
import java.net.UnknownHostException;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.Optional;
import java.util.function.Consumer;
import org.wornladder.engine.DatabaseLock;
import org.wornladder.engine.LockPolling;

/**
 * A lock for engines of which no lock is known that ends with its session: a row with its holder,
 * which a conditional update takes. The holder makes a number grow each second. Whoever has watched
 * it stand still takes the lock over, with a higher fence token; what the late holder writes to the
 * journal then is refused by the token that it had.
 */
final class LeaseLock implements DatabaseLock {
  /** How long the number stands still until the holder counts as dead. */
  static final Duration PATIENCE = Duration.ofSeconds(6);

  private static final Duration BEAT = Duration.ofSeconds(1);

  /** Of a class of SQLSTATE that the standard leaves to implementations. */
  private static final String TAKEN_OVER = "LT001";

  private final LeaseTable table;
  private final long fence;
  private final Heartbeat heart;

  private LeaseLock(LeaseTable table, long fence) {
    this.table = table;
    this.fence = fence;
    heart = new Heartbeat(this::beat, BEAT);
  }

  /** Opens a connection of the lock's own. */
  interface Opening {
    Connection open() throws SQLException;
  }

  /**
   * Takes the lock.
   *
   * @param onWait receives who holds it, and that it is taken over
   * @throws org.wornladder.LockWaitException if it is not had in time
   */
  static LeaseLock take(
      Opening opening,
      DriverCatalog catalog,
      DriverTraits traits,
      String where,
      Duration wait,
      Consumer<String> onWait)
      throws SQLException {
    Connection connection = opening.open();
    try {
      LeaseTable table = new LeaseTable(connection, catalog, traits);
      Watch watch = new Watch(table, onWait);
      boolean longEnough = wait.compareTo(PATIENCE) > 0 || !watch.isSilent();
      return LockPolling.take(
          watch::attempt,
          watch::holder,
          () -> "another process is changing this database: " + watch.holder(),
          where,
          longEnough ? wait : PATIENCE.plusSeconds(1),
          onWait);
    } catch (SQLException | RuntimeException e) {
      connection.close();
      throw e;
    }
  }

  /** Watches the row of a holder. */
  private static final class Watch {
    private final LeaseTable table;
    private final Consumer<String> onWait;
    private Optional<LeaseTable.Row> seen = Optional.empty();
    private long since;

    Watch(LeaseTable table, Consumer<String> onWait) {
      this.table = table;
      this.onWait = onWait;
    }

    /** Whether the number has not grown between two beats. */
    boolean isSilent() throws SQLException {
      LeaseTable.Row first = table.row();
      if (first.isFree()) {
        return false;
      }
      try {
        Thread.sleep(2 * BEAT.toMillis());
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
        return false;
      }
      return table.row().equals(first);
    }

    Optional<LeaseLock> attempt() throws SQLException {
      LeaseTable.Row row = table.row();
      boolean dead = isDead(row);
      if (!row.isFree() && !dead || !table.take(row, name())) {
        return Optional.empty();
      }
      if (dead) {
        onWait.accept(
            row.holder() + ", which gives no sign of life any more: its lock is taken over");
      }
      return Optional.of(new LeaseLock(table, row.fence() + 1));
    }

    private boolean isDead(LeaseTable.Row row) {
      long now = System.nanoTime();
      if (row.isFree() || seen.isEmpty() || !seen.get().equals(row)) {
        seen = Optional.of(row);
        since = now;
        return false;
      }
      return now - since > PATIENCE.toNanos();
    }

    String holder() {
      return seen.map(LeaseTable.Row::holder).orElse("a process that is just ending");
    }
  }

  private static String name() {
    return "process "
        + ProcessHandle.current().pid()
        + " on "
        + host()
        + ", since "
        + Instant.now().truncatedTo(ChronoUnit.SECONDS);
  }

  private static String host() {
    try {
      return InetAddress.getLocalHost().getHostName();
    } catch (UnknownHostException e) {
      // It has no name.
      return "an unnamed machine";
    }
  }

  private void beat() {
    try {
      table.beat(table.connection(), fence);
    } catch (SQLException e) {
      // The next one may succeed; if none does, others take the lock over.
      return;
    }
  }

  /**
   * Sees, in the transaction that is open, that the lock is still this one's.
   *
   * @throws SQLException of which {@link #isTakenOver} is true if it is not
   */
  void fence(Connection connection) throws SQLException {
    if (!table.beat(connection, fence)) {
      throw new SQLException(
          "the lock was taken over by "
              + new LeaseTable(connection, table.catalog(), table.traits()).row().holder(),
          TAKEN_OVER);
    }
  }

  static boolean isTakenOver(SQLException e) {
    return TAKEN_OVER.equals(e.getSQLState());
  }

  @Override
  public void close() {
    heart.close();
    try (Connection connection = table.connection()) {
      table.release(fence);
    } catch (SQLException e) {
      // Others take it over in time.
      return;
    }
  }
}
