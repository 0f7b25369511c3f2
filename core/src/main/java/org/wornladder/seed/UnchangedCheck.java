package org.wornladder.seed;

import java.sql.SQLException;
import java.util.HashSet;
import java.util.Optional;
import java.util.Set;
import org.wornladder.SeedCounts;
import org.wornladder.engine.Staging;
import org.wornladder.engine.TableRows;
import org.wornladder.project.RowHasher;
import org.wornladder.project.RowHasher.Digest;
import org.wornladder.project.SeedRow;
import org.wornladder.project.SeedRows;

/**
 * Finds out by reading alone whether a table already holds what a seed file says. File and table
 * are read side by side, since a table mostly has its rows in the order in which they came; those
 * that do not meet are found by the SHA-256 digests of their values' texts. Where a value can be
 * written in two ways it cannot say, and the database is asked with a temporary table.
 */
final class UnchangedCheck {
  /** Rows of a table beyond those of the file that are read before giving up. */
  private static final long MORE_ROWS = 10_000;

  /** What a digest takes in memory, with room to spare; in bytes. */
  private static final long BYTES_PER_DIGEST = 256;

  private final Staging staging;
  private final BoundSeed seed;
  private final long mostDigests = Runtime.getRuntime().maxMemory() / BYTES_PER_DIGEST;

  /** Rows that only one side has had so far. */
  private final Set<Digest> inFile = new HashSet<>();

  private final Set<Digest> inTable = new HashSet<>();

  private boolean comparable;
  private boolean tableEnded;
  private long count;

  UnchangedCheck(Staging staging, BoundSeed seed) {
    this.staging = staging;
    this.seed = seed;
    comparable = seed.looks().isEmpty() && seed.stage().optional().isEmpty() && seed.isKeyUnique();
  }

  /** The counts if nothing has to be changed; empty if that cannot be said. */
  Optional<SeedCounts> counts(SeedRows rows) throws SQLException {
    if (!comparable) {
      return Optional.empty();
    }
    try (TableRows table =
        staging.rows(seed.stage(), Math.max(rows.most(), rows.most() + MORE_ROWS))) {
      RowHasher fileRow = hasher();
      RowHasher tableRow = hasher();
      rows.<SQLException>each(row -> compare(row, fileRow, table, tableRow));
      readRest(table, tableRow);
    }
    boolean unchanged = comparable && count > 0 && inFile.isEmpty();
    boolean deletes = seed.seed().delete() && !inTable.isEmpty();
    return unchanged && !deletes ? Optional.of(new SeedCounts(0, 0, 0, count)) : Optional.empty();
  }

  /** Where rows that are there stay as they are, it is enough that they are there. */
  private RowHasher hasher() {
    return staging.hasher(seed.stage(), !seed.seed().update());
  }

  /** Holds the next row of the file against the next of the table. */
  private void compare(SeedRow row, RowHasher fileRow, TableRows table, RowHasher tableRow)
      throws SQLException {
    if (!comparable) {
      return;
    }
    count++;
    fileRow.start();
    fileRow.row(row);
    if (!next(table, tableRow)) {
      onlyInFile(fileRow.digest());
    } else if (!fileRow.hasSameRow(tableRow)) {
      onlyInFile(fileRow.digest());
      onlyInTable(tableRow.digest());
    }
    comparable &= inFile.size() + inTable.size() < mostDigests;
  }

  private boolean next(TableRows table, RowHasher row) throws SQLException {
    row.start();
    tableEnded = tableEnded || !table.next(row);
    return !tableEnded;
  }

  /** A row that occurs twice in the file is for the database to judge. */
  private void onlyInFile(Digest row) {
    if (!inTable.remove(row)) {
      comparable &= inFile.add(row);
    }
  }

  /** The key of a table is unique here, so that no row occurs twice. */
  private void onlyInTable(Digest row) {
    if (!inFile.remove(row)) {
      inTable.add(row);
    }
  }

  /** Reads what the table has beyond the number of the file's rows, as far as it can matter. */
  private void readRest(TableRows table, RowHasher row) throws SQLException {
    for (long more = 0; comparable && mattersMore() && more < MORE_ROWS; more++) {
      if (!next(table, row)) {
        return;
      }
      onlyInTable(row.digest());
    }
  }

  private boolean mattersMore() {
    return !inFile.isEmpty() || seed.seed().delete() && inTable.isEmpty();
  }
}
