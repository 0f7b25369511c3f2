package org.wornladder.change;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.wornladder.schema.Column;
import org.wornladder.schema.Kind;
import org.wornladder.schema.Part;
import org.wornladder.schema.Snapshot;

/**
 * Differences as statements that make of the one structure the other, in an order that runs: what
 * depends on others goes first and comes last.
 *
 * @param changes in the order of the statements
 * @param statements without end marks
 * @param written the differences that the statements settle
 * @param leftOut those that cannot be written, or not wholly
 */
public record ChangeScript(
    List<SchemaChange> changes,
    List<String> statements,
    List<Difference> written,
    List<LeftOut> leftOut) {
  public ChangeScript {
    changes = List.copyOf(changes);
    statements = List.copyOf(statements);
    written = List.copyOf(written);
    leftOut = List.copyOf(leftOut);
  }

  /** Whether numbers in both structures identify what was renamed. */
  public enum Origin {
    ONE_DATABASE,
    TWO_DATABASES
  }

  /**
   * The statements that make of what is {@code before} in each difference what is {@code after}.
   *
   * @param before the whole structure before the change, for what depends on what changes; the
   *     owners and grants in it are given back to what is made anew
   * @param wanted the whole structure that the differences lead to
   */
  public static ChangeScript of(
      List<Difference> differences, Snapshot before, Snapshot wanted, Ddl ddl, Origin origin) {
    TypedChanges typed =
        TypedChanges.of(differences, before, wanted, ddl, origin == Origin.ONE_DATABASE);
    Snapshot after = Accepted.in(before, typed.written());
    List<SchemaChange> all = TakeDowns.around(typed.changes(), before, after, ddl);
    DependencyIndex index = DependencyIndex.of(before.objects());
    ChangeGraph.Order order = ChangeGraph.order(PlannedChanges.of(all, before, after, ddl), index);
    List<LeftOut> leftOut = new ArrayList<>(typed.leftOut());
    List<Difference> written = new ArrayList<>(typed.written());
    circular(order.circular(), written, leftOut);
    written.forEach(
        difference -> {
          if (isAdded(difference, order.ordered()) && !ddl.placesColumns()) {
            lastPlace(difference, before, wanted).ifPresent(leftOut::add);
          }
        });
    return new ChangeScript(order.ordered(), statements(order.ordered(), ddl), written, leftOut);
  }

  /**
   * The same with values for rows that have none in a column that must have one.
   *
   * @param fills SQL by the column's name with its table's in front, such as {@code bin.code}
   */
  public ChangeScript filling(Map<String, String> fills, Ddl ddl) {
    List<SchemaChange> filled = new ArrayList<>();
    changes.forEach(change -> filled.addAll(Filling.of(change, fills)));
    return filled.equals(changes)
        ? this
        : new ChangeScript(filled, statements(filled, ddl), written, leftOut);
  }

  /** What rows lose by the changes, each in words. */
  public List<String> losses() {
    return changes.stream().flatMap(change -> change.loss().stream()).toList();
  }

  /** The statements of ordered changes, with what goes before and behind them. */
  static List<String> statements(List<SchemaChange> ordered, Ddl ddl) {
    List<String> statements = new ArrayList<>(ddl.preamble(ordered));
    statements.addAll(ddl.script(ordered));
    return statements;
  }

  /** Changes that wait for each other are left out, and the differences behind them. */
  private static void circular(
      List<SchemaChange> circular, List<Difference> written, List<LeftOut> leftOut) {
    if (circular.isEmpty()) {
      return;
    }
    String members =
        circular.stream()
            .map(change -> change.target().kind().label() + " " + change.target().displayName())
            .distinct()
            .collect(Collectors.joining(", "));
    for (Difference difference : List.copyOf(written)) {
      boolean waits =
          circular.stream()
              .anyMatch(
                  change ->
                      change.target().displayName().equals(difference.name())
                          || change.target().displayName().equals(difference.table()));
      if (waits) {
        written.remove(difference);
        leftOut.add(new LeftOut(difference, "these need each other: " + members));
      }
    }
  }

  /** That a new column comes last where its place among the others cannot be chosen. */
  private static Optional<LeftOut> lastPlace(
      Difference difference, Snapshot before, Snapshot wanted) {
    List<String> standing = columns(before, difference);
    List<String> all = columns(wanted, difference);
    List<String> behind = all.subList(all.indexOf(difference.name()) + 1, all.size());
    return behind.stream().anyMatch(standing::contains)
        ? Optional.of(new LeftOut(difference, "it is added behind the other columns here"))
        : Optional.empty();
  }

  /** Whether a column is added, and no other one renamed to be it. */
  private static boolean isAdded(Difference difference, List<SchemaChange> changes) {
    return difference.change() == Difference.Change.ADDED
        && difference.either() instanceof Column
        && changes.stream()
            .anyMatch(
                change ->
                    change instanceof SchemaChange.AddPart add
                        && add.target().kind() == Kind.TABLE
                        && Optional.of(add.target()).equals(difference.owner())
                        && add.part().name().equals(difference.name()));
  }

  private static List<String> columns(Snapshot snapshot, Difference part) {
    return snapshot.object(part.owner().orElseThrow()).stream()
        .flatMap(table -> table.parts(Kind.COLUMN).stream())
        .map(Part::name)
        .toList();
  }
}
