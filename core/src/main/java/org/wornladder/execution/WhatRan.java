package org.wornladder.execution;

import java.util.List;
import java.util.Map;
import java.util.SortedMap;
import java.util.TreeMap;
import org.wornladder.journal.Entry;
import org.wornladder.journal.Event;
import org.wornladder.journal.History;
import org.wornladder.journal.RungRecord;
import org.wornladder.project.Direction;
import org.wornladder.project.Rung;
import org.wornladder.project.Script;

/**
 * The statements that ran of a rung that is stuck; none of any other.
 *
 * @param direction which way was running
 * @param statements by the numbers that they have in the journal
 */
record WhatRan(Direction direction, SortedMap<Integer, StatementMark> statements) {
  static WhatRan of(RungRecord record, History history) {
    Direction direction = record.progress().up() ? Direction.UP : Direction.DOWN;
    SortedMap<Integer, StatementMark> statements = new TreeMap<>();
    for (Entry entry : history.entries()) {
      int number = entry.note().statement();
      if (entry.subject().rung() != record.number()) {
        continue;
      }
      if (beginsAnew(entry.event())) {
        statements.clear();
      } else if (record.progress().done().contains(number)) {
        statements.put(number, StatementMark.parse(entry.subject().script()));
      }
    }
    return new WhatRan(direction, statements);
  }

  private static boolean beginsAnew(Event event) {
    return switch (event) {
      case UP_STARTED, DOWN_STARTED, FILE_ACCEPTED -> true;
      default -> false;
    };
  }

  /** Whether each stands in a script by the number under which it ran. */
  boolean isIn(Script script, PlanningContext basis) {
    if (statements.isEmpty()) {
      return true;
    }
    List<StatementMark> marks = marks(script, basis);
    for (Map.Entry<Integer, StatementMark> one : statements.entrySet()) {
      int number = one.getKey();
      if (number > marks.size() || !marks.get(number - 1).hash().equals(one.getValue().hash())) {
        return false;
      }
    }
    return true;
  }

  /** The rung's file beside it. */
  AcceptedFile beside(Rung file, PlanningContext basis) {
    return AcceptedFile.of(
        file.label(), statements, statements.isEmpty() ? List.of() : marks(file.script(), basis));
  }

  private List<StatementMark> marks(Script script, PlanningContext basis) {
    return basis.preparation().statements(script, direction).stream()
        .map(one -> StatementMark.of(one, basis.environment().secrets()))
        .toList();
  }
}
