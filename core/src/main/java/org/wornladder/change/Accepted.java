package org.wornladder.change;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.Kind;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.Part;
import org.wornladder.schema.Snapshot;
import org.wornladder.schema.Table;

/** A structure with some differences taken over. */
public final class Accepted {
  private Accepted() {}

  /**
   * @param differences each between the structure and what is {@code after}
   */
  public static Snapshot in(Snapshot structure, List<Difference> differences) {
    Map<ObjectId, DatabaseObject> objects = new LinkedHashMap<>(Differences.byId(structure));
    for (Difference difference : differences) {
      if (difference.owner().isEmpty()) {
        whole(objects, difference);
      } else {
        DatabaseObject owner = objects.get(difference.owner().get());
        if (owner != null) {
          objects.put(owner.id(), owner.with(owner.facts(), put(owner.storedParts(), difference)));
        }
      }
    }
    return new Snapshot(List.copyOf(objects.values()));
  }

  /** An object that changed as a whole keeps its parts: these are differences of their own. */
  private static void whole(Map<ObjectId, DatabaseObject> objects, Difference difference) {
    DatabaseObject either = (DatabaseObject) difference.either();
    if (difference.after().isEmpty()) {
      objects.remove(either.id());
      return;
    }
    DatabaseObject standing = objects.getOrDefault(either.id(), either);
    objects.put(either.id(), ordered(either, either.with(factsOf(either), standing.storedParts())));
  }

  private static Map<String, String> factsOf(DatabaseObject object) {
    Map<String, String> facts = new LinkedHashMap<>(object.facts());
    facts.remove(Differences.COLUMN_ORDER);
    return facts;
  }

  /** With the columns in the order that a difference speaks of, if it speaks of it. */
  private static DatabaseObject ordered(DatabaseObject wanted, DatabaseObject object) {
    if (!(wanted instanceof Table table) || table.option(Differences.COLUMN_ORDER).isEmpty()) {
      return object;
    }
    List<String> order = table.columns().stream().map(Part::name).toList();
    List<Part> parts = new ArrayList<>(object.storedParts());
    parts.sort(
        (one, other) ->
            one.kind() == Kind.COLUMN && other.kind() == Kind.COLUMN
                ? Integer.compare(place(order, one), place(order, other))
                : 0);
    return object.with(object.facts(), parts);
  }

  private static int place(List<String> order, Part column) {
    int place = order.indexOf(column.name());
    return place < 0 ? order.size() : place;
  }

  /** The part that a difference is about: the same one, or what has its name now. */
  private static Optional<Part> standing(List<Part> parts, Part wanted) {
    return parts.contains(wanted)
        ? Optional.of(wanted)
        : parts.stream()
            .filter(one -> one.kind() == wanted.kind() && one.name().equals(wanted.name()))
            .findFirst();
  }

  private static List<Part> put(List<Part> parts, Difference difference) {
    List<Part> put = new ArrayList<>();
    Optional<Part> waiting = difference.after().map(Part.class::cast);
    Optional<Part> replaced = difference.before().flatMap(part -> standing(parts, (Part) part));
    for (Part part : parts) {
      if (replaced.filter(part::equals).isPresent()) {
        replaced = Optional.empty();
        waiting.ifPresent(put::add);
        waiting = Optional.empty();
      } else {
        put.add(part);
      }
    }
    waiting.ifPresent(put::add);
    return put;
  }
}
