package org.wornladder.execution;

import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;

/**
 * A statement of which the journal does not say whether it took effect, and what the database says.
 *
 * @param statement its number, counted from 1
 * @param found what the facts say
 * @param explanation the facts, for people and the record
 * @param clearing what must be cleared away before the statement runs again; empty if nothing
 */
public record UncertainStatement(
    int statement, Found found, String explanation, Optional<String> clearing) {
  /** What the facts say. */
  public enum Found {
    DONE,
    NOT_DONE,
    /** They do not say: a person must. */
    OPEN
  }

  boolean isSettled() {
    return found != Found.OPEN;
  }

  /** The statements that are done, with this one if it is. */
  Set<Integer> with(Set<Integer> done) {
    Set<Integer> all = new TreeSet<>(done);
    if (found == Found.DONE) {
      all.add(statement);
    }
    return all;
  }

  /** The reason for which a rung is stuck at this statement. */
  String reason(String label) {
    return label
        + " is stuck: nobody knows whether statement "
        + statement
        + " took effect ("
        + explanation
        + ")";
  }
}
