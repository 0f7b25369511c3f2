package org.wornladder.change;

import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.Part;
import org.wornladder.schema.Snapshot;

/**
 * A structure as statements, in an order that runs on an empty database.
 *
 * @param statements without end marks
 * @param leftOut objects that cannot be written
 */
public record CreationScript(List<String> statements, List<LeftOut> leftOut) {
  private static final String NOT_READABLE = "this user may not see it";

  public CreationScript {
    statements = List.copyOf(statements);
    leftOut = List.copyOf(leftOut);
  }

  /** The script that makes some objects; owners and grants among them are passed over. */
  public static CreationScript of(Collection<? extends DatabaseObject> objects, Ddl ddl) {
    List<SchemaChange> changes = new ArrayList<>();
    List<LeftOut> leftOut = new ArrayList<>();
    for (DatabaseObject object : objects) {
      if (object.kind().isRight()) {
        continue;
      }
      object.parts().stream()
          .filter(Part::isHidden)
          .forEach(part -> leftOut.add(hidden(object, part)));
      DatabaseObject readable = object.readable();
      Optional<String> refusal =
          object.isHidden() ? Optional.of(NOT_READABLE) : ddl.refusal(readable);
      refusal.ifPresent(why -> leftOut.add(new LeftOut(whole(object), why)));
      if (refusal.isEmpty()) {
        changes.add(new SchemaChange.Create(readable));
      }
    }
    ChangeGraph.Order order =
        ChangeGraph.order(
            PlannedChanges.of(changes, Snapshot.EMPTY, Snapshot.EMPTY, ddl),
            DependencyIndex.of(List.of()));
    List<SchemaChange> ordered = new ArrayList<>(order.ordered());
    // What needs each other is at least tried in an order that reads well.
    ordered.addAll(order.circular());
    return new CreationScript(ChangeScript.statements(ordered, ddl), leftOut);
  }

  private static Difference whole(DatabaseObject object) {
    return Difference.of(Optional.empty(), Optional.of(object));
  }

  private static LeftOut hidden(DatabaseObject object, Part part) {
    return new LeftOut(
        new Difference(Optional.of(object.id()), Optional.empty(), Optional.of(part)),
        NOT_READABLE);
  }
}
