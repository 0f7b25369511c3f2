package org.wornladder.schema;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import com.fasterxml.jackson.core.io.SerializedString;
import java.io.IOException;
import java.io.StringWriter;
import java.io.Writer;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/**
 * A snapshot as JSON: an object with {@code words}, the version of the words it is told in, and
 * {@code elements}, an array of objects with {@code kind}, {@code name}, {@code facts} (an object
 * of texts) and {@code parts} (an array of such objects); the last two are left out where they are
 * empty.
 */
final class SnapshotJson {
  /** Which words the structure is told in: a version that tells it in others has another number. */
  static final int VERSION = 5;

  private static final String WORDS = "words";
  private static final String ELEMENTS = "elements";
  // Told to the writer in a form that needs no look at each sign: they come with every element.
  private static final SerializedString KIND = new SerializedString("kind");
  private static final SerializedString NAME = new SerializedString("name");
  private static final SerializedString FACTS = new SerializedString("facts");
  private static final SerializedString PARTS = new SerializedString("parts");
  private static final SerializedString[] KINDS = kinds();

  private static final JsonFactory JSON = new JsonFactory();

  private SnapshotJson() {}

  private static SerializedString[] kinds() {
    SerializedString[] kinds = new SerializedString[Kind.values().length];
    for (Kind kind : Kind.values()) {
      kinds[kind.ordinal()] = new SerializedString(kind.word());
    }
    return kinds;
  }

  static String write(Snapshot snapshot) {
    StringWriter text = new StringWriter();
    try {
      write(snapshot, text);
    } catch (IOException e) {
      throw new IllegalStateException("a text in memory can always be written", e);
    }
    return text.toString();
  }

  /** Writes it, and closes where it was written to. */
  static void write(Snapshot snapshot, Writer to) throws IOException {
    try (JsonGenerator out = JSON.createGenerator(to)) {
      out.writeStartObject();
      out.writeNumberField(WORDS, VERSION);
      out.writeFieldName(ELEMENTS);
      elements(out, snapshot.elements());
      out.writeEndObject();
    }
  }

  private static void elements(JsonGenerator out, List<Element> elements) throws IOException {
    out.writeStartArray();
    for (Element element : elements) {
      out.writeStartObject();
      out.writeFieldName(KIND);
      out.writeString(KINDS[element.kind().ordinal()]);
      out.writeFieldName(NAME);
      out.writeString(element.name());
      if (!element.facts().isEmpty()) {
        out.writeFieldName(FACTS);
        out.writeStartObject();
        for (Map.Entry<String, String> fact : element.facts().entrySet()) {
          out.writeStringField(fact.getKey(), fact.getValue());
        }
        out.writeEndObject();
      }
      if (!element.parts().isEmpty()) {
        out.writeFieldName(PARTS);
        elements(out, element.parts());
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
      String word = in.currentName();
      in.nextToken();
      facts.put(word, in.getText());
    }
    return facts;
  }
}
