package org.wornladder.diff;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.wornladder.schema.Element;
import org.wornladder.schema.Kind;
import org.wornladder.schema.Snapshot;

/**
 * Differences, apart from what may only look like one: a thing that who read one of the structures
 * may not see, or not see what it is.
 *
 * @param told what differs
 * @param hidden of what nobody can tell
 */
public record Sight(List<Difference> told, List<Difference> hidden) {
  /** Where nothing differs. */
  public static final Sight NOTHING = new Sight(List.of(), List.of());

  public Sight {
    told = List.copyOf(told);
    hidden = List.copyOf(hidden);
  }

  /** Tells apart what two structures differ in. */
  public static Sight of(List<Difference> differences, Snapshot before, Snapshot after) {
    List<Difference> told = new ArrayList<>();
    List<Difference> hidden = new ArrayList<>();
    for (Difference difference : differences) {
      boolean both = difference.before().isPresent() && difference.after().isPresent();
      boolean unseen =
          both
              ? isHidden(difference.before()) || isHidden(difference.after())
              : isUnseen(difference, difference.before(), before.unseen())
                  || isUnseen(difference, difference.after(), after.unseen());
      (unseen ? hidden : told).add(difference);
    }
    return new Sight(told, hidden);
  }

  private static boolean isHidden(Optional<Element> side) {
    return side.filter(Element::isHidden).isPresent();
  }

  private static boolean isUnseen(Difference difference, Optional<Element> side, Set<Kind> unseen) {
    return side.isEmpty() && unseen.contains(difference.kind());
  }

  /** The kinds and names of things. */
  public static List<String> names(List<Difference> things) {
    return things.stream().map(Difference::words).toList();
  }
}
