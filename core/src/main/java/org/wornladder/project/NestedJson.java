package org.wornladder.project;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import java.io.IOException;
import java.io.StringWriter;
import java.util.Map;

/** A list or a map of YAML, written as JSON: what a column of documents or of lists takes. */
final class NestedJson {
  private NestedJson() {}

  static String of(YamlNode node) {
    StringWriter text = new StringWriter();
    try (JsonGenerator out = new JsonFactory().createGenerator(text)) {
      write(node, out);
    } catch (IOException e) {
      throw new IllegalStateException("a text in memory can always be written", e);
    }
    return text.toString();
  }

  private static void write(YamlNode node, JsonGenerator out) throws IOException {
    if (node instanceof YamlNode.Entries map) {
      out.writeStartObject();
      for (Map.Entry<String, YamlNode.Entry> entry : map.entries().entrySet()) {
        out.writeFieldName(entry.getKey());
        write(entry.getValue().value(), out);
      }
      out.writeEndObject();
    } else if (node instanceof YamlNode.Items list) {
      out.writeStartArray();
      for (YamlNode item : list.items()) {
        write(item, out);
      }
      out.writeEndArray();
    } else {
      scalar((YamlNode.Scalar) node, out);
    }
  }

  private static void scalar(YamlNode.Scalar scalar, JsonGenerator out) throws IOException {
    String text = scalar.text();
    if (scalar.isNull()) {
      out.writeNull();
    } else if (scalar.plain() && (text.equals("true") || text.equals("false"))) {
      out.writeBoolean(text.equals("true"));
    } else if (scalar.plain() && JsonText.isNumber(text)) {
      out.writeNumber(text);
    } else {
      out.writeString(text);
    }
  }
}
