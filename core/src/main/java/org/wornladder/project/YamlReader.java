package org.wornladder.project;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.wornladder.sql.Place;
import org.yaml.snakeyaml.LoaderOptions;
import org.yaml.snakeyaml.error.Mark;
import org.yaml.snakeyaml.error.MarkedYAMLException;
import org.yaml.snakeyaml.error.YAMLException;
import org.yaml.snakeyaml.events.AliasEvent;
import org.yaml.snakeyaml.events.Event;
import org.yaml.snakeyaml.events.ScalarEvent;
import org.yaml.snakeyaml.parser.Parser;
import org.yaml.snakeyaml.parser.ParserImpl;
import org.yaml.snakeyaml.reader.StreamReader;

/**
 * Reads YAML event by event into {@link YamlNode}s, which keep their places. It stands on the
 * parser that Jackson's own YAML stands on: a tenth of a short command's time lies between the two.
 */
final class YamlReader {
  /** YAML 1.2, section 10.3.2: the plain words for a null. */
  private static final Set<String> NULLS = Set.of("", "~", "null", "Null", "NULL");

  private final String file;
  private final Problems problems;
  private final Parser parser;

  private YamlReader(String file, Problems problems, Parser parser) {
    this.file = file;
    this.problems = problems;
    this.parser = parser;
  }

  /** The tree of a YAML text; empty, with a problem collected, if it is malformed or empty. */
  static Optional<YamlNode> read(String file, String text, Problems problems) {
    try {
      Parser parser = new ParserImpl(new StreamReader(text), new LoaderOptions());
      return new YamlReader(file, problems, parser).document();
    } catch (MarkedYAMLException e) {
      problems.error(place(file, e.getProblemMark()), "this is not YAML: " + e.getProblem(), "");
    } catch (YAMLException e) {
      problems.error(Place.of(file), "this is not YAML: " + firstLine(e.getMessage()), "");
    }
    return Optional.empty();
  }

  private static String firstLine(String message) {
    int end = message.indexOf('\n');
    return end < 0 ? message : message.substring(0, end);
  }

  private Optional<YamlNode> document() {
    parser.getEvent();
    if (parser.checkEvent(Event.ID.StreamEnd)) {
      problems.error(Place.of(file), "the file is empty", "ladder init writes a new one");
      return Optional.empty();
    }
    parser.getEvent();
    YamlNode tree = node();
    parser.getEvent();
    if (!parser.checkEvent(Event.ID.StreamEnd)) {
      Place second = place(parser.peekEvent());
      problems.error(second, "a second document begins here", "keep one in a file");
    }
    return Optional.of(tree);
  }

  private YamlNode node() {
    Event event = parser.getEvent();
    if (event.is(Event.ID.MappingStart)) {
      return entries(place(event));
    }
    if (event.is(Event.ID.SequenceStart)) {
      return items(place(event));
    }
    if (event instanceof AliasEvent alias) {
      problems.error(place(event), "*" + alias.getAnchor() + " is not read here", "write it out");
      return new YamlNode.Scalar(place(event), "", true, true);
    }
    ScalarEvent scalar = (ScalarEvent) event;
    boolean isNull = scalar.isPlain() && NULLS.contains(scalar.getValue());
    return new YamlNode.Scalar(
        place(event), isNull ? "" : scalar.getValue(), isNull, scalar.isPlain());
  }

  private YamlNode items(Place place) {
    List<YamlNode> items = new ArrayList<>();
    while (!parser.checkEvent(Event.ID.SequenceEnd)) {
      items.add(node());
    }
    parser.getEvent();
    return new YamlNode.Items(place, List.copyOf(items));
  }

  private YamlNode entries(Place place) {
    Map<String, YamlNode.Entry> entries = new LinkedHashMap<>();
    while (!parser.checkEvent(Event.ID.MappingEnd)) {
      YamlNode key = node();
      YamlNode.Entry entry = new YamlNode.Entry(key.place(), node());
      if (key instanceof YamlNode.Scalar word) {
        YamlNode.Entry twice = entries.put(word.text(), entry);
        if (twice != null) {
          String found = word.text() + " stands twice; first on line " + twice.key().line();
          problems.error(key.place(), found, "keep one of them");
        }
      } else {
        problems.error(key.place(), "a key is a word, not a list or a map", "");
      }
    }
    parser.getEvent();
    return new YamlNode.Entries(place, entries);
  }

  private Place place(Event event) {
    return place(file, event.getStartMark());
  }

  private static Place place(String file, Mark mark) {
    return new Place(file, mark.getLine() + 1, mark.getColumn() + 1);
  }
}
