package org.wornladder.change;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import org.wornladder.schema.Element;
import org.wornladder.schema.Kind;
import org.wornladder.schema.Snapshot;

/** What two structures differ in. */
public final class Differences {
  private static final String COLUMN_ORDER = "column order";

  private final List<Difference> found = new ArrayList<>();

  private Differences() {}

  /** By kind and name; the parts of a table behind it. Owners and grants are left out. */
  public static List<Difference> between(Snapshot before, Snapshot after) {
    return before == after ? List.of() : withRights(before.withoutRights(), after.withoutRights());
  }

  /** The same with owners and grants. */
  public static List<Difference> withRights(Snapshot before, Snapshot after) {
    Differences differences = new Differences();
    differences.compare("", before.elements(), after.elements());
    return List.copyOf(differences.found);
  }

  private void compare(String table, List<Element> before, List<Element> after) {
    Map<Element.Key, Element> was = byKey(before);
    Map<Element.Key, Element> is = byKey(after);
    List<Element> all = new ArrayList<>(after);
    for (Element element : before) {
      if (!is.containsKey(element.key())) {
        all.add(element);
      }
    }
    all.sort(Snapshot.ORDER);
    Set<Element.Key> same = sameUnnamed(was, is);
    for (Element element : all) {
      if (same.contains(element.key())) {
        continue;
      }
      Optional<Element> old = Optional.ofNullable(was.get(element.key()));
      Optional<Element> now = Optional.ofNullable(is.get(element.key()));
      if (old.isPresent() && now.isPresent()) {
        both(table, old.get(), now.get());
      } else {
        found.add(new Difference(table, old, now));
      }
    }
  }

  /**
   * The indexes of both sides that differ in nothing but names which the engine invented: after
   * those of a table or a column that had another name then.
   */
  private static Set<Element.Key> sameUnnamed(
      Map<Element.Key, Element> was, Map<Element.Key, Element> is) {
    Set<Element.Key> same = new HashSet<>();
    for (Element before : was.values()) {
      if (isUnnamedIndex(before) && !is.containsKey(before.key())) {
        is.values().stream()
            .filter(after -> isUnnamedIndex(after) && !was.containsKey(after.key()))
            .filter(after -> !same.contains(after.key()))
            .filter(after -> after.meaning().facts().equals(before.meaning().facts()))
            .findFirst()
            .ifPresent(after -> same.addAll(List.of(before.key(), after.key())));
      }
    }
    return same;
  }

  private static boolean isUnnamedIndex(Element element) {
    return element.kind() == Kind.INDEX && element.fact(Element.GENERATED_NAME).isPresent();
  }

  private void both(String table, Element before, Element after) {
    if (before.equals(after)) {
      return;
    }
    Element was = withOrder(before, after);
    Element is = withOrder(after, before);
    Difference difference = new Difference(table, Optional.of(was), Optional.of(is));
    if (!difference.facts().isEmpty()) {
      found.add(difference);
    }
    compare(before.name(), before.parts(), after.parts());
  }

  /**
   * With the order of the columns that both sides have as a fact, which differs if the order does.
   */
  private static Element withOrder(Element table, Element other) {
    if (table.kind() != Kind.TABLE) {
      return table;
    }
    List<String> common = columns(table);
    common.retainAll(columns(other));
    List<String> theirs = columns(other);
    theirs.retainAll(common);
    if (common.equals(theirs)) {
      return table;
    }
    Map<String, String> facts = new TreeMap<>(table.facts());
    facts.put(COLUMN_ORDER, String.join(", ", common));
    return new Element(table.kind(), table.name(), facts, table.parts());
  }

  private static List<String> columns(Element table) {
    List<String> names = new ArrayList<>();
    for (Element part : table.parts()) {
      if (part.kind() == Kind.COLUMN) {
        names.add(part.name());
      }
    }
    return names;
  }

  static Map<Element.Key, Element> byKey(List<Element> elements) {
    Map<Element.Key, Element> map = new LinkedHashMap<>();
    elements.forEach(element -> map.put(element.key(), element));
    return map;
  }
}
