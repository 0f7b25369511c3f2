package org.wornladder.change;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import org.wornladder.schema.Described;
import org.wornladder.schema.Kind;
import org.wornladder.schema.Snapshot;

/**
 * Differences, separated from those that cannot be decided because the user who read one of the
 * structures may not see an object, or not its definition.
 *
 * @param visible what differs
 * @param undecidable what may differ or not
 */
public record VisibleDifferences(List<Difference> visible, List<Difference> undecidable) {
  /** Where nothing differs. */
  public static final VisibleDifferences NOTHING = new VisibleDifferences(List.of(), List.of());

  public VisibleDifferences {
    visible = List.copyOf(visible);
    undecidable = List.copyOf(undecidable);
  }

  /** Separates the differences of two structures. */
  public static VisibleDifferences of(
      List<Difference> differences, Snapshot before, Snapshot after) {
    List<Difference> visible = new ArrayList<>();
    List<Difference> undecidable = new ArrayList<>();
    for (Difference difference : differences) {
      boolean both = difference.before().isPresent() && difference.after().isPresent();
      boolean unseen =
          both
              ? isHidden(difference.before()) || isHidden(difference.after())
              : isUnseen(difference, difference.before(), before.unseen())
                  || isUnseen(difference, difference.after(), after.unseen());
      (unseen ? undecidable : visible).add(difference);
    }
    return new VisibleDifferences(visible, undecidable);
  }

  private static boolean isHidden(Optional<Described> side) {
    return side.filter(Described::isHidden).isPresent();
  }

  private static boolean isUnseen(
      Difference difference, Optional<Described> side, Set<Kind> unseen) {
    return side.isEmpty() && unseen.contains(difference.kind());
  }

  /** The same with other texts in the definitions. */
  public VisibleDifferences map(UnaryOperator<String> texts) {
    return new VisibleDifferences(
        visible.stream().map(one -> one.map(texts)).toList(),
        undecidable.stream().map(one -> one.map(texts)).toList());
  }

  /** The kinds and names of objects. */
  public static List<String> names(List<Difference> objects) {
    return objects.stream().map(Difference::description).toList();
  }
}
