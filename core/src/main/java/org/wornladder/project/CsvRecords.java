package org.wornladder.project;

import de.siegmar.fastcsv.reader.CsvParseException;
import de.siegmar.fastcsv.reader.CsvReader;
import de.siegmar.fastcsv.reader.FieldMismatchStrategy;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.Reader;
import java.io.UncheckedIOException;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.StandardCharsets;
import java.util.Iterator;
import org.wornladder.ProjectException;
import org.wornladder.sql.Place;

/** The records of a CSV file, its header among them, one after the other. */
final class CsvRecords implements AutoCloseable {
  /** Longer fields are refused: they would not fit into a small memory. In characters. */
  private static final int LONGEST_FIELD = 16 << 20;

  private final SeedSource source;
  private final CsvFields fields = new CsvFields();
  private final CsvReader<String[]> reader;
  private final Iterator<String[]> lines;

  CsvRecords(SeedSource source) {
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
    return fields.line();
  }

  private RuntimeException failure(RuntimeException e) {
    for (Throwable cause = e; cause != null; cause = cause.getCause()) {
      if (cause instanceof CharacterCodingException) {
        return ProjectException.of(
            source.firstMalformed(), "this is not UTF-8", "save the file as UTF-8");
      }
    }
    String words = String.valueOf(e.getMessage()) + " " + causeOf(e);
    Place at = source.place(Math.max(1, fields.line()));
    if (words.contains("buffer size")) {
      return ProjectException.of(
          source.place(fields.line() + 1),
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
