package org.wornladder.engine;

import java.util.List;

/**
 * A row of one of the tool's own tables.
 *
 * @param values the columns asked for, in that order, as texts; of one that was made NULL, the
 *     empty text
 */
public record OwnRow(List<String> values) {
  public OwnRow {
    values = List.copyOf(values);
  }

  /**
   * A number; 0 if it is none.
   *
   * @param column the column's place among those asked for, from 0 on
   */
  public long number(int column) {
    try {
      return Long.parseLong(values.get(column));
    } catch (NumberFormatException e) {
      // It was written by hand; the hash of the row will not fit.
      return 0;
    }
  }

  /**
   * A text.
   *
   * @param column as for {@link #number}
   */
  public String text(int column) {
    return values.get(column);
  }
}
