package org.wornladder.change;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.wornladder.schema.Column;
import org.wornladder.schema.Element;
import org.wornladder.schema.Kind;
import org.wornladder.schema.Snapshot;

/**
 * What depends on objects that a change takes away, be it for a moment: it goes before them, by
 * their engine's will or by its own, and must come again.
 */
final class Dependents {
  private static final Set<String> RESHAPING =
      Set.of(Column.TYPE, Column.COLLATION, Column.GENERATED);

  private final Ddl ddl;
  private final Set<Element.Key> settled = new HashSet<>();
  private final Set<String> gone = new HashSet<>();
  private final Set<String> names = new HashSet<>();
  private final List<Set<String>> columns = new ArrayList<>();
  private final List<Element> found = new ArrayList<>();

  private Dependents(Ddl ddl) {
    this.ddl = ddl;
  }

  /**
   * What no difference speaks of, and must go and come all the same.
   *
   * @param standing what is there before the change
   */
  static List<Element> on(List<Difference> differences, Snapshot standing, Ddl ddl) {
    Dependents dependents = new Dependents(ddl);
    differences.forEach(dependents::take);
    if (!dependents.gone.isEmpty() || !dependents.columns.isEmpty()) {
      dependents.find(standing.elements());
    }
    return dependents.found;
  }

  private void take(Difference difference) {
    if (difference.table().isEmpty()) {
      difference.before().ifPresent(before -> settled.add(before.key()));
      difference.before().filter(before -> before.kind().isView()).ifPresent(this::goes);
    } else if (difference.kind() == Kind.COLUMN && reshapes(difference)) {
      Element table = new Element(Kind.TABLE, difference.table(), Map.of(), List.of());
      Set<String> both = new HashSet<>();
      ddl.names(table).forEach(name -> both.add(CreationScript.folded(name)));
      both.add(CreationScript.folded(difference.name()));
      columns.add(both);
    }
  }

  private static boolean reshapes(Difference difference) {
    return switch (difference.change()) {
      case ADDED -> false;
      case REMOVED -> true;
      case CHANGED -> difference.facts().stream().anyMatch(fact -> RESHAPING.contains(fact.name()));
    };
  }

  private void goes(Element view) {
    gone.add(view.name());
    ddl.names(view).forEach(name -> names.add(CreationScript.folded(name)));
  }

  /** Again and again, since what is found may be leaned on too. */
  private void find(List<Element> standing) {
    List<Element> waiting = new ArrayList<>();
    for (Element element : standing) {
      if (!settled.contains(element.key()) && !element.kind().isRight()) {
        waiting.add(element);
      }
    }
    for (boolean more = true; more; ) {
      more = waiting.removeIf(this::takesAlong);
    }
  }

  private boolean takesAlong(Element element) {
    boolean leans =
        element.fact(Element.TABLE).filter(gone::contains).isPresent()
            || (ddl.refusesToDropWhatIsUsed() && element.kind().isView() && speaksOf(element));
    if (!leans || ddl.create(element).make().isEmpty()) {
      return false;
    }
    found.add(element);
    if (element.kind().isView()) {
      goes(element);
    }
    return true;
  }

  private boolean speaksOf(Element view) {
    Set<String> words = new HashSet<>();
    for (String statement : ddl.create(view).make()) {
      CreationScript.words(statement, ddl).forEach(word -> words.add(CreationScript.folded(word)));
    }
    return names.stream().anyMatch(words::contains)
        || columns.stream().anyMatch(words::containsAll);
  }
}
