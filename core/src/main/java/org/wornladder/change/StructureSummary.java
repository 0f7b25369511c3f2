package org.wornladder.change;

import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.function.ToIntFunction;
import org.wornladder.schema.Described;
import org.wornladder.schema.Kind;
import org.wornladder.schema.Part;
import org.wornladder.schema.Snapshot;

/**
 * How many objects of each kind two structures differ in.
 *
 * @param counts one for each kind that differs; columns, keys and indexes of whole tables count too
 */
public record StructureSummary(List<Count> counts) {
  /** Objects of one kind that came, went, or are there in both but not the same. */
  public record Count(Kind kind, int added, int removed, int changed) {
    private Count plus(Difference.Change change) {
      return switch (change) {
        case ADDED -> new Count(kind, added + 1, removed, changed);
        case REMOVED -> new Count(kind, added, removed + 1, changed);
        case CHANGED -> new Count(kind, added, removed, changed + 1);
      };
    }
  }

  public StructureSummary {
    counts = List.copyOf(counts);
  }

  public static StructureSummary between(Snapshot before, Snapshot after) {
    return of(Differences.between(before, after));
  }

  public static StructureSummary of(List<Difference> differences) {
    Map<Kind, Count> counts = new EnumMap<>(Kind.class);
    for (Difference difference : differences) {
      count(counts, difference.kind(), difference.change());
      if (difference.change() != Difference.Change.CHANGED) {
        Described whole = difference.either();
        for (Part part : whole.parts()) {
          if (part.kind() != Kind.PRIMARY_KEY) {
            count(counts, part.kind(), difference.change());
          }
        }
      }
    }
    return new StructureSummary(List.copyOf(counts.values()));
  }

  private static void count(Map<Kind, Count> counts, Kind kind, Difference.Change change) {
    counts.put(kind, counts.getOrDefault(kind, new Count(kind, 0, 0, 0)).plus(change));
  }

  /**
   * {@code 1 table, 3 columns and 1 index added, 1 view changed}; {@code no change} if nothing
   * differs.
   */
  public String text() {
    List<String> parts = new ArrayList<>();
    part(parts, Count::added, "added");
    part(parts, Count::removed, "dropped");
    part(parts, Count::changed, "changed");
    return parts.isEmpty() ? "structure unchanged" : String.join(", ", parts);
  }

  private void part(List<String> parts, ToIntFunction<Count> number, String verb) {
    List<String> named =
        counts.stream()
            .filter(count -> number.applyAsInt(count) > 0)
            .map(count -> named(count.kind(), number.applyAsInt(count)))
            .toList();
    if (!named.isEmpty()) {
      String last = named.get(named.size() - 1);
      String before = String.join(", ", named.subList(0, named.size() - 1));
      parts.add((before.isEmpty() ? "" : before + " and ") + last + " " + verb);
    }
  }

  private static String named(Kind kind, int number) {
    return number + " " + (number == 1 ? kind.label() : kind.plural());
  }
}
