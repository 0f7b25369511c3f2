package org.wornladder.schema;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.function.UnaryOperator;

/**
 * An object in a database as plain facts, in which structures of any two engines can be compared.
 *
 * @param name what distinguishes it from others of its kind in the same place; an object whose name
 *     nobody chose is identified by what it is made of
 * @param facts by name, in the order of their names; one that is not set is not there
 * @param parts columns in the table's order, then the rest by kind and name
 */
public record Element(Kind kind, String name, Map<String, String> facts, List<Element> parts) {
  /** The fact that is the defining statement, or what a constraint demands. */
  public static final String DEFINITION = "definition";

  /** The fact that names the table it belongs to. */
  public static final String TABLE = "table";

  /**
   * The name of a fact that does not count when structures are compared: the text that made it,
   * where an engine keeps that.
   */
  public static final String TEXT = "text";

  /**
   * The name of a fact that does not count when structures are compared: the name that the engine
   * gave to what nobody named.
   */
  public static final String GENERATED_NAME = "known as";

  public Element {
    facts = Facts.of(facts);
    parts = List.copyOf(parts);
  }

  public Optional<String> fact(String word) {
    return Optional.ofNullable(facts.get(word));
  }

  /** Whether a fact counts when structures are compared. */
  public static boolean counts(String word) {
    return !word.equals(TEXT) && !word.equals(GENERATED_NAME);
  }

  /** The same with the facts alone that count, in its parts too. */
  public Element meaning() {
    Map<String, String> counting = new TreeMap<>(facts);
    counting.keySet().removeIf(word -> !counts(word));
    List<Element> meant = new ArrayList<>();
    parts.forEach(part -> meant.add(part.meaning()));
    return new Element(kind, name, counting, meant);
  }

  /** The same with other texts in its facts, and where what it is made of is its name. */
  public Element map(UnaryOperator<String> texts) {
    return new Element(
        kind,
        texts.apply(name),
        Facts.map(facts, texts),
        parts.stream().map(part -> part.map(texts)).toList());
  }

  /** The same with other parts. */
  public Element withParts(List<Element> others) {
    return new Element(kind, name, facts, others);
  }

  /** The same without the parts that are hidden. */
  public Element readable() {
    List<Element> shown = new ArrayList<>(parts);
    return shown.removeIf(Element::isHidden) ? withParts(shown) : this;
  }

  /** Its parts that are hidden, each with its name in front. */
  public List<Element> hidden() {
    List<Element> hidden = new ArrayList<>();
    for (Element part : parts) {
      if (part.isHidden()) {
        hidden.add(new Element(part.kind, name + " " + part.name, part.facts, List.of()));
      }
    }
    return hidden;
  }

  /** Whether it is there, but what it is may not be read by the user who asked. */
  public boolean isHidden() {
    return switch (kind) {
      case VIEW, MATERIALISED_VIEW, FUNCTION, PROCEDURE, TRIGGER, EVENT ->
          !facts.containsKey(DEFINITION);
      case FOREIGN_KEY -> ForeignKey.NOT_READABLE.equals(facts.get(ForeignKey.ON_DELETE));
      default -> false;
    };
  }

  /** All parts of a kind. */
  public List<Element> parts(Kind wanted) {
    return parts.stream().filter(part -> part.kind() == wanted).toList();
  }

  /** What distinguishes it from all others in its place. */
  public Key key() {
    return new Key(kind, name);
  }

  /** A kind and a name. */
  public record Key(Kind kind, String name) {}
}
