package org.wornladder.schema;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.UnaryOperator;

/**
 * A unique, check or exclusion constraint.
 *
 * @param name empty if the engine invented it
 * @param knownAs the name that the engine knows it by, chosen or not; empty if it has none
 * @param definition what it demands, in the engine's canonical form, such as {@code (code, season)}
 * @param comment empty if it has none
 */
public record Constraint(
    Kind kind, Optional<String> name, String knownAs, String definition, String comment) {
  /** One without a comment. */
  public Constraint(Kind kind, Optional<String> name, String knownAs, String definition) {
    this(kind, name, knownAs, definition, "");
  }

  /** The same with other texts in its definition. */
  Constraint map(UnaryOperator<String> texts) {
    return new Constraint(kind, name, knownAs, texts.apply(definition), texts.apply(comment));
  }

  Element element() {
    Map<String, String> facts =
        Facts.with(
            Map.of(),
            Element.DEFINITION,
            definition,
            Element.GENERATED_NAME,
            name.isPresent() ? "" : knownAs,
            Column.COMMENT,
            comment,
            ForeignKey.NAME,
            name.orElse(""));
    return new Element(kind, name.orElse(definition), facts, List.of());
  }
}
