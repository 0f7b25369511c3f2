package org.wornladder.cli.view;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.core.util.DefaultIndenter;
import com.fasterxml.jackson.core.util.DefaultPrettyPrinter;
import java.io.IOException;
import java.io.PrintStream;
import java.io.StringWriter;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Writes one JSON object, key by key, in the order in which they are put. */
final class Json {
  private final Map<String, Object> fields = new LinkedHashMap<>();

  /**
   * Adds a field.
   *
   * @param value a text, number, truth value, {@link Json}, list or {@link Optional} of these; an
   *     empty one becomes null
   */
  Json put(String key, Object value) {
    fields.put(key, value);
    return this;
  }

  void write(PrintStream out) {
    StringWriter text = new StringWriter();
    try (JsonGenerator generator = new JsonFactory().createGenerator(text)) {
      DefaultPrettyPrinter printer =
          new DefaultPrettyPrinter()
              .withArrayIndenter(new DefaultIndenter("  ", "\n"))
              .withObjectIndenter(new DefaultIndenter("  ", "\n"));
      generator.setPrettyPrinter(printer);
      value(generator, this);
    } catch (IOException e) {
      throw new IllegalStateException("a text in memory can always be written", e);
    }
    out.println(text);
  }

  private static void value(JsonGenerator out, Object value) throws IOException {
    if (value instanceof Json object) {
      out.writeStartObject();
      for (Map.Entry<String, Object> field : object.fields.entrySet()) {
        out.writeFieldName(field.getKey());
        value(out, field.getValue());
      }
      out.writeEndObject();
    } else if (value instanceof List<?> list) {
      out.writeStartArray();
      for (Object item : list) {
        value(out, item);
      }
      out.writeEndArray();
    } else if (value instanceof Optional<?> optional) {
      if (optional.isPresent()) {
        value(out, optional.get());
      } else {
        out.writeNull();
      }
    } else if (value instanceof Boolean truth) {
      out.writeBoolean(truth);
    } else if (value instanceof Number number) {
      out.writeNumber(number.longValue());
    } else {
      out.writeString(String.valueOf(value));
    }
  }
}
