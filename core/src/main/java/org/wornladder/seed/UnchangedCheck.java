package org.wornladder.seed;

import java.sql.SQLException;
import java.util.HashSet;
import java.util.Optional;
import java.util.Set;
import org.wornladder.SeedCounts;
import org.wornladder.engine.Staging;
import org.wornladder.project.RowHasher;
import org.wornladder.project.RowHasher.Digest;
import org.wornladder.project.SeedRows;

/**
 * Finds out by reading alone whether a table already holds what a seed file says. It compares the
 * SHA-256 digests of the values' texts: where a value can be written in two ways it cannot say, and
 * the database is asked with a temporary table.
 */
final class UnchangedCheck {
  /** Rows of a table beyond those of the file that are read before giving up. */
  private static final long MORE_ROWS = 10_000;

  /** What a row of the file takes in memory here, with room to spare; in bytes. */
  private static final long BYTES_PER_ROW = 256;

  private final Staging staging;
  private final BoundSeed seed;

  UnchangedCheck(Staging staging, BoundSeed seed) {
    this.staging = staging;
    this.seed = seed;
  }

  /** The counts if nothing has to be changed; empty if that cannot be said. */
  Optional<SeedCounts> counts(SeedRows rows) throws SQLException {
    boolean comparable =
        seed.looks().isEmpty() && seed.stage().optional().isEmpty() && seed.isKeyUnique();
    if (!comparable) {
      return Optional.empty();
    }
    Set<Digest> file = new HashSet<>();
    boolean distinct = read(rows, file);
    long count = file.size();
    return distinct && count > 0 && holds(file, count + MORE_ROWS)
        ? Optional.of(new SeedCounts(0, 0, 0, count))
        : Optional.empty();
  }

  /** Where rows that are there stay as they are, it is enough that they are there. */
  private RowHasher hasher() {
    return staging.hasher(seed.stage(), !seed.seed().update());
  }

  /**
   * Reads the digests of the file's rows.
   *
   * @return false if one occurs twice, or there are too many rows for the memory
   */
  private boolean read(SeedRows rows, Set<Digest> file) {
    long most = Runtime.getRuntime().maxMemory() / BYTES_PER_ROW;
    RowHasher hasher = hasher();
    boolean[] comparable = {true};
    rows.<RuntimeException>each(
        row -> {
          if (comparable[0]) {
            hasher.row(row);
            comparable[0] = file.add(hasher.digest()) && file.size() < most;
          }
        });
    return comparable[0];
  }

  /**
   * Whether the table holds every row of the file, and no row that would be deleted. Its key is
   * unique, so a row that is found has no other of its key beside it.
   *
   * @param file is emptied of the rows that are found
   * @param most how many rows of the table to read at most
   */
  private boolean holds(Set<Digest> file, long most) throws SQLException {
    RowHasher hasher = hasher();
    long[] others = {0};
    staging.hash(
        seed.stage(),
        most,
        hasher,
        () -> {
          if (!file.remove(hasher.digest())) {
            others[0]++;
          }
        });
    return file.isEmpty() && (others[0] == 0 || !seed.seed().delete());
  }
}
