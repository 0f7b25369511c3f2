package org.wornladder.schema;

import java.util.Collections;
import java.util.Map;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.function.UnaryOperator;

/** Properties of an object by name: immutable, sorted by name, without those that are empty. */
final class Facts {
  private Facts() {}

  static Map<String, String> of(Map<String, String> given) {
    return with(given);
  }

  /**
   * Some properties and more.
   *
   * @param more names and values in turn; a value replaces the given one of its name, unless it is
   *     empty
   */
  static Map<String, String> with(Map<String, String> given, String... more) {
    SortedMap<String, String> facts = new TreeMap<>(given);
    for (int i = 0; i < more.length; i += 2) {
      if (!more[i + 1].isEmpty()) {
        facts.put(more[i], more[i + 1]);
      }
    }
    facts.values().removeIf(String::isEmpty);
    return Collections.unmodifiableMap(facts);
  }

  /** The same names with other values. */
  static Map<String, String> map(Map<String, String> facts, UnaryOperator<String> values) {
    Map<String, String> changed = new TreeMap<>();
    facts.forEach((name, value) -> changed.put(name, values.apply(value)));
    return changed;
  }
}
