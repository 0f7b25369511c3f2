package org.wornladder.project;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.yaml.snakeyaml.DumperOptions.FlowStyle;
import org.yaml.snakeyaml.DumperOptions.ScalarStyle;
import org.yaml.snakeyaml.error.YAMLException;
import org.yaml.snakeyaml.nodes.CollectionNode;
import org.yaml.snakeyaml.nodes.MappingNode;
import org.yaml.snakeyaml.nodes.Node;
import org.yaml.snakeyaml.nodes.NodeTuple;
import org.yaml.snakeyaml.nodes.ScalarNode;
import org.yaml.snakeyaml.nodes.SequenceNode;

/**
 * Writes a YAML file anew in which most rows stay as they are. A row in a list with hyphens begins
 * with its hyphen, and ends with the comment on its last line.
 */
final class YamlRevision extends TextRevision {
  private final SequenceNode list;
  private final Map<Long, MappingNode> maps = new LinkedHashMap<>();

  YamlRevision(PendingFile file, SeedSource source, List<SeedColumn> columns) {
    super(file, source, columns);
    list = (SequenceNode) YamlReader.compose(text());
    list.getValue().forEach(item -> maps.put(position(item), (MappingNode) item));
  }

  private static long position(Node item) {
    return SeedSource.position(
        item.getStartMark().getLine() + 1, item.getStartMark().getColumn() + 1);
  }

  private static boolean isFlow(CollectionNode<?> node) {
    return node.getFlowStyle() == FlowStyle.FLOW;
  }

  @Override
  List<Row> rows(String text) {
    YamlOffsets offsets = new YamlOffsets(text);
    SequenceNode items = (SequenceNode) YamlReader.compose(text);
    List<Row> rows = new ArrayList<>();
    int done = 0;
    for (Node item : items.getValue()) {
      Map<String, Field> fields = fields((MappingNode) item, offsets);
      int start = offsets.start(item);
      int end = offsets.end(item);
      if (!isFlow(items)) {
        start = offsets.hyphen(done, start);
        end = offsets.withComment(end);
      }
      rows.add(new Row(position(item), start, end, fields));
      done = end;
    }
    return rows;
  }

  private static Map<String, Field> fields(MappingNode map, YamlOffsets offsets) {
    Map<String, Field> fields = new LinkedHashMap<>();
    for (NodeTuple tuple : map.getValue()) {
      ScalarNode key = (ScalarNode) tuple.getKeyNode();
      fields.put(key.getValue(), offsets.field(tuple));
    }
    return fields;
  }

  private Row lastRow() {
    return rows().get(rows().size() - 1);
  }

  /** The value that a row has for a column. */
  private Optional<Node> node(Row row, String column) {
    return maps.get(row.position()).getValue().stream()
        .filter(tuple -> ((ScalarNode) tuple.getKeyNode()).getValue().equals(column))
        .map(NodeTuple::getValueNode)
        .findFirst();
  }

  @Override
  String changed(Row row, Map<Integer, Optional<String>> values) {
    MappingNode map = maps.get(row.position());
    StringBuilder changed = new StringBuilder();
    int done = row.start();
    for (Map.Entry<String, Field> field : row.fields().entrySet()) {
      Optional<String> value = newText(row, field.getKey(), values);
      if (value.isPresent()) {
        Field at = field.getValue();
        int start = valueStart(at, node(row, field.getKey()).orElseThrow());
        boolean needsBlank = text().charAt(start - 1) == ':';
        changed.append(text(), done, start).append(needsBlank ? " " : "").append(value.get());
        done = Math.max(start, at.end());
      }
    }
    List<String> more = newFields(row, values, isFlow(map));
    if (more.isEmpty()) {
      return changed.append(text(), done, row.end()).toString();
    }
    if (isFlow(map)) {
      int brace = text().lastIndexOf('}', row.end() - 1);
      String rest = text(done, brace).stripTrailing();
      String comma = map.getValue().isEmpty() ? "" : ", ";
      changed.append(rest).append(comma).append(String.join(", ", more));
      return changed.append(text(), done + rest.length(), row.end()).toString();
    }
    changed.append(text(), done, row.end());
    String line = "\n" + " ".repeat(map.getStartMark().getColumn());
    more.forEach(field -> changed.append(line).append(field));
    return changed.toString();
  }

  /** Where the text begins that a new value replaces: behind the colon where lines go with it. */
  private int valueStart(Field at, Node value) {
    boolean isBlock = value instanceof CollectionNode<?> nested && !isFlow(nested);
    return isBlock ? text().indexOf(':', at.keyEnd()) + 1 : at.start();
  }

