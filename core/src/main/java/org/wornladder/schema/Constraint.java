package org.wornladder.schema;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/**
 * A unique, check or exclusion constraint.
 *
 * @param name empty if the engine invented it
 * @param definition what it demands, in the engine's canonical words, such as {@code (code,
 *     season)}
 */
public record Constraint(Kind kind, Optional<String> name, String definition) {
  Element element() {
    Map<String, String> facts = new TreeMap<>();
    facts.put("definition", definition);
    return new Element(kind, name.orElse(definition), facts, List.of());
  }
}
