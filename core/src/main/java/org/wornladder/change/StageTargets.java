package org.wornladder.change;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.wornladder.schema.Column;
import org.wornladder.schema.Constraint;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.Index;
import org.wornladder.schema.Snapshot;
import org.wornladder.schema.Table;

/**
 * The structures between two others by which a change keeps running programs alive: what comes,
 * first without demands; the indexes; the demands on rows; what goes, last.
 *
 * @param expanded with all that the program of before does not notice
 * @param indexed with the new indexes of tables that were there
 * @param required with all that rows must satisfy
 * @param wanted with nothing left that goes
 */
public record StageTargets(
    Snapshot expanded, Snapshot indexed, Snapshot required, Snapshot wanted) {
  /** Which differences belong to which step. */
  private static final class Sorted {
    private final List<Difference> expanding = new ArrayList<>();
    private final List<Difference> indexing = new ArrayList<>();
    private final List<Difference> requiring = new ArrayList<>();
    private final List<Difference> contracting = new ArrayList<>();
  }

  /**
   * @param differences from the present structure to the one that is wanted
   * @param whole the structure that is wanted, as it was read
   */
  public static StageTargets of(List<Difference> differences, Snapshot present, Snapshot whole) {
    Sorted sorted = new Sorted();
    differences.forEach(difference -> sort(difference, sorted));
    Snapshot expanded = step(present, sorted.expanding);
    Snapshot indexed = step(expanded, sorted.indexing);
    Snapshot required = MadeIndexes.in(step(indexed, sorted.requiring), whole);
    return new StageTargets(expanded, indexed, required, step(required, sorted.contracting));
  }

  /** The text that made a table describes none of the tables between. */
  private static Snapshot step(Snapshot from, List<Difference> differences) {
    Snapshot to = Accepted.in(from, differences);
    List<DatabaseObject> objects = new ArrayList<>();
    for (DatabaseObject object : to.objects()) {
      boolean changed =
          differences.stream().anyMatch(one -> one.owner().equals(Optional.of(object.id())));
      objects.add(changed && object instanceof Table table ? TypedChanges.plain(table) : object);
    }
    return new Snapshot(objects, to.unseen());
  }

  private static void sort(Difference difference, Sorted sorted) {
    boolean goes = difference.change() == Difference.Change.REMOVED;
    if (difference.owner().isEmpty()) {
      (goes ? sorted.contracting : sorted.expanding).add(difference);
    } else if (difference.either() instanceof Column) {
      column(difference, sorted);
    } else if (difference.either() instanceof Index) {
      (goes ? sorted.contracting : sorted.indexing).add(difference);
    } else if (difference.either() instanceof Constraint && goes) {
      // The program of after may write what the rule forbids.
      sorted.expanding.add(difference);
    } else {
      sorted.requiring.add(difference);
    }
  }

  /** A required column is at first none, and one that goes is no longer required. */
  private static void column(Difference difference, Sorted sorted) {
    Optional<Column> before = difference.before().map(Column.class::cast);
    Optional<Column> after = difference.after().map(Column.class::cast);
    if (after.isEmpty()) {
      Column going = before.orElseThrow();
      Column open = isDemanding(going) ? nullable(going) : going;
      change(difference, going, open, sorted.expanding);
      sorted.contracting.add(
          new Difference(difference.owner(), Optional.of(open), Optional.empty()));
      return;
    }
    boolean becomes = before.isEmpty() || before.get().nullable();
    if (!becomes || !isDemanding(after.get())) {
      (before.isEmpty() ? sorted.expanding : sorted.requiring).add(difference);
      return;
    }
    Column open = nullable(after.get());
    boolean sameType = before.isEmpty() || before.get().type().equals(open.type());
    Column first = sameType ? open : before.get();
    if (before.isEmpty() || !first.equals(before.get())) {
      sorted.expanding.add(
          new Difference(difference.owner(), difference.before(), Optional.of(first)));
    }
    sorted.requiring.add(
        new Difference(difference.owner(), Optional.of(first), difference.after()));
  }

  private static void change(
      Difference of, Column before, Column after, List<Difference> differences) {
    if (!before.equals(after)) {
      differences.add(new Difference(of.owner(), Optional.of(before), Optional.of(after)));
    }
  }

  /** Whether a program that does not know the column cannot add rows. */
  private static boolean isDemanding(Column column) {
    return !column.nullable()
        && column.defaultValue().isEmpty()
        && column.more(Column.GENERATED).isEmpty()
        && column.more(Column.IDENTITY).isEmpty();
  }

  private static Column nullable(Column column) {
    return new Column(
        column.name(),
        column.type(),
        true,
        column.defaultValue(),
        column.more(),
        column.dependsOn());
  }
}
