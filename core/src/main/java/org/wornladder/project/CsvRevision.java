package org.wornladder.project;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Writes a CSV file anew, record by record beside the one that is there. */
final class CsvRevision implements SeedOutput {
  private final PendingFile file;
  private final CsvRecords records;
  private final BufferedReader text;

  /** The number of the next line in the text, from 1. */
  private long line = 1;

  /** The line on which the next record begins. */
  private long next = 1;

  private String[] nextFields;
  private String end = "\n";
  private boolean endsOpen;

  CsvRevision(PendingFile file, SeedSource source) {
    this.file = file;
    records = new CsvRecords(source);
    try {
      text = new BufferedReader(new InputStreamReader(source.open(), StandardCharsets.UTF_8));
    } catch (IOException e) {
      throw source.unreadable(e);
    }
    nextFields = records.next();
    String header = record();
    if (header.endsWith("\r\n")) {
      end = "\r\n";
    }
    write(header);
  }

  /** The text of the next record, with the blank lines behind it; goes on to the one after it. */
  private String record() {
    if (records.hasNext()) {
      nextFields = records.next();
      next = records.line();
    } else {
      next = Long.MAX_VALUE;
    }
    StringBuilder record = new StringBuilder();
    try {
      while (line < next && readLine(record)) {
        line++;
      }
    } catch (IOException e) {
      throw file.unwritable(e);
    }
    return record.toString();
  }

  /** Takes a line with its end, which is LF, CR or both; false if there is none. */
  private boolean readLine(StringBuilder taken) throws IOException {
    int before = taken.length();
    for (int c = text.read(); c >= 0; c = text.read()) {
      taken.append((char) c);
      if (c == '\n' || c == '\r' && !isFollowedByLineFeed()) {
        return true;
      }
    }
    return taken.length() > before;
  }

  private boolean isFollowedByLineFeed() throws IOException {
    text.mark(1);
    int c = text.read();
    text.reset();
    return c == '\n';
  }

  @Override
  public void keep(long position) {
    skipTo(position);
    write(record());
  }

  private void skipTo(long position) {
    while (next < position) {
      record();
    }
    if (next != position) {
      throw new IllegalStateException("no record begins on line " + position);
    }
  }

  @Override
  public void change(long position, Map<Integer, Optional<String>> values) {
    skipTo(position);
    List<Optional<String>> fields = new ArrayList<>();
    for (String field : nextFields) {
      fields.add(Optional.ofNullable(field));
    }
    values.forEach(fields::set);
    record();
    add(fields);
  }

  @Override
  public void add(List<Optional<String>> values) {
    write(CsvText.line(values) + end);
  }

  private void write(String record) {
    try {
      file.out().write(endsOpen ? end + record : record);
      endsOpen = !record.endsWith("\n") && !record.endsWith("\r");
    } catch (IOException e) {
      throw file.unwritable(e);
    }
  }

  @Override
  public void complete() {
    file.complete();
  }

  @Override
  public void replace() {
    file.replace();
  }

  @Override
  public void close() {
    try (text;
        records;
        file) {
      return;
    } catch (IOException e) {
      throw file.unwritable(e);
    }
  }
}
