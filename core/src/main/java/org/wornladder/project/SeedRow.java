package org.wornladder.project;

/** One row of a seed file, field by field as text. */
public final class SeedRow {
  private final long position;
  private final String[] values;

  /**
   * @param position identifies it in the file, in the order of the rows
   * @param values in the order of the file's columns, a null for NULL; not copied
   */
  SeedRow(long position, String... values) {
    this.position = position;
    this.values = values;
  }

  /** A row that was made, not read. */
  public static SeedRow made(long number, String... values) {
    return new SeedRow(number, values);
  }

  /** Identifies the row in its file, in the order of the rows; its place follows from it. */
  public long position() {
    return position;
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
