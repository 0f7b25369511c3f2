package org.wornladder.project;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.yaml.snakeyaml.DumperOptions;
import org.yaml.snakeyaml.DumperOptions.FlowStyle;
import org.yaml.snakeyaml.DumperOptions.ScalarStyle;
import org.yaml.snakeyaml.Yaml;

/** Writes rows and values as YAML. */
final class YamlText {
  static final ScalarStyle DOUBLE = ScalarStyle.DOUBLE_QUOTED;

  private YamlText() {}

  /** A row as an item of a list, with the end of its last line. */
  static String row(List<SeedColumn> columns, List<Optional<String>> values) {
    StringBuilder row = new StringBuilder();
    for (int i = 0; i < columns.size(); i++) {
      row.append(i == 0 ? "- " : "  ").append(string(columns.get(i).name(), true)).append(": ");
      row.append(value(values.get(i), columns.get(i).shape(), false)).append('\n');
    }
    return row.toString();
  }

  /**
   * A value on one line.
   *
   * @param inFlow whether it stands within braces or brackets
   */
  static String value(Optional<String> value, SeedColumn.Shape shape, boolean inFlow) {
    if (value.isEmpty()) {
      return "null";
    }
    String text = value.get();
    return switch (shape) {
      case TEXT -> string(text, inFlow);
      case PLAIN -> JsonText.isPlain(text) ? text : string(text, inFlow);
      case NESTED -> JsonText.isListOrMap(text) ? nested(text) : string(text, inFlow);
    };
  }

  /**
   * A string, in quotes where it needs them.
   *
   * @param inFlow whether it stands within braces or brackets, or is a key
   */
  static String string(String text, boolean inFlow) {
    boolean sure =
        text.contains("\n") || inFlow && text.chars().anyMatch(c -> ",[]{}:?".indexOf(c) >= 0);
    return scalar(text, sure ? ScalarStyle.DOUBLE_QUOTED : ScalarStyle.PLAIN);
  }

  /** A string in a style, or in quotes where the style cannot hold it. */
  static String scalar(String text, ScalarStyle style) {
    DumperOptions options = options();
    options.setDefaultScalarStyle(style);
    return new Yaml(options).dump(text).stripTrailing();
  }

  private static DumperOptions options() {
    DumperOptions options = new DumperOptions();
    options.setDefaultFlowStyle(FlowStyle.FLOW);
    options.setWidth(Integer.MAX_VALUE);
    options.setSplitLines(false);
    return options;
  }

  /** A list or map in JSON, on one line of YAML. */
  private static String nested(String json) {
    try (JsonParser parser = new JsonFactory().createParser(json)) {
      parser.nextToken();
      return new Yaml(options()).dump(tree(parser)).stripTrailing();
    } catch (IOException e) {
      throw new IllegalStateException("the text was read before", e);
    }
  }

  private static Object tree(JsonParser parser) throws IOException {
    return switch (parser.currentToken()) {
      case START_OBJECT -> map(parser);
      case START_ARRAY -> list(parser);
      case VALUE_NUMBER_INT -> parser.getBigIntegerValue();
      case VALUE_NUMBER_FLOAT -> parser.getDecimalValue();
      case VALUE_TRUE -> true;
      case VALUE_FALSE -> false;
      case VALUE_NULL -> null;
      default -> parser.getText();
    };
  }

  private static Map<String, Object> map(JsonParser parser) throws IOException {
    Map<String, Object> map = new LinkedHashMap<>();
    while (parser.nextToken() != JsonToken.END_OBJECT) {
      String name = parser.currentName();
      parser.nextToken();
      map.put(name, tree(parser));
    }
    return map;
  }

  private static List<Object> list(JsonParser parser) throws IOException {
    List<Object> list = new ArrayList<>();
    while (parser.nextToken() != JsonToken.END_ARRAY) {
      list.add(tree(parser));
    }
    return list;
  }
}
