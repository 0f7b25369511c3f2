package org.wornladder.project;

import java.util.Arrays;
import java.util.Set;

/** One row of a seed file, field by field as text. */
public final class SeedRow {
  private final long position;
  private final String[] values;
  private final Set<Integer> leftOut;

  /**
   * @param position identifies it in the file, in the order of the rows
   * @param values in the order of the file's columns, a null for NULL; not copied
   */
  SeedRow(long position, String... values) {
    this(position, Set.of(), values);
  }

  /**
   * @param leftOut the columns of which the row says nothing; they are NULL among the values
   */
  SeedRow(long position, Set<Integer> leftOut, String... values) {
    this.position = position;
    this.values = values;
    this.leftOut = Set.copyOf(leftOut);
  }

  /** A row that was made, not read. */
  public static SeedRow made(long number, String... values) {
    return new SeedRow(number, values);
  }

  /** Identifies the row in its file, in the order of the rows; its place follows from it. */
  public long position() {
    return position;
  }

  /** Whether the row says nothing of a column, not even NULL. */
  public boolean isLeftOut(int column) {
    return leftOut.contains(column);
  }

  /** The same with one more value. */
  public SeedRow with(String value) {
    String[] more = Arrays.copyOf(values, values.length + 1);
    more[values.length] = value;
    return new SeedRow(position, leftOut, more);
  }

  public int size() {
    return values.length;
  }

  public boolean isNull(int column) {
    return values[column] == null;
  }

  /** The text of a field that is not NULL. */
  public String text(int column) {
    return values[column];
  }
}
