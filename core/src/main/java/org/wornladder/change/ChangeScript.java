package org.wornladder.change;

import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.wornladder.schema.Element;
import org.wornladder.schema.Kind;
import org.wornladder.schema.Snapshot;

/**
 * Differences as statements that make of the one structure the other, in an order that runs: what
 * depends on others goes first and comes last.
 *
 * @param statements without end marks
 * @param written the differences that the statements settle
 * @param leftOut those that cannot be written
 */
public record ChangeScript(
    List<String> statements, List<Difference> written, List<Difference> leftOut) {
  /** What is taken away and made anew, so that nothing depends on a table while that changes. */
  private static final Set<Kind> MADE_ANEW =
      Set.of(Kind.VIEW, Kind.MATERIALISED_VIEW, Kind.INDEX, Kind.POLICY, Kind.TRIGGER, Kind.EVENT);

  public ChangeScript {
    statements = List.copyOf(statements);
    written = List.copyOf(written);
    leftOut = List.copyOf(leftOut);
  }

  /**
   * The statements that make of what is {@code before} in each difference what is {@code after}.
   *
   * @param standing the whole structure before the change, for what depends on what changes; the
   *     owners and grants in it are given back to what is made anew
   */
  public static ChangeScript of(List<Difference> differences, Snapshot standing, Ddl ddl) {
    Writing writing = new Writing(differences, standing, ddl);
    differences.forEach(writing::take);
    Dependents.on(writing.written, standing, ddl).forEach(writing::makeAnew);
    return new ChangeScript(writing.statements(), writing.written, writing.leftOut);
  }

  /** The statements as they are sorted out. */
  private static final class Writing {
    private final Map<String, Difference> byName = new HashMap<>();
    private final Map<String, List<Difference>> origins = new HashMap<>();
    private final Snapshot standing;
    private final Ddl ddl;
    private final List<Difference> written = new ArrayList<>();
    private final List<Difference> leftOut = new ArrayList<>();
    private final List<Element> going = new ArrayList<>();
    private final List<Element> coming = new ArrayList<>();
    private final List<Difference> changing = new ArrayList<>();

    private Writing(List<Difference> differences, Snapshot standing, Ddl ddl) {
      differences.stream()
          .filter(one -> one.kind() == Kind.COLUMN)
          .forEach(one -> byName.put(one.fullName(), one));
      this.standing = standing;
      this.ddl = ddl;
    }

    private void take(Difference difference) {
      boolean alone = difference.table().isEmpty();
      boolean anew = alone && MADE_ANEW.contains(difference.kind());
      if (!canBeWritten(difference)) {
        leftOut.add(difference);
        return;
      }
      written.add(difference);
      if (!alone || (difference.change() == Difference.Change.CHANGED && !anew)) {
        own(difference).ifPresent(changing::add);
      } else {
        difference.before().ifPresent(going::add);
        difference.after().ifPresent(coming::add);
      }
    }

    /** What differs in the tables from which a table has a column. */
    private List<Difference> origins(Difference difference) {
      if (difference.kind() != Kind.COLUMN) {
        return List.of();
      }
      // Kept: a table is looked for among all of them.
      return origins.computeIfAbsent(
          difference.fullName(),
          name ->
              ddl.origins(difference, standing).stream()
                  .map(table -> Optional.ofNullable(byName.get(difference.in(table).fullName())))
                  .flatMap(Optional::stream)
                  .filter(there -> there.change() == difference.change())
                  .toList());
    }

    /** What is left of a difference when those that it comes from are settled; empty if nothing. */
    private Optional<Difference> own(Difference difference) {
      List<Difference> origins = origins(difference);
      if (origins.isEmpty()) {
        return Optional.of(difference);
      }
      if (difference.change() != Difference.Change.CHANGED) {
        return Optional.empty();
      }
      List<Difference.FactChange> settled = new ArrayList<>(difference.facts());
      settled.removeIf(fact -> origins.stream().noneMatch(there -> there.facts().contains(fact)));
      Difference rest = difference.without(settled);
      return rest.facts().isEmpty() ? Optional.empty() : Optional.of(rest);
    }

    /** How many tables stand above the one that it is a part of, and differ alike. */
    private int depth(Difference difference) {
      return origins(difference).stream().mapToInt(there -> 1 + depth(there)).max().orElse(0);
    }

    private boolean canBeWritten(Difference difference) {
      Optional<Difference> own = own(difference);
      return (own.isEmpty() || ddl.change(own.get()).isPresent())
          && origins(difference).stream().allMatch(this::canBeWritten);
    }

    private void makeAnew(Element element) {
      going.add(element);
      coming.add(element);
    }

    private List<String> statements() {
      List<Element> ground = new ArrayList<>();
      List<Element> objects = new ArrayList<>();
      coming.forEach(one -> (isGround(one.kind()) ? ground : objects).add(one));
      List<String> statements = new ArrayList<>();
      drop(statements, going.stream().filter(one -> !isGround(one.kind())).toList());
      change(statements, Turn.KEYS_GO);
      drop(statements, going.stream().filter(one -> isGround(one.kind())).toList());
      statements.addAll(CreationScript.of(ground, ddl).statements());
      change(statements, Turn.TABLES_CHANGE);
      change(statements, Turn.KEYS_COME);
      statements.addAll(CreationScript.of(objects, ddl).statements());
      change(statements, Turn.THINGS_CHANGE);
      Set<Element.Key> gone = new HashSet<>();
      going.forEach(element -> gone.add(element.key()));
      objects.stream()
          .filter(element -> gone.contains(element.key()))
          .forEach(element -> statements.addAll(ddl.rights(element, standing.elements())));
      return statements;
    }

    /** What goes, goes in the reverse of the order in which it would be made. */
    private void drop(List<String> statements, List<Element> elements) {
      List<Element> order = new ArrayList<>(CreationScript.ordered(elements, ddl));
      Collections.reverse(order);
      for (Element element : order) {
        ddl.change(new Difference("", Optional.of(element), Optional.empty()))
            .ifPresent(statements::addAll);
      }
    }

    private void change(List<String> statements, Turn turn) {
      changing.stream()
          .filter(difference -> turn(difference) == turn)
          .sorted(Comparator.comparing(ChangeScript::place).thenComparing(this::depth))
          .forEach(difference -> ddl.change(difference).ifPresent(statements::addAll));
    }
  }

  /** When a difference is settled that is a part of a table, or stays what it is. */
  private enum Turn {
    KEYS_GO,
    TABLES_CHANGE,
    KEYS_COME,
    THINGS_CHANGE
  }

  private static Turn turn(Difference difference) {
    if (difference.table().isEmpty()) {
      return difference.kind() == Kind.TABLE ? Turn.TABLES_CHANGE : Turn.THINGS_CHANGE;
    }
    if (difference.kind() == Kind.COLUMN) {
      return Turn.TABLES_CHANGE;
    }
    return difference.change() == Difference.Change.REMOVED ? Turn.KEYS_GO : Turn.KEYS_COME;
  }

  /** Keys come before what depends on them, and go behind it. */
  private static int place(Difference difference) {
    int place = difference.kind().ordinal();
    return difference.change() == Difference.Change.REMOVED ? -place : place;
  }

  private static boolean isGround(Kind kind) {
    return CreationScript.rank(kind) <= CreationScript.rank(Kind.TABLE);
  }
}
