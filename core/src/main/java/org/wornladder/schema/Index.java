package org.wornladder.schema;

import java.util.List;
import java.util.Map;
import java.util.function.UnaryOperator;

/**
 * An index.
 *
 * @param columns in index order; an expression stands as {@code (expression)}
 * @param fromConstraint whether a primary key or unique constraint made it
 * @param unnamed whether the engine seems to have invented the name
 * @param definition all that is to be said of it, in the engine's canonical form
 * @param comment empty if it has none
 */
public record Index(
    String name,
    List<String> columns,
    boolean unique,
    boolean partial,
    boolean fromConstraint,
    boolean unnamed,
    String definition,
    String comment) {
  public Index {
    columns = List.copyOf(columns);
  }

  /** One that somebody named. */
  public Index(
      String name,
      List<String> columns,
      boolean unique,
      boolean partial,
      boolean fromConstraint,
      String definition) {
    this(name, columns, unique, partial, fromConstraint, false, definition, "");
  }

  /** The same with other texts in its definition. */
  Index map(UnaryOperator<String> texts) {
    return new Index(
        name,
        columns.stream().map(texts).toList(),
        unique,
        partial,
        fromConstraint,
        unnamed,
        texts.apply(definition),
        texts.apply(comment));
  }

  Element element() {
    Map<String, String> facts =
        Facts.with(
            Map.of(),
            Element.DEFINITION,
            definition,
            Column.COMMENT,
            comment,
            Element.GENERATED_NAME,
            unnamed ? name : "");
    return new Element(Kind.INDEX, name, facts, List.of());
  }
}
