package org.wornladder.change;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import org.wornladder.schema.Element;
import org.wornladder.schema.Snapshot;

/** What a history says should stand: what was expected before, and what its runs changed. */
public final class ExpectedStructure {
  private ExpectedStructure() {}

  /**
   * Lays what a run changed on what was expected before it. What the run did not touch stays as
   * expected, whatever is there: a change by hand remains a difference.
   *
   * @param before what was there before the run
   * @param after what is there after it
   */
  public static Snapshot after(Snapshot expected, Snapshot before, Snapshot after) {
    if (expected.elements().equals(before.elements())) {
      return after;
    }
    return new Snapshot(merge(expected.elements(), before.elements(), after.elements()));
  }

  /** In the order of what is there now, then of what was expected. */
  private static List<Element> merge(
      List<Element> expected, List<Element> before, List<Element> after) {
    Map<Element.Key, Element> planned = Differences.byKey(expected);
    Map<Element.Key, Element> was = Differences.byKey(before);
    Map<Element.Key, Element> is = Differences.byKey(after);
    Set<Element.Key> keys = new LinkedHashSet<>(is.keySet());
    keys.addAll(planned.keySet());
    List<Element> merged = new ArrayList<>();
    for (Element.Key key : keys) {
      merge(
              Optional.ofNullable(planned.get(key)),
              Optional.ofNullable(was.get(key)),
              Optional.ofNullable(is.get(key)))
          .ifPresent(merged::add);
    }
    return merged;
  }

  private static Optional<Element> merge(
      Optional<Element> expected, Optional<Element> before, Optional<Element> after) {
    if (before.equals(after) || before.map(Element::meaning).equals(after.map(Element::meaning))) {
      return expected;
    }
    if (before.isEmpty() || after.isEmpty()) {
      return after;
    }
    return expected.map(known -> merge(known, before.get(), after.get()));
  }

  private static Element merge(Element expected, Element before, Element after) {
    Map<String, String> facts = new TreeMap<>(expected.facts());
    for (Difference.FactChange change :
        new Difference("", Optional.of(before), Optional.of(after)).facts()) {
      if (change.after().isPresent()) {
        facts.put(change.name(), change.after().get());
      } else {
        facts.remove(change.name());
      }
    }
    // The text that made an object is known where the runs alone made it what it is.
    facts.remove(Element.TEXT);
    if (expected.meaning().equals(before.meaning())) {
      after.fact(Element.TEXT).ifPresent(text -> facts.put(Element.TEXT, text));
    }
    List<Element> parts = merge(expected.parts(), before.parts(), after.parts());
    return new Element(expected.kind(), expected.name(), facts, parts);
  }
}
