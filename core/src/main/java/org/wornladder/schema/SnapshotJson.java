package org.wornladder.schema;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import java.io.IOException;
import java.io.StringWriter;
import java.io.Writer;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/**
 * A snapshot as JSON: an object with {@code words}, the format's version, and {@code elements}, an
 * array of objects with {@code kind}, {@code name}, {@code facts} (an object of texts) and {@code
 * parts} (an array of such objects); the last two are left out where they are empty.
 */
final class SnapshotJson {
  /** The format's version: one that describes structures otherwise has another number. */
  static final int VERSION = 6;

  private static final String WORDS = "words";
  private static final String ELEMENTS = "elements";
  private static final JsonFactory JSON = new JsonFactory();

  private SnapshotJson() {}

  static String write(Snapshot snapshot) {
    StringWriter text = new StringWriter();
    try {
      write(snapshot, text);
    } catch (IOException e) {
      throw new IllegalStateException("a text in memory can always be written", e);
    }
    return text.toString();
  }

  /** Writes a snapshot, and closes the writer. */
  static void write(Snapshot snapshot, Writer to) throws IOException {
    try (JsonGenerator out = JSON.createGenerator(to)) {
      out.writeStartObject();
      out.writeNumberField(WORDS, VERSION);
      elements(out, ELEMENTS, snapshot.elements());
      out.writeEndObject();
    }
  }

  private static void elements(JsonGenerator out, String field, List<Element> elements)
      throws IOException {
    out.writeArrayFieldStart(field);
    for (Element element : elements) {
      out.writeStartObject();
      out.writeStringField("kind", element.kind().label());
      out.writeStringField("name", element.name());
      if (!element.facts().isEmpty()) {
        out.writeObjectFieldStart("facts");
        for (Map.Entry<String, String> fact : element.facts().entrySet()) {
          out.writeStringField(fact.getKey(), fact.getValue());
        }
        out.writeEndObject();
      }
      if (!element.parts().isEmpty()) {
        elements(out, "parts", element.parts());
      }
      out.writeEndObject();
    }
    out.writeEndArray();
  }

  /** The snapshot of a text that {@link #write} wrote; empty if it is none. */
  static Optional<Snapshot> read(String text) {
    try (JsonParser in = JSON.createParser(text)) {
      boolean ours =
          in.nextToken() == JsonToken.START_OBJECT
              && WORDS.equals(in.nextFieldName())
              && in.nextIntValue(0) == VERSION
              && ELEMENTS.equals(in.nextFieldName())
              && in.nextToken() == JsonToken.START_ARRAY;
      return ours ? Optional.of(new Snapshot(elements(in))) : Optional.empty();
    } catch (IOException | IllegalArgumentException e) {
      return Optional.empty();
    }
  }

  private static List<Element> elements(JsonParser in) throws IOException {
    List<Element> elements = new ArrayList<>();
    while (in.nextToken() == JsonToken.START_OBJECT) {
      elements.add(element(in));
    }
    return elements;
  }

  private static Element element(JsonParser in) throws IOException {
    String kind = "";
    String name = "";
    Map<String, String> facts = Map.of();
    List<Element> parts = List.of();
    while (in.nextToken() == JsonToken.FIELD_NAME) {
      String field = in.currentName();
      in.nextToken();
      switch (field) {
        case "kind" -> kind = in.getText();
        case "name" -> name = in.getText();
        case "facts" -> facts = facts(in);
        case "parts" -> parts = elements(in);
        default -> in.skipChildren();
      }
    }
    return new Element(Kind.of(kind).orElse(Kind.OTHER), name, facts, parts);
  }

  private static Map<String, String> facts(JsonParser in) throws IOException {
    Map<String, String> facts = new TreeMap<>();
    while (in.nextToken() == JsonToken.FIELD_NAME) {
      String name = in.currentName();
      in.nextToken();
      facts.put(name, in.getText());
    }
    return facts;
  }
}
