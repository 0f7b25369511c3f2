package org.wornladder.project;

import java.util.Collection;
import java.util.Comparator;
import java.util.Optional;
import org.apache.commons.text.similarity.LevenshteinDistance;

/** Finds the right word near a wrong one. */
public final class NearestWord {
  private NearestWord() {}

  /** The candidate with the fewest edits, if they are few enough for a slip of the hand. */
  public static Optional<String> to(String word, Collection<String> candidates) {
    int limit = Math.min(3, Math.max(1, word.length() / 2));
    LevenshteinDistance distance = new LevenshteinDistance(limit);
    // What is farther away than the limit has the distance -1.
    return candidates.stream()
        .filter(candidate -> distance.apply(word, candidate) >= 0)
        .min(Comparator.comparing(candidate -> distance.apply(word, candidate)));
  }

  /** What to do about a wrong word: the nearest right one, or all of them. */
  public static String advice(String word, Collection<String> candidates) {
    return to(word, candidates)
        .map(near -> "did you mean " + near + "?")
        .orElseGet(
            () -> candidates.isEmpty() ? "" : "it can be one of: " + String.join(", ", candidates));
  }
}
