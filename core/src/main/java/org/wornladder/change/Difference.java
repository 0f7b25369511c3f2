package org.wornladder.change;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.UnaryOperator;
import org.wornladder.schema.Element;
import org.wornladder.schema.Kind;

/**
 * One object in which two structures differ. An object that is there on one side only means all its
 * parts.
 *
 * @param table the table it is part of; empty if it has none
 * @param before empty if it was not there
 * @param after empty if it is not there any more
 */
public record Difference(String table, Optional<Element> before, Optional<Element> after) {
  private static final Comparator<String> TYPE_FIRST =
      Comparator.comparing((String word) -> !word.equals("type"))
          .thenComparing(Comparator.naturalOrder());

  /** What became of an object. */
  public enum Change {
    ADDED,
    REMOVED,
    CHANGED
  }

  /** A fact that is not the same on both sides; empty where it is not set. */
  public record FactChange(String name, Optional<String> before, Optional<String> after) {}

  private Element either() {
    return after.or(() -> before).orElseThrow();
  }

  /** The same but for some facts, which are taken to be as they are after it. */
  Difference without(List<FactChange> settled) {
    Element was = before.orElseThrow();
    Map<String, String> facts = new TreeMap<>(was.facts());
    for (FactChange fact : settled) {
      facts.remove(fact.name());
      fact.after().ifPresent(value -> facts.put(fact.name(), value));
    }
    Element then = new Element(was.kind(), was.name(), facts, was.parts());
    return new Difference(table, Optional.of(then), after);
  }

  /** The same with other texts in the definitions. */
  public Difference map(UnaryOperator<String> texts) {
    return new Difference(
        table, before.map(one -> one.map(texts)), after.map(one -> one.map(texts)));
  }

  /** The same of another table. */
  Difference in(String other) {
    return new Difference(other, before, after);
  }

  public Kind kind() {
    return either().kind();
  }

  public String name() {
    return either().name();
  }

  /** The name with the table's in front, where it is part of one. */
  public String fullName() {
    return table.isEmpty()
        ? name()
        : name().startsWith("(") ? table + " " + name() : table + "." + name();
  }

  /** What it is and its full name, such as {@code column bin.code}. */
  public String description() {
    return kind().label() + " " + fullName();
  }

  public Change change() {
    return before.isEmpty() ? Change.ADDED : after.isEmpty() ? Change.REMOVED : Change.CHANGED;
  }

  /**
   * The facts that differ and count, the type first; all of them where it is there on one side
   * only.
   */
  public List<FactChange> facts() {
    TreeSet<String> words = new TreeSet<>(TYPE_FIRST);
    before.ifPresent(element -> words.addAll(element.facts().keySet()));
    after.ifPresent(element -> words.addAll(element.facts().keySet()));
    words.removeIf(word -> !Element.counts(word));
    List<FactChange> changes = new ArrayList<>();
    for (String word : words) {
      Optional<String> was = before.flatMap(element -> element.fact(word));
      Optional<String> is = after.flatMap(element -> element.fact(word));
      if (!was.equals(is)) {
        changes.add(new FactChange(word, was, is));
      }
    }
    return changes;
  }
}