  private Optional<String> newText(Row row, String column, Map<Integer, Optional<String>> values) {
    for (Map.Entry<Integer, Optional<String>> value : values.entrySet()) {
      if (columns().get(value.getKey()).name().equals(column)) {
        boolean inFlow = isFlow(maps.get(row.position()));
        return Optional.of(
            value(value.getValue(), columns().get(value.getKey()), node(row, column), inFlow));
      }
    }
    return Optional.empty();
  }

  private List<String> newFields(Row row, Map<Integer, Optional<String>> values, boolean inFlow) {
    List<String> fields = new ArrayList<>();
    for (int i = 0; i < columns().size(); i++) {
      boolean isNew = values.containsKey(i) && !row.fields().containsKey(columns().get(i).name());
      if (isNew && values.get(i).isPresent()) {
        fields.add(field(i, values.get(i), inFlow));
      }
    }
    return fields;
  }

  private String field(int number, Optional<String> value, boolean inFlow) {
    SeedColumn column = columns().get(number);
    Optional<Node> like = Optional.empty();
    for (int i = rows().size() - 1; i >= 0 && like.isEmpty(); i--) {
      like = node(rows().get(i), column.name()).filter(node -> !isNull(node));
    }
    return YamlText.string(column.name(), true) + ": " + value(value, column, like, inFlow);
  }

  private static boolean isNull(Node node) {
    return node instanceof ScalarNode scalar
        && scalar.getScalarStyle() == ScalarStyle.PLAIN
        && YamlReader.NULLS.contains(scalar.getValue());
  }

  /**
   * A value's text.
   *
   * @param like a value of the same column, whose quotes it takes over
   */
  private static String value(
      Optional<String> value, SeedColumn column, Optional<Node> like, boolean inFlow) {
    if (value.isEmpty()
        || like.isEmpty()
        || isNull(like.get())
        || !(like.get() instanceof ScalarNode scalar)) {
      boolean wasNested = like.isPresent() && like.get() instanceof CollectionNode;
      SeedColumn.Shape shape =
          wasNested ? column.shapeOverNested(value.orElse("")) : column.shape();
      return YamlText.value(value, shape, inFlow);
    }
    String text = value.get();
    return switch (scalar.getScalarStyle()) {
      case DOUBLE_QUOTED -> YamlText.scalar(text, ScalarStyle.DOUBLE_QUOTED);
      case SINGLE_QUOTED ->
          text.contains("\n")
              ? YamlText.string(text, inFlow)
              : YamlText.scalar(text, ScalarStyle.SINGLE_QUOTED);
      case PLAIN -> canBePlain(text, inFlow) ? text : YamlText.string(text, inFlow);
      default -> YamlText.string(text, inFlow);
    };
  }

  /** Whether a text without quotes is read as itself. */
  private static boolean canBePlain(String text, boolean inFlow) {
    try {
      Node read = YamlReader.compose(inFlow ? "[" + text + "]" : "- " + text);
      return !text.contains("\n")
          && read instanceof SequenceNode items
          && items.getValue().size() == 1
          && items.getValue().get(0) instanceof ScalarNode scalar
          && scalar.getScalarStyle() == ScalarStyle.PLAIN
          && scalar.getValue().equals(text)
          && !isNull(scalar);
    } catch (YAMLException e) {
      return false;
    }
  }

  @Override
  String added(List<Optional<String>> values) {
    MappingNode map = maps.get(lastRow().position());
    List<String> fields = new ArrayList<>();
    for (int i = 0; i < values.size(); i++) {
      fields.add(field(i, values.get(i), isFlow(map)));
    }
    if (!isFlow(map)) {
      int column = map.getStartMark().getColumn();
      return hyphen(map) + String.join("\n" + " ".repeat(column), fields);
    }
    int brace = text().indexOf('{', lastRow().start());
    boolean isSpaced = text().charAt(brace + 1) == ' ';
    String row = (isSpaced ? "{ " : "{") + String.join(", ", fields) + (isSpaced ? " }" : "}");
    return isFlow(list) ? row : hyphen(map) + row;
  }

  /** The hyphen with the blanks up to the row, on one line. */
  private String hyphen(MappingNode map) {
    int start = lastRow().start();
    int line = text().lastIndexOf('\n', start - 1) + 1;
    int blanks = map.getStartMark().getColumn() - (start - line) - 1;
    return "-" + " ".repeat(Math.max(1, blanks));
  }

  @Override
  String separator() {
    List<Row> rows = rows();
    if (rows.size() > 1) {
      String last = text(rows.get(rows.size() - 2).end(), lastRow().start());
      if (isFlow(list) || last.isBlank()) {
        return last;
      }
    }
    if (isFlow(list)) {
      return ", ";
    }
    int line = text().lastIndexOf('\n', lastRow().start() - 1) + 1;
    return "\n" + text(line, lastRow().start());
  }

  @Override
  SeedRows read(SeedSource changed) {
    return YamlSeed.open(changed);
  }

  @Override
  String empty() {
    return "[]\n";
  }
}
