package org.wornladder.sql;

/**
 * A place in a text file.
 *
 * @param file the file as a person would name it, relative to the project; never empty
 * @param line 1 for the first line; 0 where the whole file is meant
 * @param column 1 for the first character of the line; 0 where the whole line is meant
 */
public record Place(String file, int line, int column) {
  /** The whole of a file. */
  public static Place of(String file) {
    return new Place(file, 0, 0);
  }

  /** The place that stands {@code offset} characters into {@code text}, which starts here. */
  public Place plus(String text, int offset) {
    int row = line;
    int lineStart = -1;
    for (int i = 0; i < offset; i++) {
      if (text.charAt(i) == '\n') {
        row++;
        lineStart = i + 1;
      }
    }
    return lineStart < 0
        ? new Place(file, row, column + offset)
        : new Place(file, row, offset - lineStart + 1);
  }

  /** {@code file:line:column}, without the parts that are 0. */
  @Override
  public String toString() {
    if (line == 0) {
      return file;
    }
    return column == 0 ? file + ":" + line : file + ":" + line + ":" + column;
  }
}
