package org.wornladder.entity;

import java.util.List;

/**
 * What a column holds, before an engine's type is chosen for it.
 *
 * @param key the row of the table of types, such as {@code java.lang.String} or {@code enum string}
 * @param length in characters or bytes
 * @param precision in digits; 0 where the table of types says it
 * @param scale digits behind the point, of fractions of seconds too; -1 likewise
 * @param constants the names of an enum's constants
 * @param definition the type as the class itself writes it; empty if it does not
 */
record ColumnType(
    String key, int length, int precision, int scale, List<String> constants, String definition) {
  static final int LENGTH = 255;

  ColumnType {
    constants = List.copyOf(constants);
  }

  static ColumnType of(String key) {
    return new ColumnType(key, LENGTH, 0, -1, List.of(), "");
  }

  ColumnType withLength(int other) {
    return new ColumnType(key, other, precision, scale, constants, definition);
  }
}
