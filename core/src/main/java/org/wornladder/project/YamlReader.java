package org.wornladder.project;

import com.fasterxml.jackson.core.JsonLocation;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.JsonToken;
import com.fasterxml.jackson.dataformat.yaml.YAMLFactory;
import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.wornladder.sql.Place;

/** Reads YAML event by event into {@link Node}s, which keep their places. */
final class YamlReader {
  private final String file;
  private final Problems problems;
  private final JsonParser parser;

  private YamlReader(String file, Problems problems, JsonParser parser) {
    this.file = file;
    this.problems = problems;
    this.parser = parser;
  }

  /** The tree of a YAML text; empty, with a problem collected, if it is malformed or empty. */
  static Optional<Node> read(String file, String text, Problems problems) {
    try (JsonParser parser = new YAMLFactory().createParser(text)) {
      if (parser.nextToken() == null) {
        problems.error(Place.of(file), "the file is empty", "ladder init writes a new one");
        return Optional.empty();
      }
      return Optional.of(new YamlReader(file, problems, parser).node());
    } catch (JsonProcessingException e) {
      JsonLocation at = e.getLocation();
      Place place = at == null ? Place.of(file) : new Place(file, at.getLineNr(), at.getColumnNr());
      problems.error(place, "this is not YAML: " + firstLine(e.getOriginalMessage()), "");
      return Optional.empty();
    } catch (IOException e) {
      throw new IllegalStateException("a text in memory can always be read", e);
    }
  }

  private static String firstLine(String message) {
    int end = message.indexOf('\n');
    return end < 0 ? message : message.substring(0, end);
  }

  private Node node() throws IOException {
    Place place = place();
    JsonToken token = parser.currentToken();
    if (token == JsonToken.START_OBJECT) {
      return entries(place);
    }
    if (token == JsonToken.START_ARRAY) {
      List<Node> items = new ArrayList<>();
      while (parser.nextToken() != JsonToken.END_ARRAY) {
        items.add(node());
      }
      return new Node.Items(place, List.copyOf(items));
    }
    boolean isNull = token == JsonToken.VALUE_NULL;
    return new Node.Scalar(place, isNull ? "" : parser.getText(), isNull);
  }

  private Node entries(Place place) throws IOException {
    Map<String, Node.Entry> entries = new LinkedHashMap<>();
    while (parser.nextToken() != JsonToken.END_OBJECT) {
      String key = parser.currentName();
      Place keyPlace = place();
      parser.nextToken();
      Node.Entry twice = entries.put(key, new Node.Entry(keyPlace, node()));
      if (twice != null) {
        String found = key + " stands twice; first on line " + twice.key().line();
        problems.error(keyPlace, found, "keep one of them");
      }
    }
    return new Node.Entries(place, entries);
  }

  private Place place() {
    JsonLocation at = parser.currentTokenLocation();
    return new Place(file, at.getLineNr(), at.getColumnNr());
  }
}
