package org.wornladder.project;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonLocation;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.JsonToken;
import com.fasterxml.jackson.core.StreamReadFeature;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.wornladder.sql.Dialects;
import org.wornladder.sql.JsonErrors;
import org.wornladder.sql.Place;

/**
 * Reads a rung of commands of a document database: an object with {@code up}, {@code down} and the
 * directives that a rung of SQL has.
 */
final class JsonScript {
  private static final JsonFactory FACTORY =
      JsonFactory.builder().enable(StreamReadFeature.STRICT_DUPLICATE_DETECTION).build();

  private static final String NO_WAY_DOWN = "no way down";

  /** For readers: JSON has no comments. */
  private static final String REMARKS = "remarks";

  /** Those of SQL alone are not among them. */
  private static final List<String> DIRECTIVES =
      List.of("about", "only-in", "when", "otherwise", "accepts", "run");

  private final String file;
  private final String text;
  private final Problems problems;
  private final HeaderBuilder header;
  private final List<Section> sections = new ArrayList<>();
  private Optional<String> noWayDown = Optional.empty();

  private JsonScript(String file, String text, Problems problems) {
    this.file = file;
    this.text = text;
    this.problems = problems;
    header = new HeaderBuilder(problems, HeaderBuilder.Form.JSON);
  }

  static Script parse(String file, String text, Problems problems) {
    return new JsonScript(file, text, problems).run();
  }

  private Script run() {
    try (JsonParser in = FACTORY.createParser(ByteOrderMark.blanked(text))) {
      if (in.nextToken() != JsonToken.START_OBJECT) {
        problems.error(
            new Place(file, 1, 1),
            "a rung of commands is a JSON object",
            "write { \"up\": [ … ], \"down\": [ … ] }");
      } else {
        while (in.nextToken() == JsonToken.FIELD_NAME) {
          key(in, in.currentName());
        }
        if (in.nextToken() != null) {
          problems.error(place(in), "something stands behind the object", "end the file with it");
        }
      }
    } catch (JsonProcessingException e) {
      problems.error(place(e.getLocation()), JsonErrors.words(e), "");
    } catch (IOException e) {
      throw new IllegalStateException("a text in memory can always be read", e);
    }
    checkWhole();
    return new Script(file, header.build(), List.copyOf(sections), noWayDown, text);
  }

  private void key(JsonParser in, String name) throws IOException {
    Place place = place(in);
    in.nextToken();
    switch (name) {
      case "up" -> section(in, Direction.UP);
      case "down" -> section(in, Direction.DOWN);
      case REMARKS -> values(in, name);
      case NO_WAY_DOWN -> noWayDown = Optional.of(string(in, name));
      default -> {
        if (DIRECTIVES.contains(name)) {
          for (String value : values(in, name)) {
            header.take(name, value, place);
          }
        } else {
          List<String> known = new ArrayList<>(DIRECTIVES);
          known.addAll(List.of("up", "down", NO_WAY_DOWN, REMARKS));
          problems.error(place, "unknown key '" + name + "'", NearestWord.advice(name, known));
          in.skipChildren();
        }
      }
    }
  }

  /** Several conditions stand in an array; so may names. */
  private List<String> values(JsonParser in, String name) throws IOException {
    if (in.currentToken() != JsonToken.START_ARRAY) {
      return List.of(string(in, name));
    }
    List<String> values = new ArrayList<>();
    while (in.nextToken() != JsonToken.END_ARRAY) {
      values.add(string(in, name));
    }
    return name.equals("when") ? values : List.of(String.join(", ", values));
  }

  private String string(JsonParser in, String name) throws IOException {
    if (in.currentToken() != JsonToken.VALUE_STRING) {
      problems.error(place(in), name + " is a text", "write \"" + name + "\": \"…\"");
      in.skipChildren();
      return "";
    }
    return in.getText();
  }

  private void section(JsonParser in, Direction direction) throws IOException {
    int start = (int) in.currentTokenLocation().getCharOffset();
    Place place = place(in);
    if (!in.currentToken().isStructStart()) {
      problems.error(
          place,
          direction.label() + " holds no commands",
          "write \"" + direction.label() + "\": [ {\"create\": \"bin\"} ]");
      return;
    }
    boolean empty = in.currentToken() == JsonToken.START_ARRAY && isEmpty(in);
    in.skipChildren();
    int end = (int) in.currentTokenLocation().getCharOffset() + 1;
    if (!empty) {
      sections.add(
          new Section(
              direction, List.of(Dialects.DOCUMENT.name()), text.substring(start, end), place));
    } else if (direction == Direction.UP) {
      problems.error(place, "the way up is empty", "write its commands into it");
    }
  }

  /** Whether the array that begins here holds nothing; nothing is read. */
  private boolean isEmpty(JsonParser in) {
    int next = (int) in.currentTokenLocation().getCharOffset() + 1;
    return text.substring(next).stripLeading().startsWith("]");
  }

  private Place place(JsonParser in) {
    return place(in.currentTokenLocation());
  }

  private Place place(JsonLocation location) {
    return location == null || location.getLineNr() < 1
        ? Place.of(file)
        : new Place(file, location.getLineNr(), location.getColumnNr());
  }

  private void checkWhole() {
    boolean down = sections.stream().anyMatch(one -> one.direction() == Direction.DOWN);
    if (sections.stream().noneMatch(one -> one.direction() == Direction.UP)
        && !problems.hasErrors()) {
      problems.error(Place.of(file), "there is no way up", "write \"up\": [ … ]");
    }
    if (down && noWayDown.isPresent()) {
      problems.error(
          Place.of(file), "there is a way down, and a reason for none", "keep one of the two");
    }
  }
}
