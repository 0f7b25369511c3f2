package org.wornladder.change;

import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import org.wornladder.schema.Column;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.Snapshot;
import org.wornladder.schema.Table;

/**
 * Something that goes and something alike that comes, which may be one thing with another name.
 *
 * @param before what goes, a column with its table's name in front
 * @param after what comes, likewise
 */
public record RenameCandidate(String before, String after, SchemaChange change) {
  /** All of a list of differences, columns and tables; each thing that goes at most once. */
  public static List<RenameCandidate> among(
      List<Difference> differences, Snapshot before, Snapshot after) {
    List<RenameCandidate> candidates = new ArrayList<>();
    List<Difference> coming =
        new ArrayList<>(
            differences.stream().filter(one -> one.change() == Difference.Change.ADDED).toList());
    for (Difference going : differences) {
      if (going.change() == Difference.Change.REMOVED) {
        coming.stream()
            .filter(one -> isAlike(going, one, before, after))
            .findFirst()
            .ifPresent(
                one -> {
                  coming.remove(one);
                  candidates.add(of(going, one));
                });
      }
    }
    return candidates;
  }

  private static RenameCandidate of(Difference going, Difference coming) {
    if (going.either() instanceof Table was) {
      ObjectId target = ((Table) coming.either()).id();
      return new RenameCandidate(
          going.fullName(), coming.fullName(), new SchemaChange.RenameTable(was.id(), target));
    }
    return new RenameCandidate(
        going.fullName(),
        coming.fullName(),
        new SchemaChange.RenameColumn(going.owner().orElseThrow(), going.name(), coming.name()));
  }

  private static boolean isAlike(
      Difference going, Difference coming, Snapshot before, Snapshot after) {
    if (going.either() instanceof Table was && coming.either() instanceof Table is) {
      return was.id().schema().equals(is.id().schema()) && hasMostColumnsOf(was, is);
    }
    if (!(going.either() instanceof Column was)
        || !(coming.either() instanceof Column is)
        || !going.owner().equals(coming.owner())) {
      return false;
    }
    return was.type().equals(is.type())
        && was.more(Column.GENERATED).equals(is.more(Column.GENERATED))
        && isInOnePlace(going, coming, before, after);
  }

  private static boolean hasMostColumnsOf(Table was, Table is) {
    long same =
        was.columns().stream()
            .filter(
                column ->
                    is.column(column.name())
                        .filter(other -> other.type().equals(column.type()))
                        .isPresent())
            .count();
    return !was.columns().isEmpty()
        && 2 * same >= Math.max(was.columns().size(), is.columns().size());
  }

  /** Whether both have one neighbour, or the table had no other column like it. */
  private static boolean isInOnePlace(
      Difference going, Difference coming, Snapshot before, Snapshot after) {
    List<String> was = names(before, going);
    List<String> is = names(after, coming);
    int from = was.indexOf(going.name());
    int to = is.indexOf(coming.name());
    return from == to
        || Objects.equals(neighbour(was, from - 1), neighbour(is, to - 1))
        || Objects.equals(neighbour(was, from + 1), neighbour(is, to + 1));
  }

  private static String neighbour(List<String> names, int place) {
    return place < 0 || place >= names.size() ? "" : names.get(place);
  }

  private static List<String> names(Snapshot snapshot, Difference column) {
    return snapshot
        .object(column.owner().orElseThrow())
        .map(table -> ((Table) table).columns().stream().map(Column::name).toList())
        .orElse(List.of());
  }
}
