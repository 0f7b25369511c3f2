package org.wornladder.engine.postgres;

import java.nio.charset.StandardCharsets;
import java.sql.SQLException;
import java.util.HexFormat;
import java.util.List;
import org.postgresql.copy.CopyIn;
import org.wornladder.engine.BadValueException;
import org.wornladder.engine.JsonLists;
import org.wornladder.engine.ValueKind;
import org.wornladder.engine.Values;
import org.wornladder.project.ProjectException;
import org.wornladder.project.RowHasher;
import org.wornladder.project.SeedRow;
import org.wornladder.project.SeedRows;

/** Writes rows as COPY takes them (manual, "COPY", "Text Format"). */
final class PostgresCopyRows {
  private static final int CHUNK = 1 << 16;

  private final CopyIn in;
  private final SeedRows rows;
  private final List<ValueKind> kinds;
  private byte[] buffer = new byte[CHUNK + (CHUNK >> 1)];
  private int length;

  PostgresCopyRows(CopyIn in, SeedRows rows, List<ValueKind> kinds) {
    this.in = in;
    this.rows = rows;
    this.kinds = kinds;
  }

  void row(SeedRow row) throws SQLException {
    number(row.line());
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

  void flush() throws SQLException {
    in.writeToCopy(buffer, 0, length);
    length = 0;
  }

  private String written(SeedRow row, int column) {
    String text = row.text(column);
    try {
      return switch (kinds.get(column)) {
        case BINARY -> text.startsWith("\\x") ? text : hexadecimal(text);
        case LIST -> text.startsWith("[") ? literal(JsonLists.read(text)) : text;
        default -> text;
      };
    } catch (BadValueException e) {
      throw ProjectException.of(
          rows.place(row.line()),
          "column " + rows.columns().get(column) + ": " + e.getMessage(),
          "");
    }
  }

  /** A list as PostgreSQL writes it (manual, "Array Value Input"). */
  private static String literal(List<?> values) {
    StringBuilder text = new StringBuilder("{");
    for (Object value : values) {
      if (text.length() > 1) {
        text.append(',');
      }
      if (value instanceof List<?> list) {
        text.append(literal(list));
      } else if (value == null) {
        text.append("NULL");
      } else {
        String escaped = value.toString().replace("\\", "\\\\").replace("\"", "\\\"");
        text.append('"').append(escaped).append('"');
      }
    }
    return text.append('}').toString();
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
      buffer = java.util.Arrays.copyOf(buffer, Math.max(buffer.length * 2, length + bytes));
    }
  }

  /** Gives the fields of a line of COPY's output to a hasher. */
  static void hash(byte[] line, RowHasher hasher) {
    hasher.begin();
    int from = 0;
    for (int i = 0; i < hasher.columns(); i++) {
      int to = from;
      boolean escaped = false;
      while (line[to] != '\t' && line[to] != '\n') {
        escaped |= line[to] == '\\';
        to++;
      }
      if (escaped && to == from + 2 && line[from + 1] == 'N') {
        hasher.none(i);
      } else if (escaped) {
        hasher.text(i, unescape(new String(line, from, to - from, StandardCharsets.UTF_8)));
      } else {
        hasher.utf8(i, line, from, to);
      }
      from = to + 1;
    }
  }

  /** A field of COPY's output without its escapes. */
  private static String unescape(String text) {
    StringBuilder out = new StringBuilder(text.length());
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      if (c == '\\') {
        i++;
        out.append(
            switch (text.charAt(i)) {
              case 'n' -> '\n';
              case 'r' -> '\r';
              case 't' -> '\t';
              case 'b' -> '\b';
              case 'f' -> '\f';
              case 'v' -> '\u000B';
              default -> text.charAt(i);
            });
      } else {
        out.append(c);
      }
    }
    return out.toString();
  }

  /** A value in Base64 as the database writes it. */
  static String hexadecimal(String text) throws BadValueException {
    return "\\x" + HexFormat.of().formatHex(Values.bytes(text));
  }

  static String base64(String hexadecimal) {
    return Values.base64(HexFormat.of().parseHex(hexadecimal.substring(2)));
  }
}
