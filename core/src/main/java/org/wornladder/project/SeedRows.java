package org.wornladder.project;

import java.util.List;
import org.wornladder.sql.Place;

/** Rows that can be gone through again and again, always the same and in the same order. */
public interface SeedRows {
  /** The columns of every row. */
  List<String> columns();

  /** Where a row stands, by its position. */
  Place place(long position);

  /** The place of what stands before all rows, such as the names of the columns. */
  Place header();

  /**
   * A checksum of the file (CRC-32 and CRC-32C), in hexadecimal digits: it tells that a file is
   * another one, not that somebody made it look the same.
   */
  String fingerprint();

  /**
   * Hands over one row after the other.
   *
   * @throws ProjectException where the file is malformed, or cannot be read
   * @throws E what the visitor throws
   */
  <E extends Exception> void each(Visitor<E> visitor) throws E;

  /**
   * Gives every row to a hasher, and tells when it has one.
   *
   * @throws ProjectException as {@link #each} does, but for what only a closer look finds
   */
  default void hash(RowHasher hasher, Runnable onRow) {
    this.<RuntimeException>each(
        row -> {
          hasher.row(row);
          onRow.run();
        });
  }

  /** Takes rows. */
  interface Visitor<E extends Exception> {
    void row(SeedRow row) throws E;
  }
}
