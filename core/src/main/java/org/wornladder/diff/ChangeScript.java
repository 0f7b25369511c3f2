package org.wornladder.diff;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import org.wornladder.schema.Element;
import org.wornladder.schema.Kind;

/**
 * Differences as statements that make of the one structure the other, in an order that runs: what
 * leans on others goes first and comes last.
 *
 * @param statements without end marks
 * @param written the differences that the statements settle
 * @param leftOut those that cannot be written
 */
public record ChangeScript(
    List<String> statements, List<Difference> written, List<Difference> leftOut) {
  public ChangeScript {
    statements = List.copyOf(statements);
    written = List.copyOf(written);
    leftOut = List.copyOf(leftOut);
  }

  /** When a difference is settled, among others. */
  private enum Turn {
    THINGS_GO,
    KEYS_GO,
    TABLES_GO,
    GROUND_COMES,
    TABLES_CHANGE,
    KEYS_COME,
    THINGS_COME
  }

  /**
   * The statements that make of what is {@code before} in each difference what is {@code after}.
   */
  public static ChangeScript of(List<Difference> differences, Ddl ddl) {
    List<Difference> sorted = new ArrayList<>(differences);
    sorted.sort(Comparator.comparing(ChangeScript::turn).thenComparing(ChangeScript::rank));
    List<Difference> written = new ArrayList<>();
    List<Difference> leftOut = new ArrayList<>();
    List<String> statements = new ArrayList<>();
    for (Turn turn : Turn.values()) {
      List<Difference> now = sorted.stream().filter(one -> turn(one) == turn).toList();
      List<Element> made = new ArrayList<>();
      for (Difference difference : now) {
        Optional<List<String>> change = ddl.change(difference);
        (change.isPresent() ? written : leftOut).add(difference);
        if (change.isPresent() && isNew(difference)) {
          made.add(difference.after().orElseThrow());
        } else {
          change.ifPresent(statements::addAll);
        }
      }
      statements.addAll(CreationScript.of(made, ddl).statements());
    }
    return new ChangeScript(statements, written, leftOut);
  }

  /**
   * Whether it is a thing that stands alone and was not there: these have an order of their own.
   */
  private static boolean isNew(Difference difference) {
    return difference.table().isEmpty() && difference.before().isEmpty();
  }

  private static Turn turn(Difference difference) {
    boolean goes = difference.change() == Difference.Change.REMOVED;
    if (!difference.table().isEmpty()) {
      if (difference.kind() == Kind.COLUMN) {
        return Turn.TABLES_CHANGE;
      }
      return goes ? Turn.KEYS_GO : Turn.KEYS_COME;
    }
    boolean ground = CreationScript.rank(difference.kind()) <= CreationScript.rank(Kind.TABLE);
    if (difference.kind() == Kind.TABLE && difference.change() == Difference.Change.CHANGED) {
      return Turn.TABLES_CHANGE;
    }
    if (goes) {
      return ground ? Turn.TABLES_GO : Turn.THINGS_GO;
    }
    return ground ? Turn.GROUND_COMES : Turn.THINGS_COME;
  }

  /** What goes, goes in the reverse of the order in which it comes. */
  private static int rank(Difference difference) {
    int rank = CreationScript.rank(difference.kind());
    int of = difference.table().isEmpty() ? rank : difference.kind().ordinal();
    return difference.change() == Difference.Change.REMOVED ? -of : of;
  }
}
