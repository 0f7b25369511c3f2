package org.wornladder.engine;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import java.io.IOException;
import java.io.StringWriter;
import java.util.ArrayList;
import java.util.List;

/** Lists of values as files write them: JSON. */
public final class JsonLists {
  private static final String NO_LIST = "this is not a list such as [\"a\", \"b\"]";

  private JsonLists() {}

  /** A list's values: texts, nulls, and lists of such. */
  public static List<Object> read(String text) throws BadValueException {
    try (JsonParser parser = new JsonFactory().createParser(text)) {
      if (parser.nextToken() != JsonToken.START_ARRAY) {
        throw new BadValueException(NO_LIST);
      }
      return rest(parser);
    } catch (IOException e) {
      throw new BadValueException(NO_LIST);
    }
  }

  private static List<Object> rest(JsonParser parser) throws IOException, BadValueException {
    List<Object> values = new ArrayList<>();
    while (parser.nextToken() != JsonToken.END_ARRAY) {
      switch (parser.currentToken()) {
        case VALUE_NULL -> values.add(null);
        case START_ARRAY -> values.add(rest(parser));
        case START_OBJECT -> throw new BadValueException(NO_LIST);
        default -> values.add(parser.getText());
      }
    }
    return values;
  }

  /** A list as JSON; numbers and truth values keep their kind. */
  public static String write(Object... values) {
    StringWriter text = new StringWriter();
    try (JsonGenerator out = new JsonFactory().createGenerator(text)) {
      write(out, values);
    } catch (IOException e) {
      throw new IllegalStateException("a text in memory can always be written", e);
    }
    return text.toString();
  }

  private static void write(JsonGenerator out, Object... values) throws IOException {
    out.writeStartArray();
    for (Object value : values) {
      if (value instanceof Object[] list) {
        write(out, list);
      } else if (value == null) {
        out.writeNull();
      } else if (value instanceof Number || value instanceof Boolean) {
        out.writeRawValue(value.toString());
      } else {
        out.writeString(value.toString());
      }
    }
    out.writeEndArray();
  }
}
