package org.wornladder.project;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.core.JsonParser;
import java.io.IOException;
import java.io.StringWriter;
import java.util.List;
import java.util.Optional;
import java.util.StringJoiner;
import java.util.regex.Pattern;
import org.wornladder.project.SeedColumn.Shape;

/** Writes rows and values as JSON (RFC 8259). */
public final class JsonText {
  private static final JsonFactory FACTORY = new JsonFactory();

  /** RFC 8259, section 6. */
  private static final Pattern NUMBER =
      Pattern.compile("-?(0|[1-9]\\d*)(\\.\\d+)?([eE][+-]?\\d+)?");

  private JsonText() {}

  /** A row on one line. */
  static String row(List<SeedColumn> columns, List<Optional<String>> values) {
    StringJoiner row = new StringJoiner(", ", "{ ", " }");
    for (int i = 0; i < columns.size(); i++) {
      row.add(string(columns.get(i).name()) + ": " + value(values.get(i), columns.get(i).shape()));
    }
    return row.toString();
  }

  static String value(Optional<String> value, Shape shape) {
    if (value.isEmpty()) {
      return "null";
    }
    String text = value.get();
    boolean bare =
        switch (shape) {
          case TEXT -> false;
          case PLAIN -> isPlain(text);
          case NESTED -> isListOrMap(text);
        };
    return bare ? text : string(text);
  }

  /** A number or truth value as it is, all else as a string. */
  public static String plainOrString(String text) {
    return isPlain(text) ? text : string(text);
  }

  /** A string with its quotes. */
  public static String string(String text) {
    StringWriter written = new StringWriter();
    try (JsonGenerator out = FACTORY.createGenerator(written)) {
      out.writeString(text);
    } catch (IOException e) {
      throw new IllegalStateException("a text in memory can always be written", e);
    }
    return written.toString();
  }

  /** Whether a text is a number or a truth value. */
  static boolean isPlain(String text) {
    return text.equals("true") || text.equals("false") || isNumber(text);
  }

  static boolean isNumber(String text) {
    return NUMBER.matcher(text).matches();
  }

  /** Whether a text is a list or a map. */
  static boolean isListOrMap(String text) {
    return (text.startsWith("{") || text.startsWith("[")) && compact(text).isPresent();
  }

  /** A text without the blanks between its parts; empty if it is not JSON. */
  static Optional<String> compact(String text) {
    StringWriter written = new StringWriter();
    try (JsonParser in = FACTORY.createParser(text);
        JsonGenerator out = FACTORY.createGenerator(written)) {
      in.nextToken();
      out.copyCurrentStructureExact(in);
      if (in.nextToken() != null) {
        return Optional.empty();
      }
    } catch (IOException e) {
      return Optional.empty();
    }
    return Optional.of(written.toString());
  }
}
