package org.wornladder.schema;

import java.util.AbstractMap;
import java.util.Collections;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;

/**
 * Facts by word, in the order of the words, without those that are empty. Never changed, so that
 * they need not be copied from one holder to the next.
 */
final class Facts extends AbstractMap<String, String> {
  private static final Facts NONE = new Facts(new TreeMap<>());

  private final TreeMap<String, String> byWord;

  private Facts(TreeMap<String, String> byWord) {
    this.byWord = byWord;
  }

  static Map<String, String> of(Map<String, String> given) {
    if (given.isEmpty()) {
      return NONE;
    }
    if (given instanceof Facts) {
      return given;
    }
    TreeMap<String, String> byWord = new TreeMap<>();
    for (Map.Entry<String, String> fact : given.entrySet()) {
      if (!fact.getValue().isEmpty()) {
        byWord.put(fact.getKey(), fact.getValue());
      }
    }
    return new Facts(byWord);
  }

  @Override
  public Set<Map.Entry<String, String>> entrySet() {
    return Collections.unmodifiableMap(byWord).entrySet();
  }

  @Override
  public String get(Object word) {
    return byWord.get(word);
  }

  @Override
  public boolean containsKey(Object word) {
    return byWord.containsKey(word);
  }

  @Override
  public int size() {
    return byWord.size();
  }
}
