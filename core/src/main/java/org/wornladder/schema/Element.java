package org.wornladder.schema;

import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * A thing in a database as plain facts, which any two engines can be told by and compared by.
 *
 * @param name what tells it from others of its kind in the same place; a thing whose name nobody
 *     chose is told by what it is made of
 * @param facts by word, in the words' order; one that is not set is not there
 * @param parts columns in the table's order, then the rest by kind and name
 */
public record Element(Kind kind, String name, Map<String, String> facts, List<Element> parts) {
  public Element {
    facts = Facts.of(facts);
    parts = List.copyOf(parts);
  }

  public Optional<String> fact(String word) {
    return Optional.ofNullable(facts.get(word));
  }

  /** What tells it from all others in its place. */
  public Key key() {
    return new Key(kind, name);
  }

  /** A kind and a name. */
  public record Key(Kind kind, String name) {}
}
