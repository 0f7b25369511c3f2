package org.wornladder.engine.sqlite;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.channels.OverlappingFileLockException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.time.Duration;
import java.util.Optional;
import java.util.function.Consumer;
import org.wornladder.engine.DatabaseLock;
import org.wornladder.engine.LockWaitException;
import org.wornladder.engine.UnreachableException;

/**
 * A lock of the operating system on a file beside the database. It goes when its process ends,
 * however that ends. The database file itself is left alone: to close it here would drop the locks
 * that SQLite holds on it (SQLite documentation, "How To Corrupt An SQLite Database File", 2.2).
 */
final class SqliteLock implements DatabaseLock {
  private static final String SUFFIX = "-ladder-lock";
  private static final long PAUSE_MS = 50;

  private final Path path;
  private final FileChannel channel;

  private SqliteLock(Path path, FileChannel channel) {
    this.path = path;
    this.channel = channel;
  }

  static DatabaseLock take(
      Path database, String where, String holder, Duration wait, Consumer<String> onWait) {
    Path path = database.resolveSibling(database.getFileName() + SUFFIX);
    long end = System.nanoTime() + wait.toNanos();
    boolean told = false;
    while (true) {
      try {
        Optional<DatabaseLock> lock = attempt(path, holder);
        if (lock.isPresent()) {
          return lock.get();
        }
        if (!told) {
          told = true;
          onWait.accept(holderIn(path));
        }
        if (System.nanoTime() >= end) {
          throw new LockWaitException(
              "another process is changing this database: " + holderIn(path),
              where,
              "wait for it, or give it longer with --lock-wait SECONDS");
        }
        Thread.sleep(PAUSE_MS);
      } catch (IOException e) {
        throw new UnreachableException(
            "the lock file cannot be written: " + e.getMessage(),
            where,
            "see that the database's folder can be written",
            e);
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
        throw new LockWaitException("interrupted while waiting for the lock", where, "");
      }
    }
  }

  private static Optional<DatabaseLock> attempt(Path path, String holder) throws IOException {
    FileChannel channel =
        FileChannel.open(path, StandardOpenOption.CREATE, StandardOpenOption.WRITE);
    boolean taken = false;
    try {
      FileLock lock = channel.tryLock();
      if (lock != null) {
        channel.truncate(0);
        channel.write(ByteBuffer.wrap(holder.getBytes(StandardCharsets.UTF_8)));
        // The one before may have taken the file away between our opening and locking it.
        taken = isSameFile(path, holder);
      }
      if (!taken) {
        return Optional.empty();
      }
      return Optional.of(new SqliteLock(path, channel));
    } catch (OverlappingFileLockException e) {
      return Optional.empty();
    } finally {
      if (!taken) {
        channel.close();
      }
    }
  }

  private static boolean isSameFile(Path path, String mark) throws IOException {
    try {
      return Files.readString(path).equals(mark);
    } catch (NoSuchFileException e) {
      return false;
    }
  }

  private static String holderIn(Path path) {
    try {
      String holder = Files.readString(path).strip();
      return holder.isEmpty() ? "a process that is just starting" : holder;
    } catch (IOException e) {
      return "a process that has just ended";
    }
  }

  @Override
  public void close() {
    try (channel) {
      if (channel.isOpen()) {
        Files.deleteIfExists(path);
      }
    } catch (IOException e) {
      // The lock goes with the channel all the same; only the empty file stays.
      return;
    }
  }
}
