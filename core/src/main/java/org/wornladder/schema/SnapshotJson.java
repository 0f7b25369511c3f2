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
 * A snapshot as JSON: an object with {@code words}, the format's version, and {@code objects}, an
 * array of objects with {@code kind}, {@code schema}, {@code name}, {@code qualifier}, {@code
 * facts} (an object of texts), {@code parts} (an array of objects with {@code kind}, {@code name},
 * {@code facts} and {@code needs}) and {@code needs}, an array of objects with {@code kind}, {@code
 * schema}, {@code name}, {@code qualifier}, {@code column} and {@code source}. What is empty is
 * left out.
 */
final class SnapshotJson {
  /** The format's version: one that describes structures otherwise has another number. */
  static final int VERSION = 7;

  private static final String WORDS = "words";
  private static final String OBJECTS = "objects";
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
      out.writeArrayFieldStart(OBJECTS);
      for (DatabaseObject object : snapshot.objects()) {
        out.writeStartObject();
        id(out, object.id());
        described(out, object, object.storedParts());
        out.writeEndObject();
      }
      out.writeEndArray();
      out.writeEndObject();
    }
  }

  private static void id(JsonGenerator out, ObjectId id) throws IOException {
    field(out, "kind", id.kind().label());
    field(out, "schema", id.schema());
    field(out, "name", id.name());
    field(out, "qualifier", id.qualifier());
  }

  private static void field(JsonGenerator out, String name, String value) throws IOException {
    if (!value.isEmpty()) {
      out.writeStringField(name, value);
    }
  }

  private static void described(JsonGenerator out, Described one, List<Part> parts)
      throws IOException {
    if (!one.facts().isEmpty()) {
      out.writeObjectFieldStart("facts");
      for (Map.Entry<String, String> fact : one.facts().entrySet()) {
        out.writeStringField(fact.getKey(), fact.getValue());
      }
      out.writeEndObject();
    }
    if (!parts.isEmpty()) {
      out.writeArrayFieldStart("parts");
      for (Part part : parts) {
        out.writeStartObject();
        out.writeStringField("kind", part.kind().label());
        out.writeStringField("name", part.name());
        described(out, part, List.of());
        out.writeEndObject();
      }
      out.writeEndArray();
    }
    if (!one.dependsOn().isEmpty()) {
      out.writeArrayFieldStart("needs");
      for (Dependency dependency : one.dependsOn()) {
        out.writeStartObject();
        id(out, dependency.target());
        field(out, "column", dependency.column());
        field(out, "source", dependency.source().name());
        out.writeEndObject();
      }
      out.writeEndArray();
    }
  }

  /** The snapshot of a text that {@link #write} wrote; empty if it is none. */
  static Optional<Snapshot> read(String text) {
    try (JsonParser in = JSON.createParser(text)) {
      boolean ours =
          in.nextToken() == JsonToken.START_OBJECT
              && WORDS.equals(in.nextFieldName())
              && in.nextIntValue(0) == VERSION
              && OBJECTS.equals(in.nextFieldName())
              && in.nextToken() == JsonToken.START_ARRAY;
      return ours ? Optional.of(new Snapshot(objects(in))) : Optional.empty();
    } catch (IOException | IllegalArgumentException e) {
      return Optional.empty();
    }
  }

  private static List<DatabaseObject> objects(JsonParser in) throws IOException {
    List<DatabaseObject> objects = new ArrayList<>();
    while (in.nextToken() == JsonToken.START_OBJECT) {
      Entry entry = entry(in);
      objects.add(DatabaseObject.of(entry.id(), entry.facts, entry.parts, entry.needs));
    }
    return objects;
  }

  /** The fields of one object, as they are read. */
  private static final class Entry {
    private final Map<String, String> texts = new TreeMap<>();
    private final Map<String, String> facts = new TreeMap<>();
    private final List<Part> parts = new ArrayList<>();
    private final List<Dependency> needs = new ArrayList<>();

    private String text(String field) {
      return texts.getOrDefault(field, "");
    }

    private Kind kind() {
      return Kind.of(text("kind")).orElse(Kind.OTHER);
    }

    private ObjectId id() {
      return new ObjectId(kind(), text("schema"), text("name"), text("qualifier"));
    }

    private Part part() {
      return Part.of(kind(), text("name"), facts, needs);
    }

    private Dependency dependency() {
      return new Dependency(id(), text("column"), Dependency.Source.valueOf(text("source")));
    }
  }

  private static Entry entry(JsonParser in) throws IOException {
    Entry entry = new Entry();
    while (in.nextToken() == JsonToken.FIELD_NAME) {
      String field = in.currentName();
      in.nextToken();
      switch (field) {
        case "facts" -> facts(in, entry.facts);
        case "parts" -> {
          while (in.nextToken() == JsonToken.START_OBJECT) {
            entry.parts.add(entry(in).part());
          }
        }
        case "needs" -> {
          while (in.nextToken() == JsonToken.START_OBJECT) {
            entry.needs.add(entry(in).dependency());
          }
        }
        default -> entry.texts.put(field, in.getText());
      }
    }
    return entry;
  }

  private static void facts(JsonParser in, Map<String, String> facts) throws IOException {
    while (in.nextToken() == JsonToken.FIELD_NAME) {
      String name = in.currentName();
      in.nextToken();
      facts.put(name, in.getText());
    }
  }
}
