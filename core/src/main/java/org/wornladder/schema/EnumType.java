package org.wornladder.schema;

import java.util.List;
import java.util.Map;
import java.util.SortedMap;

/**
 * An enumerated type.
 *
 * @param labels in their order
 * @param more what else is said of it, by name, such as {@code comment}
 */
public record EnumType(ObjectId id, List<String> labels, Map<String, String> more)
    implements DatabaseObject {
  public static final String LABELS = "labels";

  public EnumType {
    labels = List.copyOf(labels);
    more = Facts.of(more);
  }

  static EnumType of(ObjectId id, Map<String, String> facts) {
    return new EnumType(
        id, NameList.inParentheses(facts.getOrDefault(LABELS, "()")), Facts.without(facts, LABELS));
  }

  @Override
  public List<Part> parts() {
    return List.of();
  }

  @Override
  public List<Dependency> dependsOn() {
    return List.of();
  }

  @Override
  public SortedMap<String, String> facts() {
    return Facts.with(more, LABELS, "(" + NameList.write(labels) + ")");
  }
}
