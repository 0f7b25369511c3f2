package org.wornladder.engine;

import java.nio.charset.StandardCharsets;
import java.sql.SQLException;
import java.util.Arrays;
import java.util.List;
import org.wornladder.ProjectException;
import org.wornladder.project.SeedRow;
import org.wornladder.project.SeedRows;

/**
 * Writes rows as bulk loading takes them: tabs between fields, {@code \N} for NULL, a backslash in
 * front of what has a meaning; the row's line comes first.
 */
public final class BulkRows {
  private static final int CHUNK = 1 << 20;

  private final SeedRows rows;
  private final List<ValueKind> kinds;
  private final Form form;
  private final Sink sink;
  private byte[] buffer = new byte[CHUNK + (CHUNK >> 1)];
  private int length;

  /** How the database writes a value that is not NULL. */
  public interface Form {
    String of(ValueKind kind, String text) throws BadValueException;
  }

  /** Takes bytes, and is done with them when it returns. */
  public interface Sink {
    void take(byte[] bytes, int length) throws SQLException;
  }

  public BulkRows(SeedRows rows, List<ValueKind> kinds, Form form, Sink sink) {
    this.rows = rows;
    this.kinds = kinds;
    this.form = form;
    this.sink = sink;
  }

  /** Writes all rows. */
  public void writeAll() throws SQLException {
    rows.each(this::row);
    flush();
  }

  private void row(SeedRow row) throws SQLException {
    number(row.position());
    for (int i = 0; i < row.size(); i++) {
      put('\t');
      if (row.isNull(i)) {
        put('\\');
        put('N');
      } else {
        text(written(row, i));
      }
    }
    put('\n');
    if (length >= CHUNK) {
      flush();
    }
  }

  private void flush() throws SQLException {
    sink.take(buffer, length);
    length = 0;
  }

  private String written(SeedRow row, int column) {
    try {
      return form.of(kinds.get(column), row.text(column));
    } catch (BadValueException e) {
      throw ProjectException.of(
          rows.place(row.position()),
          "column " + rows.columns().get(column) + ": " + e.getMessage(),
          "");
    }
  }

  private void text(String text) {
    room(text.length() * 2);
    int at = length;
    byte[] out = buffer;
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      if (c >= 0x80) {
        length = at;
        plain(text.substring(i));
        return;
      }
      if (c == '\\') {
        out[at++] = '\\';
        out[at++] = '\\';
      } else if (c == '\n') {
        out[at++] = '\\';
        out[at++] = 'n';
      } else if (c == '\r') {
        out[at++] = '\\';
        out[at++] = 'r';
      } else if (c == '\t') {
        out[at++] = '\\';
        out[at++] = 't';
      } else {
        out[at++] = (byte) c;
      }
    }
    length = at;
  }

  /** The rest of a text that has more than ASCII in it. */
  private void plain(String text) {
    String escaped =
        text.replace("\\", "\\\\").replace("\n", "\\n").replace("\r", "\\r").replace("\t", "\\t");
    byte[] bytes = escaped.getBytes(StandardCharsets.UTF_8);
    room(bytes.length);
    System.arraycopy(bytes, 0, buffer, length, bytes.length);
    length += bytes.length;
  }

  private void number(long number) {
    room(20);
    byte[] digits = Long.toString(number).getBytes(StandardCharsets.ISO_8859_1);
    System.arraycopy(digits, 0, buffer, length, digits.length);
    length += digits.length;
  }

  private void put(char c) {
    room(1);
    buffer[length++] = (byte) c;
  }

  private void room(int bytes) {
    if (length + bytes > buffer.length) {
      buffer = Arrays.copyOf(buffer, Math.max(buffer.length * 2, length + bytes));
    }
  }
}
