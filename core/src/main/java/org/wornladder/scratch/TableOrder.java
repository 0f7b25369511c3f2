package org.wornladder.scratch;

import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.stream.Stream;
import org.wornladder.schema.ForeignKey;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.Table;

/** The order in which tables take rows. */
final class TableOrder {
  private TableOrder() {}

  /** Each behind those that its rows point to, as far as that goes. */
  static List<Table> parentsFirst(Collection<Table> tables) {
    List<Table> waiting = new ArrayList<>(tables);
    List<Table> ordered = new ArrayList<>();
    while (!waiting.isEmpty()) {
      List<ObjectId> left = waiting.stream().map(Table::id).toList();
      Table next =
          waiting.stream()
              .filter(
                  table ->
                      parents(table).noneMatch(id -> !id.equals(table.id()) && left.contains(id)))
              .findFirst()
              .orElse(waiting.get(0));
      ordered.add(next);
      waiting.remove(next);
    }
    return ordered;
  }

  private static Stream<ObjectId> parents(Table table) {
    return table.foreignKeys().stream().map(ForeignKey::target);
  }
}
