package org.wornladder.project;

import java.util.List;
import org.yaml.snakeyaml.DumperOptions.FlowStyle;
import org.yaml.snakeyaml.error.Mark;
import org.yaml.snakeyaml.nodes.CollectionNode;
import org.yaml.snakeyaml.nodes.MappingNode;
import org.yaml.snakeyaml.nodes.Node;
import org.yaml.snakeyaml.nodes.NodeTuple;
import org.yaml.snakeyaml.nodes.SequenceNode;

/** Where the parts of a YAML text begin and end, as positions in its string. */
final class YamlOffsets {
  private final String text;

  /** The position of a mark that was asked for, so that the next one is found from there. */
  private int lastIndex;

  private int lastOffset;

  YamlOffsets(String text) {
    this.text = text;
  }

  /** Marks count code points. */
  int of(Mark mark) {
    lastOffset = text.offsetByCodePoints(lastOffset, mark.getIndex() - lastIndex);
    lastIndex = mark.getIndex();
    return lastOffset;
  }

  int start(Node node) {
    return of(node.getStartMark());
  }

  /** Where a node's own text ends, without the blanks and comments behind it. */
  int end(Node node) {
    boolean isFlow =
        node instanceof CollectionNode<?> list && list.getFlowStyle() == FlowStyle.FLOW;
    if (!isFlow && node instanceof MappingNode map && !map.getValue().isEmpty()) {
      return field(last(map.getValue())).end();
    }
    if (!isFlow && node instanceof SequenceNode list && !list.getValue().isEmpty()) {
      return end(last(list.getValue()));
    }
    int start = of(node.getStartMark());
    int end = of(node.getEndMark());
    while (end > start && Character.isWhitespace(text.charAt(end - 1))) {
      end--;
    }
    return end;
  }

  /** Where a column's name and value stand in a row. */
  TextRevision.Field field(NodeTuple tuple) {
    int keyEnd = end(tuple.getKeyNode());
    int start = start(tuple.getValueNode());
    int end = end(tuple.getValueNode());
    if (start < keyEnd) {
      // An alias: the node stands where its anchor is.
      start = text.indexOf('*', keyEnd);
      end = start;
      while (end < text.length() && " \t\r\n,}]".indexOf(text.charAt(end)) < 0) {
        end++;
      }
    }
    return new TextRevision.Field(start(tuple.getKeyNode()), keyEnd, start, end);
  }

  private static <T> T last(List<T> list) {
    return list.get(list.size() - 1);
  }

  /** The end of a line whose rest is blank or a comment; the position itself otherwise. */
  int withComment(int position) {
    int end = text.indexOf('\n', position);
    String rest = text.substring(position, end < 0 ? text.length() : end).stripTrailing();
    return rest.isBlank() || rest.matches("\\s+#.*") ? position + rest.length() : position;
  }

  /** The hyphen of a list's item: on the last line that begins with one. */
  int hyphen(int from, int to) {
    int found = to;
    for (int at = from; at < to; at++) {
      boolean hyphen = text.charAt(at) == '-' && Character.isWhitespace(text.charAt(at + 1));
      int line = text.lastIndexOf('\n', at - 1) + 1;
      if (hyphen && text.substring(line, at).isBlank()) {
        found = at;
      }
    }
    return found;
  }
}
