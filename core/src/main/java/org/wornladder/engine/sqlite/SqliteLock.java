package org.wornladder.engine.sqlite;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.sql.SQLException;
import java.time.Duration;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Consumer;
import org.wornladder.UnreachableException;
import org.wornladder.engine.DatabaseLock;
import org.wornladder.engine.LockPolling;

/**
 * A lock of the operating system on a file beside the database. It goes when its process ends,
 * however that ends; the file stays, since to delete it would let two take "the" lock.
 *
 * <p>Such locks belong to a process, and closing any handle on the file drops them. So the database
 * file itself is never opened here (SQLite documentation, "How To Corrupt An SQLite Database File",
 * 2.2), and a file that this process has locked is not opened a second time.
 */
final class SqliteLock implements DatabaseLock {
  private static final String SUFFIX = "-ladder-lock";

  private static final Set<Path> HELD_HERE = ConcurrentHashMap.newKeySet();

  private final Path path;
  private final FileChannel channel;

  private SqliteLock(Path path, FileChannel channel) {
    this.path = path;
    this.channel = channel;
  }

  static DatabaseLock take(
      Path database, String where, String holder, Duration wait, Consumer<String> onWait) {
    Path path = beside(database);
    try {
      return LockPolling.take(
          () -> attempt(path, holder), () -> holderIn(path), where, wait, onWait);
    } catch (SQLException e) {
      throw new UnreachableException(
          "the lock file cannot be written: " + e.getCause().getMessage(),
          where,
          "see that the database's folder can be written",
          e);
    }
  }

  /** One file, whichever way leads to the database. */
  private static Path beside(Path database) {
    Path real = real(database);
    return real.resolveSibling(real.getFileName() + SUFFIX);
  }

  private static Path real(Path database) {
    try {
      return database.toRealPath();
    } catch (IOException e) {
      // It is not there yet.
      Path absolute = database.toAbsolutePath();
      try {
        return absolute.getParent().toRealPath().resolve(absolute.getFileName());
      } catch (IOException none) {
        return absolute;
      }
    }
  }

  /** The holder of the lock; empty if it is not held. */
  static Optional<String> holder(Path database) throws SQLException {
    Path path = beside(database);
    if (HELD_HERE.contains(path)) {
      return Optional.of(holderIn(path));
    }
    if (!Files.isReadable(path)) {
      return Optional.empty();
    }
    // A shared lock, which needs no right to write.
    try (FileChannel channel = FileChannel.open(path, StandardOpenOption.READ);
        FileLock mine = channel.tryLock(0, Long.MAX_VALUE, true)) {
      return mine == null ? Optional.of(holderIn(path)) : Optional.empty();
    } catch (IOException e) {
      throw new SQLException(e);
    }
  }

  /** Wraps failures of the file for the polling. */
  private static Optional<DatabaseLock> attempt(Path path, String holder) throws SQLException {
    try {
      return tryLock(path, holder);
    } catch (IOException e) {
      throw new SQLException(e);
    }
  }

  private static Optional<DatabaseLock> tryLock(Path path, String holder) throws IOException {
    if (!HELD_HERE.add(path)) {
      return Optional.empty();
    }
    Optional<DatabaseLock> lock = Optional.empty();
    try {
      lock = lockOfProcess(path, holder);
      return lock;
    } finally {
      if (lock.isEmpty()) {
        HELD_HERE.remove(path);
      }
    }
  }

  private static Optional<DatabaseLock> lockOfProcess(Path path, String holder) throws IOException {
    FileChannel channel =
        FileChannel.open(path, StandardOpenOption.CREATE, StandardOpenOption.WRITE);
    boolean taken = false;
    try {
      if (channel.tryLock() == null) {
        return Optional.empty();
      }
      channel.truncate(0);
      channel.write(ByteBuffer.wrap(holder.getBytes(StandardCharsets.UTF_8)));
      taken = true;
      return Optional.of(new SqliteLock(path, channel));
    } finally {
      if (!taken) {
        channel.close();
      }
    }
  }

  private static String holderIn(Path path) throws SQLException {
    if (HELD_HERE.contains(path)) {
      return "this process";
    }
    String holder;
    try {
      holder = Files.readString(path).strip();
    } catch (IOException e) {
      throw new SQLException(e);
    }
    return holder.isEmpty() ? "a process that is just starting or ending" : holder;
  }

  @Override
  public void close() {
    try (channel) {
      if (channel.isOpen()) {
        channel.truncate(0);
      }
    } catch (IOException e) {
      // The lock goes with the channel all the same; only the holder's name stays behind.
      return;
    } finally {
      HELD_HERE.remove(path);
    }
  }
}
