package org.wornladder.project;

import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;

/**
 * Takes the fields of a row, one after the other and in any of the forms in which they come, and
 * makes two numbers of 64 bits out of them: one of its key, one of the rest. The same texts give
 * the same numbers, whatever their form.
 */
public final class RowHasher {
  private static final long PRIME = 0x9E37_79B9_7F4A_7C15L;
  private static final int NULL_FIELD = 0x1_0000;
  private static final int END_OF_FIELD = 0x1_0001;

  private final boolean[] isKey;
  private final boolean[] isNumber;
  private final List<Optional<UnaryOperator<String>>> forms = new ArrayList<>();
  private long key;
  private long rest;

  /**
   * A column of the rows.
   *
   * @param isKey whether it is part of the key
   * @param isNumber whether zeros at the end of a fraction do not count
   * @param form how a text is brought into the one form that counts; empty where it counts as it
   *     stands
   */
  public record Field(boolean isKey, boolean isNumber, Optional<UnaryOperator<String>> form) {}

  /**
   * @param fields in the order of the rows
   */
  public RowHasher(List<Field> fields) {
    isKey = new boolean[fields.size()];
    isNumber = new boolean[fields.size()];
    for (int i = 0; i < isKey.length; i++) {
      isKey[i] = fields.get(i).isKey();
      isNumber[i] = fields.get(i).isNumber();
      forms.add(fields.get(i).form());
    }
  }

  /** How many columns a row has. */
  public int columns() {
    return isKey.length;
  }

  /** A new row begins. */
  public void begin() {
    key = 1;
    rest = 1;
  }

  /** A field that is NULL. */
  public void none(int column) {
    take(column, mix(start(column), NULL_FIELD));
  }

  /** A field as text. */
  public void text(int column, String text) {
    String form = forms.get(column).isPresent() ? forms.get(column).get().apply(text) : text;
    long hash = start(column);
    int end = form.length();
    if (isNumber[column] && form.indexOf('.') >= 0) {
      end = withoutZeros(form);
    }
    for (int i = 0; i < end; i++) {
      hash = mix(hash, form.charAt(i));
    }
    take(column, mix(hash, END_OF_FIELD));
  }

  /** A field as a part of a buffer. */
  public void characters(int column, char[] buffer, int offset, int length) {
    boolean zeros = isNumber[column] && length > 0 && buffer[offset + length - 1] == '0';
    if (zeros || forms.get(column).isPresent()) {
      text(column, new String(buffer, offset, length));
      return;
    }
    long hash = start(column);
    for (int i = offset; i < offset + length; i++) {
      hash = mix(hash, buffer[i]);
    }
    take(column, mix(hash, END_OF_FIELD));
  }

  /** A field as a part of a buffer in UTF-8. */
  public void utf8(int column, byte[] buffer, int from, int to) {
    if (isNumber[column] && to > from && buffer[to - 1] == '0') {
      text(column, new String(buffer, from, to - from, StandardCharsets.UTF_8));
      return;
    }
    long hash = start(column);
    for (int i = from; i < to; i++) {
      if (buffer[i] < 0) {
        text(column, new String(buffer, from, to - from, StandardCharsets.UTF_8));
        return;
      }
      hash = mix(hash, buffer[i]);
    }
    take(column, mix(hash, END_OF_FIELD));
  }

  private static int withoutZeros(String number) {
    int end = number.length();
    while (number.charAt(end - 1) == '0') {
      end--;
    }
    return number.charAt(end - 1) == '.' ? end - 1 : end;
  }

  /** A whole row. */
  public void row(SeedRow row) {
    begin();
    for (int i = 0; i < isKey.length; i++) {
      if (row.isNull(i)) {
        none(i);
      } else {
        text(i, row.text(i));
      }
    }
  }

  private long start(int column) {
    return isKey[column] ? key : rest;
  }

  private void take(int column, long hash) {
    if (isKey[column]) {
      key = hash;
    } else {
      rest = hash;
    }
  }

  private static long mix(long hash, int value) {
    long mixed = (hash ^ value) * PRIME;
    return mixed ^ (mixed >>> 32);
  }

  /** The number of the row's key; never 0. */
  public long key() {
    return last(key);
  }

  /** The number of the rest; never 0. */
  public long rest() {
    return last(rest);
  }

  private static long last(long hash) {
    long mixed = hash * PRIME;
    mixed ^= mixed >>> 29;
    return mixed == 0 ? 1 : mixed;
  }
}
