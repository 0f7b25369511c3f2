package org.wornladder.schema;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SortedMap;

/**
 * A type with constraints.
 *
 * @param type the type that it is based on
 * @param checks what values must fulfil
 * @param more what else is said of it, by name: {@code default}, {@code collation}, {@code
 *     comment}, {@code nullable} where it is not
 */
public record DomainType(
    ObjectId id,
    String type,
    List<Constraint> checks,
    Map<String, String> more,
    List<Dependency> dependsOn)
    implements DatabaseObject {
  public DomainType {
    checks = Table.byKindAndName(checks);
    more = Facts.of(more);
    dependsOn = Dependency.sorted(dependsOn);
  }

  static DomainType of(
      ObjectId id,
      Map<String, String> facts,
      List<? extends Part> parts,
      List<Dependency> dependsOn) {
    return new DomainType(
        id,
        facts.getOrDefault(Column.TYPE, ""),
        parts.stream().filter(Constraint.class::isInstance).map(Constraint.class::cast).toList(),
        Facts.without(facts, Column.TYPE),
        dependsOn);
  }

  /** One of {@link #more}. */
  public Optional<String> more(String word) {
    return Optional.ofNullable(more.get(word));
  }

  public boolean nullable() {
    return !more.containsKey(Column.NULLABLE);
  }

  @Override
  public List<Part> parts() {
    return List.copyOf(checks);
  }

  @Override
  public SortedMap<String, String> facts() {
    return Facts.with(more, Column.TYPE, type);
  }
}
