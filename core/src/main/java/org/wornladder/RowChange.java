package org.wornladder;

import java.util.List;
import java.util.Optional;

/**
 * What a seed does to one row.
 *
 * @param line where the row is in its file; 0 for one that is deleted
 * @param key the row's key, such as {@code code=A}
 * @param fields those that change; all of them for a row that is added, none for one that is
 *     deleted
 */
public record RowChange(Kind kind, long line, String key, List<Field> fields) {
  /** What is done. */
  public enum Kind {
    ADDED,
    UPDATED,
    DELETED
  }

  /**
   * One field of a row.
   *
   * @param before empty for NULL, and for a row that is added
   * @param after empty for NULL
   */
  public record Field(String column, Optional<String> before, Optional<String> after) {}

  public RowChange {
    fields = List.copyOf(fields);
  }
}
