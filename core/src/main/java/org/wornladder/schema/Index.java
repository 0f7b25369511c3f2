package org.wornladder.schema;

import java.util.List;
import java.util.Map;

/**
 * An index.
 *
 * @param columns in index order; an expression stands as {@code (expression)}
 * @param fromConstraint whether a primary key or unique constraint made it
 * @param definition all that is to be said of it, in the engine's canonical words
 */
public record Index(
    String name,
    List<String> columns,
    boolean unique,
    boolean partial,
    boolean fromConstraint,
    String definition) {
  public Index {
    columns = List.copyOf(columns);
  }

  Element element() {
    return new Element(Kind.INDEX, name, Map.of(Element.DEFINITION, definition), List.of());
  }
}
