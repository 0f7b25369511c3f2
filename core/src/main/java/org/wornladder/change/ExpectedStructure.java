package org.wornladder.change;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.Described;
import org.wornladder.schema.Facts;
import org.wornladder.schema.Part;
import org.wornladder.schema.Snapshot;

/** What a history says should stand: what was expected before, and what its runs changed. */
public final class ExpectedStructure {
  private ExpectedStructure() {}

  /**
   * Lays what a run changed on what was expected before it. What the run did not touch stays as
   * expected, whatever is there: a change by hand remains a difference.
   *
   * @param before what was there before the run
   * @param after what is there after it
   */
  public static Snapshot after(Snapshot expected, Snapshot before, Snapshot after) {
    if (expected.objects().equals(before.objects())) {
      return after;
    }
    return new Snapshot(
        merge(
            Differences.byId(expected),
            Differences.byId(before),
            Differences.byId(after),
            ExpectedStructure::object));
  }

  /** How one object or part is merged. */
  private interface Merge<T> {
    Optional<T> of(Optional<T> expected, Optional<T> before, Optional<T> after);
  }

  /** In the order of what is there now, then of what was expected. */
  private static <K, T> List<T> merge(
      Map<K, T> expected, Map<K, T> before, Map<K, T> after, Merge<T> merge) {
    Set<K> keys = new LinkedHashSet<>(after.keySet());
    keys.addAll(expected.keySet());
    List<T> merged = new ArrayList<>();
    for (K key : keys) {
      merge
          .of(
              Optional.ofNullable(expected.get(key)),
              Optional.ofNullable(before.get(key)),
              Optional.ofNullable(after.get(key)))
          .ifPresent(merged::add);
    }
    return merged;
  }

  private static Optional<DatabaseObject> object(
      Optional<DatabaseObject> expected,
      Optional<DatabaseObject> before,
      Optional<DatabaseObject> after) {
    if (isSame(before, after)) {
      return expected;
    }
    if (before.isEmpty() || after.isEmpty()) {
      return after;
    }
    return expected.map(
        known ->
            known
                .with(
                    facts(known, before.get(), after.get()),
                    parts(
                        known.storedParts(), before.get().storedParts(), after.get().storedParts()))
                .dependingOn(after.get().dependsOn()));
  }

  private static boolean isSame(
      Optional<? extends Described> before, Optional<? extends Described> after) {
    return before.isPresent() && after.isPresent()
        ? before.get().means(after.get())
        : before.isEmpty() && after.isEmpty();
  }

  private static List<Part> parts(List<Part> expected, List<Part> before, List<Part> after) {
    return merge(
        PartKey.of(expected), PartKey.of(before), PartKey.of(after), ExpectedStructure::part);
  }

  private static Optional<Part> part(
      Optional<Part> expected, Optional<Part> before, Optional<Part> after) {
    if (isSame(before, after)) {
      return expected;
    }
    if (before.isEmpty() || after.isEmpty()) {
      return after;
    }
    return expected.map(
        known ->
            Part.of(
                known.kind(),
                known.name(),
                facts(known, before.get(), after.get()),
                after.get().dependsOn()));
  }

  private static Map<String, String> facts(Described expected, Described before, Described after) {
    Map<String, String> facts = new TreeMap<>(expected.facts());
    Map<String, String> was = before.facts();
    Map<String, String> is = after.facts();
    Set<String> words = new LinkedHashSet<>(was.keySet());
    words.addAll(is.keySet());
    for (String word : words) {
      boolean same = Optional.ofNullable(was.get(word)).equals(Optional.ofNullable(is.get(word)));
      if (!same && is.containsKey(word)) {
        facts.put(word, is.get(word));
      } else if (!same) {
        facts.remove(word);
      }
    }
    // The text that made an object is known where the runs alone made it what it is.
    facts.remove(Facts.TEXT);
    if (expected.means(before)) {
      after.fact(Facts.TEXT).ifPresent(text -> facts.put(Facts.TEXT, text));
    }
    return facts;
  }
}
