package org.wornladder.seed;

import org.wornladder.project.SeedRow;

/**
 * The rows of a file by hashes of their keys, in little memory: 16 bytes a row and as much room
 * again. Tells whether rows read from a database are the very same, text for text.
 */
final class RowHashes {
  private static final long PRIME = 0x9E37_79B9_7F4A_7C15L;
  private static final int SMALLEST = 1 << 10;

  private final boolean[] isKey;
  private long[] keys = new long[SMALLEST];
  private long[] rows = new long[SMALLEST];
  private int size;

  /**
   * @param isKey which columns are the key, in the order of the rows
   */
  RowHashes(boolean... isKey) {
    this.isKey = isKey.clone();
  }

  /** Adds a row; false if one with its key is there already. */
  boolean add(SeedRow row) {
    if (size * 2 >= keys.length) {
      grow();
    }
    long key = hash(row, true);
    int slot = slot(key);
    if (keys[slot] != 0) {
      return false;
    }
    keys[slot] = key;
    rows[slot] = hash(row, false);
    size++;
    return true;
  }

  int size() {
    return size;
  }

  /** Whether a row of this key is here. */
  boolean hasKey(SeedRow row) {
    return keys[slot(hash(row, true))] != 0;
  }

  /** Whether the row of this key is here and is the same in all else. */
  boolean hasSame(SeedRow row) {
    int slot = slot(hash(row, true));
    return keys[slot] != 0 && rows[slot] == hash(row, false);
  }

  private int slot(long key) {
    int mask = keys.length - 1;
    int slot = (int) (key >>> 20) & mask;
    while (keys[slot] != 0 && keys[slot] != key) {
      slot = (slot + 1) & mask;
    }
    return slot;
  }

  private void grow() {
    long[] oldKeys = keys;
    long[] oldRows = rows;
    keys = new long[oldKeys.length * 2];
    rows = new long[oldKeys.length * 2];
    for (int i = 0; i < oldKeys.length; i++) {
      if (oldKeys[i] != 0) {
        int slot = slot(oldKeys[i]);
        keys[slot] = oldKeys[i];
        rows[slot] = oldRows[i];
      }
    }
  }

  /** Never 0, which means an empty place. */
  private long hash(SeedRow row, boolean ofKey) {
    long hash = 1;
    for (int i = 0; i < isKey.length; i++) {
      if (isKey[i] == ofKey) {
        hash = row.isNull(i) ? mix(hash, 0x1_0000) : text(hash, row.text(i));
      }
    }
    hash ^= hash >>> 32;
    hash *= PRIME;
    hash ^= hash >>> 29;
    return hash == 0 ? 1 : hash;
  }

  private static long text(long start, String text) {
    long hash = start;
    for (int i = 0; i < text.length(); i++) {
      hash = mix(hash, text.charAt(i));
    }
    return mix(hash, 0x1_0001);
  }

  private static long mix(long hash, int value) {
    long mixed = (hash ^ value) * PRIME;
    return mixed ^ (mixed >>> 32);
  }
}
