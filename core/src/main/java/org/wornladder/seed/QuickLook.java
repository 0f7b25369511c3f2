package org.wornladder.seed;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.wornladder.engine.Meanwhile;
import org.wornladder.engine.Staging;
import org.wornladder.project.RowHasher;
import org.wornladder.project.SeedRows;

/**
 * Finds out by reading alone whether a table is already what a file says. It goes by the texts of
 * the values: where one is written in two ways it cannot tell, and the database is asked. The file
 * is read while the table is.
 */
final class QuickLook {
  /** How many more rows than the file can have are read of a table. */
  private static final long MORE_ROWS = 10_000;

  /** What a row takes of the memory here, with room to grow; in bytes. */
  private static final long BYTES_A_ROW = 72;

  private static final int BLOCK = 1 << 14;

  private final Staging staging;
  private final Bound seed;
  private final RowHasher file;
  private final RowHasher table;
  private final RowHashes hashes = new RowHashes();

  QuickLook(Staging staging, Bound seed) {
    this.staging = staging;
    this.seed = seed;
    file = staging.hasher(seed.stage());
    table = staging.hasher(seed.stage());
  }

  /**
   * The counts, if nothing is to be changed; empty if that cannot be said.
   *
   * @param size how many bytes the file has; 0 if its rows are made
   */
  Optional<SeedCounts> counts(SeedRows rows, long size) throws SQLException {
    long most = Runtime.getRuntime().maxMemory() / BYTES_A_ROW;
    // A row has at least a byte for each column: a comma or the end of its line.
    long likely = size == 0 ? most : Math.min(most, size / file.columns());
    if (!seed.looks().isEmpty()) {
      return Optional.empty();
    }
    try (Meanwhile<Boolean> reading = Meanwhile.begin(() -> read(rows, most))) {
      List<long[]> found = new ArrayList<>();
      table(found, likely + MORE_ROWS);
      // It will be wanted, and the file's thread is still busy.
      rows.fingerprint();
      return reading.get() ? compared(found) : Optional.empty();
    }
  }

  /** Reads the file; false if a key stands twice, or there are too many rows for the memory. */
  private boolean read(SeedRows rows, long most) {
    boolean[] good = {true};
    rows.hash(
        file,
        () -> {
          if (good[0]) {
            good[0] = hashes.add(file.key(), file.rest()) && hashes.size() < most;
          }
        });
    return good[0] && hashes.size() > 0;
  }

  /** Takes the table's rows as pairs of hashes, in blocks that end with zeros. */
  private void table(List<long[]> found, long most) throws SQLException {
    int[] used = {BLOCK};
    staging.hash(
        seed.stage(),
        most,
        table,
        () -> {
          if (used[0] == BLOCK) {
            found.add(new long[BLOCK]);
            used[0] = 0;
          }
          long[] block = found.get(found.size() - 1);
          block[used[0]++] = table.key();
          block[used[0]++] = table.rest();
        });
  }

  private Optional<SeedCounts> compared(List<long[]> found) {
    long same = 0;
    for (long[] block : found) {
      for (int i = 0; i < BLOCK && block[i] != 0; i += 2) {
        long rest = hashes.rest(block[i]);
        boolean here = rest != 0;
        if (here && (rest == block[i + 1] || !seed.seed().update())) {
          same++;
        } else if (here || seed.seed().delete()) {
          return Optional.empty();
        }
      }
    }
    return same == hashes.size() ? Optional.of(new SeedCounts(0, 0, 0, same)) : Optional.empty();
  }
}
