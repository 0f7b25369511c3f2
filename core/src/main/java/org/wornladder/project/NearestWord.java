package org.wornladder.project;

import java.util.Collection;
import java.util.Optional;

/** Finds the right word near a wrong one. */
public final class NearestWord {
  private NearestWord() {}

  /** The candidate with the fewest edits, if they are few enough for a slip of the hand. */
  public static Optional<String> to(String word, Collection<String> candidates) {
    int limit = Math.min(3, Math.max(1, word.length() / 2));
    String best = null;
    for (String candidate : candidates) {
      int edits = edits(word, candidate);
      if (edits <= limit) {
        best = candidate;
        limit = edits - 1;
      }
    }
    return Optional.ofNullable(best);
  }

  /** What to do about a wrong word: the nearest right one, or all of them. */
  public static String advice(String word, Collection<String> candidates) {
    return to(word, candidates)
        .map(near -> "did you mean " + near + "?")
        .orElseGet(
            () -> candidates.isEmpty() ? "" : "it can be one of: " + String.join(", ", candidates));
  }

  private static int edits(String a, String b) {
    int[] row = new int[b.length() + 1];
    for (int j = 0; j <= b.length(); j++) {
      row[j] = j;
    }
    for (int i = 1; i <= a.length(); i++) {
      int diagonal = row[0];
      row[0] = i;
      for (int j = 1; j <= b.length(); j++) {
        int replaced = diagonal + (a.charAt(i - 1) == b.charAt(j - 1) ? 0 : 1);
        diagonal = row[j];
        row[j] = Math.min(replaced, Math.min(row[j], row[j - 1]) + 1);
      }
    }
    return row[b.length()];
  }
}
