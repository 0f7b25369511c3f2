package org.wornladder.seed;

/**
 * Rows by hashes of their keys and of the rest of them, 64 bits each: whether two rows are the
 * same, text for text, in little memory.
 */
final class RowHashes {
  private static final int SMALLEST = 1 << 10;

  /** A key's hash and that of the rest, side by side: one look at the memory finds both. */
  private long[] pairs = new long[2 * SMALLEST];

  private int size;

  /** Adds a row; false if one with its key is there already. */
  boolean add(long key, long rest) {
    if (size * 3L >= pairs.length) {
      grow();
    }
    int place = place(key);
    if (pairs[place] != 0) {
      return false;
    }
    pairs[place] = key;
    pairs[place + 1] = rest;
    size++;
    return true;
  }

  int size() {
    return size;
  }

  /** The rest of the row with a key; 0 if there is none. */
  long rest(long key) {
    return pairs[place(key) + 1];
  }

  private int place(long key) {
    int mask = pairs.length - 2;
    int place = (int) (key >>> 20) & mask;
    while (pairs[place] != 0 && pairs[place] != key) {
      place = (place + 2) & mask;
    }
    return place;
  }

  private void grow() {
    long[] old = pairs;
    pairs = new long[old.length * 2];
    for (int i = 0; i < old.length; i += 2) {
      if (old[i] != 0) {
        int place = place(old[i]);
        pairs[place] = old[i];
        pairs[place + 1] = old[i + 1];
      }
    }
  }
}
