package org.wornladder.execution;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/**
 * An edited file of a rung that is stuck on its way up, beside what ran of it.
 *
 * @param label the rung's number as files write it
 * @param lines the new file's statements in their order, and after them what ran and is not in it
 */
public record AcceptedFile(String label, List<Line> lines) {
  /** What is known of a statement. */
  public enum State {
    /** It ran, and the run goes on after it. */
    DONE,
    /** It did not run; apply runs it. */
    NEXT,
    /** It ran, and the file does not have it any more. */
    GONE
  }

  /**
   * A statement.
   *
   * @param number its number in the new file; in the old one if it is gone
   * @param before its number in the old file; 0 if it did not run
   */
  public record Line(State state, int number, int before, StatementMark mark) {}

  public AcceptedFile {
    lines = List.copyOf(lines);
  }

  /**
   * Matches what ran with the statements of a file. Each run accounts for one statement at most.
   *
   * @param done what ran, by its number
   */
  static AcceptedFile of(String label, Map<Integer, StatementMark> done, List<StatementMark> file) {
    Map<Integer, StatementMark> left = new TreeMap<>(done);
    List<Line> lines = new ArrayList<>();
    for (int number = 1; number <= file.size(); number++) {
      StatementMark mark = file.get(number - 1);
      int before = firstEqual(left, mark);
      left.remove(before);
      State state = before > 0 ? State.DONE : State.NEXT;
      lines.add(new Line(state, number, before, mark));
    }
    left.forEach((number, mark) -> lines.add(new Line(State.GONE, number, number, mark)));
    return new AcceptedFile(label, lines);
  }

  private static int firstEqual(Map<Integer, StatementMark> marks, StatementMark wanted) {
    return marks.entrySet().stream()
        .filter(entry -> entry.getValue().hash().equals(wanted.hash()))
        .mapToInt(Map.Entry::getKey)
        .findFirst()
        .orElse(0);
  }

  /** Whether what ran stands at the beginning of the file as it ran. */
  public boolean isAsItRan() {
    int next = 0;
    for (Line line : lines) {
      if (line.state() == State.GONE || line.state() == State.DONE && next > 0) {
        return false;
      }
      next += line.state() == State.NEXT ? 1 : 0;
    }
    return true;
  }
}
