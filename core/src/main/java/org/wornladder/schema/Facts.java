package org.wornladder.schema;

import java.util.AbstractMap;
import java.util.AbstractSet;
import java.util.Arrays;
import java.util.Iterator;
import java.util.Map;
import java.util.NoSuchElementException;
import java.util.Set;
import java.util.function.BiConsumer;

/**
 * Facts by word, in the order of the words, without those that are empty. Never changed, so that
 * they need not be copied from one holder to the next; a row of texts, since most holders have few.
 */
final class Facts extends AbstractMap<String, String> {
  private static final Facts NONE = new Facts(new String[0]);

  /** Each word, followed by what it says. */
  private final String[] told;

  private Facts(String[] told) {
    this.told = told;
  }

  static Facts of(Map<String, String> given) {
    return given instanceof Facts facts ? facts : with(given);
  }

  /**
   * Some facts and more.
   *
   * @param more each word, followed by what it says; it takes the place of what is given by that
   *     word, unless it is empty
   */
  static Facts with(Map<String, String> given, String... more) {
    if (given.isEmpty() && more.length == 0) {
      return NONE;
    }
    String[] told = new String[2 * given.size() + more.length];
    int end = 0;
    for (Map.Entry<String, String> fact : given.entrySet()) {
      end = put(told, end, fact.getKey(), fact.getValue());
    }
    for (int i = 0; i < more.length; i += 2) {
      end = put(told, end, more[i], more[i + 1]);
    }
    return end == 0 ? NONE : new Facts(end == told.length ? told : Arrays.copyOf(told, end));
  }

  /** Puts a fact in its place, and returns where the row ends then. */
  private static int put(String[] told, int end, String word, String value) {
    if (value.isEmpty()) {
      return end;
    }
    int place = end;
    while (place > 0 && told[place - 2].compareTo(word) > 0) {
      place -= 2;
    }
    if (place > 0 && told[place - 2].equals(word)) {
      told[place - 1] = value;
      return end;
    }
    System.arraycopy(told, place, told, place + 2, end - place);
    told[place] = word;
    told[place + 1] = value;
    return end + 2;
  }

  private int placeOf(Object word) {
    for (int place = 0; place < told.length; place += 2) {
      if (told[place].equals(word)) {
        return place;
      }
    }
    return -1;
  }

  @Override
  public Set<Map.Entry<String, String>> entrySet() {
    return new Entries();
  }

  @Override
  public String get(Object word) {
    int place = placeOf(word);
    return place < 0 ? null : told[place + 1];
  }

  @Override
  public boolean containsKey(Object word) {
    return placeOf(word) >= 0;
  }

  @Override
  public int size() {
    return told.length / 2;
  }

  @Override
  public void forEach(BiConsumer<? super String, ? super String> taker) {
    for (int place = 0; place < told.length; place += 2) {
      taker.accept(told[place], told[place + 1]);
    }
  }

  @Override
  public boolean equals(Object other) {
    return other instanceof Facts facts ? Arrays.equals(told, facts.told) : super.equals(other);
  }

  @Override
  public int hashCode() {
    return super.hashCode();
  }

  private final class Entries extends AbstractSet<Map.Entry<String, String>> {
    @Override
    public Iterator<Map.Entry<String, String>> iterator() {
      return new InOrder();
    }

    @Override
    public int size() {
      return Facts.this.size();
    }
  }

  private final class InOrder implements Iterator<Map.Entry<String, String>> {
    private int next;

    @Override
    public boolean hasNext() {
      return next < told.length;
    }

    @Override
    public Map.Entry<String, String> next() {
      if (!hasNext()) {
        throw new NoSuchElementException();
      }
      next += 2;
      return Map.entry(told[next - 2], told[next - 1]);
    }
  }
}
