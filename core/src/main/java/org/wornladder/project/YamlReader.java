package org.wornladder.project;

import java.io.StringReader;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.wornladder.Advice;
import org.wornladder.sql.Place;
import org.yaml.snakeyaml.DumperOptions.ScalarStyle;
import org.yaml.snakeyaml.LoaderOptions;
import org.yaml.snakeyaml.composer.Composer;
import org.yaml.snakeyaml.error.Mark;
import org.yaml.snakeyaml.error.MarkedYAMLException;
import org.yaml.snakeyaml.error.YAMLException;
import org.yaml.snakeyaml.nodes.MappingNode;
import org.yaml.snakeyaml.nodes.Node;
import org.yaml.snakeyaml.nodes.NodeTuple;
import org.yaml.snakeyaml.nodes.ScalarNode;
import org.yaml.snakeyaml.nodes.SequenceNode;
import org.yaml.snakeyaml.parser.ParserImpl;
import org.yaml.snakeyaml.reader.StreamReader;
import org.yaml.snakeyaml.resolver.Resolver;

/** Reads YAML into {@link YamlNode}s, which keep their places. */
final class YamlReader {
  /** YAML 1.2, section 10.3.2: the plain words for a null. */
  static final Set<String> NULLS = Set.of("", "~", "null", "Null", "NULL");

  private final String file;
  private final Problems problems;

  private YamlReader(String file, Problems problems) {
    this.file = file;
    this.problems = problems;
  }

  /** The tree of a YAML text; empty, with a problem collected, if it is malformed or empty. */
  static Optional<YamlNode> read(String file, String text, Problems problems) {
    try {
      Composer composer = composer(text);
      if (!composer.checkNode()) {
        problems.error(Place.of(file), "the file is empty", Advice.of(Advice.Code.INIT_WRITES_IT));
        return Optional.empty();
      }
      YamlReader reader = new YamlReader(file, problems);
      YamlNode tree = reader.tree(composer.getNode());
      if (composer.checkNode()) {
        Place second = reader.place(composer.getNode().getStartMark());
        problems.error(second, "a second document begins here", "keep one in a file");
      }
      return Optional.of(tree);
    } catch (MarkedYAMLException e) {
      problems.error(
          new YamlReader(file, problems).place(e.getProblemMark()),
          "this is not YAML: " + e.getProblem(),
          "");
    } catch (YAMLException e) {
      String message = String.valueOf(e.getMessage()).lines().findFirst().orElse("");
      problems.error(Place.of(file), "this is not YAML: " + message, "");
    }
    return Optional.empty();
  }

  /**
   * The root of a YAML text that has one, with the places where its parts begin and end.
   *
   * @throws YAMLException if it is malformed
   */
  static Node compose(String text) {
    return composer(text).getSingleNode();
  }

  private static Composer composer(String text) {
    LoaderOptions options = new LoaderOptions();
    options.setMaxAliasesForCollections(0);
    StreamReader reader = new StreamReader(new StringReader(text));
    return new Composer(new ParserImpl(reader, options), new Resolver(), options);
  }

  private YamlNode tree(Node node) {
    if (node instanceof MappingNode map) {
      return entries(map);
    }
    if (node instanceof SequenceNode list) {
      return new YamlNode.Items(
          place(node.getStartMark()), list.getValue().stream().map(this::tree).toList());
    }
    ScalarNode scalar = (ScalarNode) node;
    boolean plain = scalar.getScalarStyle() == ScalarStyle.PLAIN;
    boolean isNull = plain && NULLS.contains(scalar.getValue());
    return new YamlNode.Scalar(
        place(node.getStartMark()), isNull ? "" : scalar.getValue(), isNull, plain);
  }

  private YamlNode entries(MappingNode map) {
    Map<String, YamlNode.Entry> entries = new LinkedHashMap<>();
    for (NodeTuple tuple : map.getValue()) {
      YamlNode key = tree(tuple.getKeyNode());
      YamlNode.Entry entry = new YamlNode.Entry(key.place(), tree(tuple.getValueNode()));
      if (key instanceof YamlNode.Scalar word) {
        YamlNode.Entry first = entries.put(word.text(), entry);
        if (first != null) {
          String found = word.text() + " is written twice; first on line " + first.key().line();
          problems.error(key.place(), found, "keep one of them");
        }
      } else {
        problems.error(key.place(), "a key is a word, not a list or a map", "");
      }
    }
    return new YamlNode.Entries(place(map.getStartMark()), entries);
  }

  private Place place(Mark mark) {
    return new Place(file, mark.getLine() + 1, mark.getColumn() + 1);
  }
}
