package org.wornladder.change;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.wornladder.schema.Column;
import org.wornladder.schema.Table;

/** The columns that must move so that those which two tables share stand in the wanted order. */
final class ColumnMoves {
  private ColumnMoves() {}

  /** The fewest moves, from the first place to the last. */
  static List<SchemaChange> between(Table was, Table is) {
    List<String> wanted = new ArrayList<>(names(is));
    wanted.retainAll(names(was));
    List<String> standing = new ArrayList<>(names(was));
    standing.retainAll(wanted);
    List<String> staying = longestInOrder(standing, wanted);
    List<SchemaChange> moves = new ArrayList<>();
    for (String name : wanted) {
      if (!staying.contains(name)) {
        int place = wanted.indexOf(name);
        Optional<String> before =
            place == 0 ? Optional.empty() : Optional.of(wanted.get(place - 1));
        moves.add(
            new SchemaChange.AlterPart(
                is.id(),
                was.column(name).orElseThrow(),
                is.column(name).orElseThrow(),
                Optional.of(new SchemaChange.Position(before, first(was)))));
      }
    }
    return moves;
  }

  /**
   * Where a column stands in a table; empty if it is the last.
   *
   * @param standing the table as it is before the column comes
   */
  static Optional<SchemaChange.Position> position(Table table, String column, Table standing) {
    List<String> names = names(table);
    int place = names.indexOf(column);
    if (place == names.size() - 1) {
      return Optional.empty();
    }
    return Optional.of(
        new SchemaChange.Position(
            place == 0 ? Optional.empty() : Optional.of(names.get(place - 1)), first(standing)));
  }

  private static String first(Table table) {
    return table.columns().isEmpty() ? "" : table.columns().get(0).name();
  }

  private static List<String> names(Table table) {
    return table.columns().stream().map(Column::name).toList();
  }

  /** The longest part of one list that is in the order of the other. */
  private static List<String> longestInOrder(List<String> list, List<String> order) {
    List<List<String>> best = new ArrayList<>();
    List<String> longest = List.of();
    for (int i = 0; i < list.size(); i++) {
      List<String> found = List.of();
      for (int j = 0; j < i; j++) {
        boolean fits = order.indexOf(list.get(j)) < order.indexOf(list.get(i));
        if (fits && best.get(j).size() > found.size()) {
          found = best.get(j);
        }
      }
      List<String> with = new ArrayList<>(found);
      with.add(list.get(i));
      best.add(with);
      longest = with.size() > longest.size() ? with : longest;
    }
    return longest;
  }
}
