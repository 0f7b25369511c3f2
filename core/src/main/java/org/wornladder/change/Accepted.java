package org.wornladder.change;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.wornladder.schema.Element;
import org.wornladder.schema.Kind;
import org.wornladder.schema.Snapshot;

/** A structure with some differences taken over. */
public final class Accepted {
  private Accepted() {}

  /**
   * @param differences each between the structure and what is {@code after}
   */
  public static Snapshot in(Snapshot structure, List<Difference> differences) {
    List<Element> elements = new ArrayList<>(structure.elements());
    for (Difference difference : differences) {
      if (difference.table().isEmpty()) {
        elements = put(elements, difference, true);
      } else {
        List<Element> tables = new ArrayList<>();
        for (Element element : elements) {
          boolean its = element.kind() == Kind.TABLE && element.name().equals(difference.table());
          tables.add(its ? element.withParts(put(element.parts(), difference, false)) : element);
        }
        elements = tables;
      }
    }
    return new Snapshot(elements);
  }

  /** A table that changed as a whole keeps its parts: these are differences of their own. */
  private static List<Element> put(
      List<Element> elements, Difference difference, boolean keepsParts) {
    Element.Key key = difference.after().or(difference::before).orElseThrow().key();
    List<Element> put = new ArrayList<>();
    Optional<Element> waiting = difference.after();
    for (Element element : elements) {
      if (!element.key().equals(key)) {
        put.add(element);
      } else if (waiting.isPresent()) {
        put.add(keepsParts ? waiting.get().withParts(element.parts()) : waiting.get());
        waiting = Optional.empty();
      }
    }
    waiting.ifPresent(put::add);
    return put;
  }
}
