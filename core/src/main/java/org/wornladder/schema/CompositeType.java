package org.wornladder.schema;

import java.util.List;
import java.util.Map;
import java.util.SortedMap;

/**
 * A type of several attributes.
 *
 * @param attributes in their order, each with a type and perhaps a collation
 * @param more what else is said of it, by name, such as {@code comment}
 */
public record CompositeType(
    ObjectId id, List<Column> attributes, Map<String, String> more, List<Dependency> dependsOn)
    implements DatabaseObject {
  public CompositeType {
    attributes = List.copyOf(attributes);
    more = Facts.of(more);
    dependsOn = Dependency.sorted(dependsOn);
  }

  static CompositeType of(
      ObjectId id,
      Map<String, String> facts,
      List<? extends Part> parts,
      List<Dependency> dependsOn) {
    return new CompositeType(
        id,
        parts.stream().filter(Column.class::isInstance).map(Column.class::cast).toList(),
        facts,
        dependsOn);
  }

  @Override
  public List<Part> parts() {
    return List.copyOf(attributes);
  }

  @Override
  public SortedMap<String, String> facts() {
    return Facts.with(more);
  }
}
