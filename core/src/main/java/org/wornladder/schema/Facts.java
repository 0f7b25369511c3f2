package org.wornladder.schema;

import java.util.Collections;
import java.util.Map;
import java.util.TreeMap;

/** Facts by word, in the order of the words, without those that are empty. */
final class Facts {
  private Facts() {}

  static Map<String, String> of(Map<String, String> given) {
    Map<String, String> facts = new TreeMap<>(given);
    facts.values().removeIf(String::isEmpty);
    return Collections.unmodifiableMap(facts);
  }
}
