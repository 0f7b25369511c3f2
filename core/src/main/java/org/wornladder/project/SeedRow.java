package org.wornladder.project;

/** One row of a seed file, field by field as text. */
public final class SeedRow {
  private final long line;
  private final String[] values;

  /**
   * @param line where it begins in its file, counted from 1
   * @param values in the order of the file's columns, a null for NULL; not copied
   */
  SeedRow(long line, String... values) {
    this.line = line;
    this.values = values;
  }

  /** A row that was made, not read. */
  public static SeedRow made(long number, String... values) {
    return new SeedRow(number, values);
  }

  public long line() {
    return line;
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
