package org.wornladder.project;

import de.siegmar.fastcsv.reader.CsvCallbackHandler;
import de.siegmar.fastcsv.reader.CsvParseException;
import de.siegmar.fastcsv.reader.CsvReader;
import de.siegmar.fastcsv.reader.FieldMismatchStrategy;
import de.siegmar.fastcsv.reader.RecordType;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.Reader;
import java.io.UncheckedIOException;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Iterator;
import java.util.List;
import org.wornladder.ProjectException;
import org.wornladder.sql.Place;

/**
 * Rows as CSV (RFC 4180): the first line names the columns; an empty field is NULL, {@code ""} an
 * empty text. Read as a stream, so that a file may be larger than the memory.
 */
final class CsvSeed extends FileSeed {
  /** Longer fields are refused: they would not fit into a small memory. In characters. */
  private static final int LONGEST_FIELD = 16 << 20;

  private CsvSeed(SeedSource source, List<String> columns) {
    super(source, columns);
  }

  static CsvSeed open(SeedSource source) {
    String[] header = {};
    try (Rows rows = new Rows(source)) {
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
    try (Rows rows = new Rows(source())) {
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

  /** The lines of the file, one after the other; failures as the project's own. */
  private static final class Rows implements AutoCloseable {
    private final SeedSource source;
    private final Fields fields = new Fields();
    private final CsvReader<String[]> reader;
    private final Iterator<String[]> lines;

    Rows(SeedSource source) {
      this.source = source;
      try {
        Reader text = new InputStreamReader(source.open(), StandardCharsets.UTF_8.newDecoder());
        reader =
            CsvReader.builder()
                .maxBufferSize(LONGEST_FIELD)
                .extraFieldStrategy(FieldMismatchStrategy.IGNORE)
                .missingFieldStrategy(FieldMismatchStrategy.IGNORE)
                .allowUnclosedQuote(false)
                .build(fields, text);
        lines = reader.iterator();
      } catch (IOException e) {
        throw source.unreadable(e);
      }
    }

    boolean hasNext() {
      try {
        return lines.hasNext();
      } catch (CsvParseException | UncheckedIOException e) {
        throw failure(e);
      }
    }

    String[] next() {
      try {
        return lines.next();
      } catch (CsvParseException | UncheckedIOException e) {
        throw failure(e);
      }
    }

    long line() {
      return fields.line;
    }

    private RuntimeException failure(RuntimeException e) {
      for (Throwable cause = e; cause != null; cause = cause.getCause()) {
        if (cause instanceof CharacterCodingException) {
          return ProjectException.of(
              source.firstMalformed(), "this is not UTF-8", "save the file as UTF-8");
        }
      }
      String words = String.valueOf(e.getMessage()) + " " + causeOf(e);
      Place at = source.place(Math.max(1, fields.line));
      if (words.contains("buffer size")) {
        return ProjectException.of(
            source.place(fields.line + 1),
            "a field here is longer than " + (LONGEST_FIELD >> 20) + " million characters",
            "see that its closing quote is there; values this long do not belong in a seed");
      }
      if (words.contains("nclosed")) {
        return ProjectException.of(
            at,
            "a double quote here or just behind is never closed",
            "write \"\" for the sign itself");
      }
      return ProjectException.of(
          at,
          "this is not CSV: text stands behind a closing quote, here or just behind",
          "write \"\" for the sign itself");
    }

    private static String causeOf(RuntimeException e) {
      return e.getCause() == null ? "" : String.valueOf(e.getCause().getMessage());
    }

    @Override
    public void close() {
      try {
        reader.close();
      } catch (IOException e) {
        // It was only read.
        return;
      }
    }
  }

  /** Builds a line's fields. */
  private static final class Fields extends CsvCallbackHandler<String[]> {
    private String[] values = new String[8];
    private int count;
    private long line;
    private boolean empty;

    @Override
    protected RecordType getRecordType() {
      return empty ? RecordType.EMPTY : RecordType.DATA;
    }

    @Override
    protected int getFieldCount() {
      return count;
    }

    @Override
    protected void beginRecord(long startingLine) {
      count = 0;
      empty = false;
      line = startingLine;
    }

    @Override
    protected void addField(char[] buffer, int offset, int length, boolean quoted) {
      boolean none = length == 0 && !quoted;
      if (count == values.length) {
        values = Arrays.copyOf(values, count * 2);
      }
      values[count] = none ? null : new String(buffer, offset, length);
      count++;
    }

    @Override
    protected void setComment(char[] buffer, int offset, int length) {
      throw new IllegalStateException("comments are not read");
    }

    @Override
    protected void setEmpty() {
      empty = true;
    }

    @Override
    protected String[] buildRecord() {
      return Arrays.copyOf(values, count);
    }
  }
}
