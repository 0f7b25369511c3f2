package org.wornladder.seed;

import java.sql.SQLException;
import java.util.Optional;
import org.wornladder.engine.Staging;
import org.wornladder.project.SeedRow;
import org.wornladder.project.SeedRows;
import org.wornladder.schema.Column;

/**
 * Finds out by reading alone whether a table is already what a file says. It goes by the texts of
 * the values: where one is written in two ways it cannot tell, and the database is asked.
 */
final class QuickLook {
  /** How many more rows than the file's are read of a table. */
  private static final long MORE_ROWS = 10_000;

  private final Staging staging;
  private final Bound seed;
  private final RowHashes hashes;
  private long same;

  /** Ends the reading of a table: it is not the same. */
  private static final class Differs extends SQLException {
    private static final long serialVersionUID = 1;

    @Override
    public synchronized Throwable fillInStackTrace() {
      return this;
    }
  }

  QuickLook(Staging staging, Bound seed) {
    this.staging = staging;
    this.seed = seed;
    boolean[] isKey = new boolean[seed.stage().columns().size()];
    for (int i = 0; i < isKey.length; i++) {
      isKey[i] = seed.key().contains(seed.stage().columns().get(i).name());
    }
    hashes = new RowHashes(isKey);
  }

  /** The counts, if nothing is to be changed; empty if that cannot be said. */
  Optional<SeedCounts> counts(SeedRows rows) throws SQLException {
    if (!seed.looks().isEmpty()) {
      return Optional.empty();
    }
    try {
      rows.<SQLException>each(
          row -> {
            if (!hashes.add(canonical(row))) {
              throw new Differs();
            }
          });
      if (hashes.size() == 0) {
        return Optional.empty();
      }
      staging.each(seed.stage(), hashes.size() + MORE_ROWS, this::compare);
    } catch (Differs e) {
      return Optional.empty();
    }
    return same == hashes.size() ? Optional.of(new SeedCounts(0, 0, 0, same)) : Optional.empty();
  }

  private void compare(SeedRow row) throws SQLException {
    boolean here = seed.seed().update() ? hashes.hasSame(row) : hashes.hasKey(row);
    if (here) {
      same++;
      return;
    }
    if (seed.seed().delete() || hashes.hasKey(row)) {
      throw new Differs();
    }
  }

  private SeedRow canonical(SeedRow row) {
    String[] values = new String[row.size()];
    boolean changed = false;
    for (int i = 0; i < values.length; i++) {
      if (!row.isNull(i)) {
        Column column = seed.stage().columns().get(i).column();
        values[i] = staging.canonical(column, row.text(i));
        changed |= values[i] != row.text(i);
      }
    }
    return changed ? SeedRow.made(row.line(), values) : row;
  }
}
