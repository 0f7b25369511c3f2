package org.wornladder.project;

/** One row of a seed file, field by field as text. */
public final class SeedRow {
  private final long position;
  private final String[] values;

  /**
   * @param position tells it from all others, in the order of the file
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

  /** Tells it from all other rows of its file, in their order; where it stands is told by it. */
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
