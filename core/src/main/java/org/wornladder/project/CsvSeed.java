package org.wornladder.project;

import java.util.List;
import org.wornladder.ProjectException;
import org.wornladder.sql.Place;

/**
 * Rows as CSV (RFC 4180): the first line names the columns; an empty field is NULL, {@code ""} an
 * empty text. Read as a stream, so that a file may be larger than the memory.
 */
final class CsvSeed extends FileSeed {
  private CsvSeed(SeedSource source, List<String> columns) {
    super(source, columns);
  }

  static CsvSeed open(SeedSource source) {
    String[] header = {};
    try (CsvRecords rows = new CsvRecords(source)) {
      if (rows.hasNext()) {
        header = rows.next();
      }
    }
    if (header.length == 0) {
      throw ProjectException.of(
          source.place(), "the file is empty", "write the columns' names in the first line");
    }
    if (header[0] != null && header[0].startsWith("\uFEFF")) {
      header[0] = header[0].substring(1);
    }
    return new CsvSeed(source, SeedHeader.check(source.place(1), header));
  }

  @Override
  public Place place(long position) {
    return source().place(position);
  }

  @Override
  public Place header() {
    return source().place(1);
  }

  @Override
  public <E extends Exception> void each(Visitor<E> visitor) throws E {
    try (CsvRecords rows = new CsvRecords(source())) {
      rows.next();
      while (rows.hasNext()) {
        String[] values = rows.next();
        check(values.length, rows.line());
        visitor.row(new SeedRow(rows.line(), values));
      }
    }
  }

  private void check(int fields, long line) {
    if (fields != columns().size()) {
      throw ProjectException.of(
          source().place(line),
          "this line has " + count(fields) + ", and the header names " + count(columns().size()),
          "a field with a comma or a line break stands in double quotes");
    }
  }

  private static String count(int fields) {
    return fields + (fields == 1 ? " field" : " fields");
  }
}
