package org.wornladder.project;

import java.util.List;
import java.util.Set;
import org.wornladder.ProjectException;
import org.wornladder.sql.Place;

/** Rows that can be gone through again and again, always the same and in the same order. */
public interface SeedRows {
  /** The columns of every row. */
  List<String> columns();

  /** The columns that some row leaves out. */
  default Set<String> optional() {
    return Set.of();
  }

  /** Where a row stands, by its position. */
  Place place(long position);

  /** The place of what comes before all rows, such as the names of the columns. */
  Place header();

  /** SHA-256 of the file, as 64 hexadecimal digits. */
  String fingerprint();

  /** A number of rows that there are no more of. */
  long most();

  /**
   * Hands over one row after the other.
   *
   * @throws ProjectException where the file is malformed, or cannot be read
   * @throws E what the visitor throws
   */
  <E extends Exception> void each(Visitor<E> visitor) throws E;

  /** Takes rows. */
  interface Visitor<E extends Exception> {
    void row(SeedRow row) throws E;
  }
}
