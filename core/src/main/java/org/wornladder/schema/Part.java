package org.wornladder.schema;

import java.util.List;
import java.util.Map;
import java.util.function.UnaryOperator;

/**
 * A part of an object: a column, key, constraint or index of a table, an index of a materialised
 * view, a check of a domain, an attribute of a composite type.
 */
public sealed interface Part extends Described
    permits Column, PrimaryKey, ForeignKey, Constraint, Index {

  /**
   * The part that some facts describe.
   *
   * @param kind that of a part
   * @param name a column's or an index's name; that of the others follows from their facts
   * @throws IllegalArgumentException if it is the kind of no part
   */
  static Part of(Kind kind, String name, Map<String, String> facts, List<Dependency> dependsOn) {
    return switch (kind) {
      case COLUMN -> Column.of(name, facts, dependsOn);
      case PRIMARY_KEY -> PrimaryKey.of(facts);
      case FOREIGN_KEY -> ForeignKey.of(facts);
      case INDEX -> Index.of(name, facts, dependsOn);
      case UNIQUE, CHECK, EXCLUSION -> Constraint.of(kind, facts, dependsOn);
      default -> throw new IllegalArgumentException(kind + " is no part of an object");
    };
  }

  /** The same with other facts. */
  default Part withFacts(Map<String, String> facts) {
    return of(kind(), name(), facts, dependsOn());
  }

  /** The same with other texts in its facts. */
  default Part map(UnaryOperator<String> texts) {
    return withFacts(Facts.map(facts(), texts));
  }

  @Override
  default List<Part> parts() {
    return List.of();
  }

  @Override
  default boolean isHidden() {
    return false;
  }
}
