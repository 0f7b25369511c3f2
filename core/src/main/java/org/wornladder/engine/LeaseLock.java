package org.wornladder.engine;

import java.net.InetAddress;
import java.net.UnknownHostException;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.Optional;
import java.util.function.Consumer;
import org.wornladder.engine.LeaseStore.Lease;

/**
 * A lock for engines of which no lock is known that ends with its session: a row with its holder,
 * which a conditional update takes. The holder makes a number grow each second. Whoever has watched
 * it stand still takes the lock over, with a higher fence token; what the late holder writes to the
 * journal then is refused by the token that it had.
 */
public final class LeaseLock implements DatabaseLock {
  /** How long the number stands still until the holder counts as dead. */
  public static final Duration PATIENCE = Duration.ofSeconds(6);

  private static final Duration BEAT = Duration.ofSeconds(1);

  /** Of a class of SQLSTATE that the standard leaves to implementations. */
  private static final String TAKEN_OVER = "LT001";

  private final LeaseStore store;
  private final long fence;
  private final Heartbeat heart;

  private LeaseLock(LeaseStore store, long fence) {
    this.store = store;
    this.fence = fence;
    heart = new Heartbeat(this::beat, BEAT);
  }

  /**
   * Takes the lock.
   *
   * @param store on a connection of the lock's own; closed with the lock, or if it is not had
   * @param onWait receives who holds it, and that it is taken over
   * @throws org.wornladder.LockWaitException if it is not had in time
   */
  public static LeaseLock take(
      LeaseStore store, String where, Duration wait, Consumer<String> onWait) throws SQLException {
    try {
      Watch watch = new Watch(store, onWait);
      boolean longEnough = wait.compareTo(PATIENCE) > 0 || !watch.isSilent();
      return LockPolling.take(
          watch::attempt,
          watch::holder,
          () -> "another process is changing this database: " + watch.holder(),
          where,
          longEnough ? wait : PATIENCE.plusSeconds(1),
          onWait);
    } catch (SQLException | RuntimeException e) {
      store.close();
      throw e;
    }
  }

  /** Watches the row of a holder. */
  private static final class Watch {
    private final LeaseStore store;
    private final Consumer<String> onWait;
    private Optional<Lease> seen = Optional.empty();
    private long since;

    Watch(LeaseStore store, Consumer<String> onWait) {
      this.store = store;
      this.onWait = onWait;
    }

    /** Whether the number has not grown between two beats. */
    boolean isSilent() throws SQLException {
      Lease first = store.read();
      if (first.isFree()) {
        return false;
      }
      try {
        Thread.sleep(2 * BEAT.toMillis());
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
        return false;
      }
      return store.read().equals(first);
    }

    Optional<LeaseLock> attempt() throws SQLException {
      Lease row = store.read();
      boolean dead = isDead(row);
      if (!row.isFree() && !dead || !store.take(row, name())) {
        return Optional.empty();
      }
      if (dead) {
        onWait.accept(
            row.holder() + ", which gives no sign of life any more: its lock is taken over");
      }
      return Optional.of(new LeaseLock(store, row.fence() + 1));
    }

    private boolean isDead(Lease row) {
      long now = System.nanoTime();
      if (row.isFree() || seen.isEmpty() || !seen.get().equals(row)) {
        seen = Optional.of(row);
        since = now;
        return false;
      }
      return now - since > PATIENCE.toNanos();
    }

    String holder() {
      return seen.map(Lease::holder).orElse("a process that is just ending");
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
      store.beat(fence);
    } catch (SQLException e) {
      // The next one may succeed; if none does, others take the lock over.
      return;
    }
  }

  /**
   * Sees that the lock is still this one's.
   *
   * @param by where the lease is kept, as the open transaction sees it
   * @throws SQLException of which {@link #isTakenOver} is true if it is not
   */
  public void fence(LeaseStore by) throws SQLException {
    if (!by.beat(fence)) {
      throw new SQLException("the lock was taken over by " + by.read().holder(), TAKEN_OVER);
    }
  }

  public static boolean isTakenOver(SQLException e) {
    return TAKEN_OVER.equals(e.getSQLState());
  }

  @Override
  public void close() {
    heart.close();
    try (store) {
      store.release(fence);
    } catch (SQLException e) {
      // Others take it over in time.
      return;
    }
  }
}
