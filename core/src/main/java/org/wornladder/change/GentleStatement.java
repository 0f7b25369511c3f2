package org.wornladder.change;

import java.util.List;

/**
 * A statement in the form in which it holds up others least, in two steps where that takes two.
 *
 * @param up what comes first
 * @param down takes that back; empty where the plain way back does
 * @param laterUp what comes in a step of its own; none if the first is all
 * @param laterDown takes that back
 * @param outside whether it refuses a transaction
 */
public record GentleStatement(
    List<String> up,
    List<String> down,
    List<String> laterUp,
    List<String> laterDown,
    boolean outside) {
  public GentleStatement {
    up = List.copyOf(up);
    down = List.copyOf(down);
    laterUp = List.copyOf(laterUp);
    laterDown = List.copyOf(laterDown);
  }

  /** As it is. */
  public static GentleStatement plain(String statement) {
    return new GentleStatement(List.of(statement), List.of(), List.of(), List.of(), false);
  }
}
