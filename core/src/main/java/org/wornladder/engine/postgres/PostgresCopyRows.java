package org.wornladder.engine.postgres;

import java.nio.charset.StandardCharsets;
import java.util.HexFormat;
import java.util.List;
import org.wornladder.engine.BadValueException;
import org.wornladder.engine.JsonLists;
import org.wornladder.engine.ValueKind;
import org.wornladder.engine.Values;
import org.wornladder.project.RowHasher;

/** Values as COPY takes and gives them (manual, "COPY", "Text Format"). */
final class PostgresCopyRows {
  private static final String NULL = "\\N";

  private PostgresCopyRows() {}

  /** A value as the database writes it. */
  static String written(ValueKind kind, String text) throws BadValueException {
    return switch (kind) {
      case BINARY -> text.startsWith("\\x") ? text : hexadecimal(text);
      case DATE, MOMENT -> notNumber(text);
      case LIST -> text.startsWith("[") ? literal(JsonLists.read(text)) : text;
      default -> text;
    };
  }

  /** The database would take a number for a date, which it seldom is. */
  static String notNumber(String text) throws BadValueException {
    if (!text.isEmpty() && text.chars().allMatch(c -> c >= '0' && c <= '9')) {
      throw new BadValueException("this is a number, not a date such as 2026-08-31");
    }
    return text;
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

  /** Gives the fields of a line of COPY's output to a hasher. */
  static void hash(byte[] line, RowHasher hasher) {
    String text = new String(line, 0, line.length - 1, StandardCharsets.UTF_8);
    String[] fields = text.split("\t", -1);
    for (int i = 0; i < hasher.columns(); i++) {
      if (fields[i].equals(NULL)) {
        hasher.addNull(i);
      } else {
        hasher.add(i, unescape(fields[i]));
      }
    }
  }

  /** A field of COPY's output without its escapes. */
  private static String unescape(String text) {
    if (text.indexOf('\\') < 0) {
      return text;
    }
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
