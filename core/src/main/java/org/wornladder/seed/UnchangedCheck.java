package org.wornladder.seed;

import java.sql.SQLException;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
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
    if (!seed.looks().isEmpty() || !seed.stage().optional().isEmpty()) {
      return Optional.empty();
    }
    Map<Digest, Digest> file = new HashMap<>();
    boolean comparable = read(rows, file);
    long count = file.size();
    return comparable && count > 0 && holds(file, count + MORE_ROWS)
        ? Optional.of(new SeedCounts(0, 0, 0, count))
        : Optional.empty();
  }

  /**
   * Reads the file's rows, by the digests of their keys.
   *
   * @return false if a key occurs twice, or there are too many rows for the memory
   */
  private boolean read(SeedRows rows, Map<Digest, Digest> file) {
    long most = Runtime.getRuntime().maxMemory() / BYTES_PER_ROW;
    RowHasher hasher = staging.hasher(seed.stage());
    boolean[] comparable = {true};
    rows.<RuntimeException>each(
        row -> {
          if (comparable[0]) {
            hasher.row(row);
            comparable[0] = file.put(hasher.key(), hasher.all()) == null && file.size() < most;
          }
        });
    return comparable[0];
  }

  /**
   * Whether the table holds every row of the file, and no row that would be changed or deleted.
   *
   * @param file is emptied of the rows that are found
   * @param most how many rows of the table to read at most
   */
  private boolean holds(Map<Digest, Digest> file, long most) throws SQLException {
    RowHasher hasher = staging.hasher(seed.stage());
    boolean[] different = {false};
    long[] count = {0};
    staging.hash(
        seed.stage(),
        most,
        hasher,
        () -> {
          count[0]++;
          Digest expected = file.remove(hasher.key());
          different[0] |=
              expected == null
                  ? seed.seed().delete()
                  : seed.seed().update() && !expected.equals(hasher.all());
        });
    boolean allRead = count[0] < most || !seed.seed().delete();
    return allRead && !different[0] && file.isEmpty();
  }
}
