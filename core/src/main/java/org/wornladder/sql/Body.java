package org.wornladder.sql;

import org.wornladder.sql.Dialect.Trait;

/**
 * Follows the words of one statement and says whether a block is open, so that the semicolons in it
 * belong to it.
 */
abstract sealed class Body permits Body.None, TriggerBody, AtomicBody, RoutineBody {
  static Body in(Dialect dialect) {
    if (dialect.has(Trait.TRIGGER_BODIES)) {
      return new TriggerBody();
    }
    if (dialect.has(Trait.ATOMIC_BODIES)) {
      return new AtomicBody();
    }
    return dialect.has(Trait.ROUTINE_BODIES) ? new RoutineBody() : new None();
  }

  /** Takes the next meaning token of the statement. */
  abstract void accept(Lexer token);

  /** Whether a semicolon now stands inside the statement. */
  abstract boolean isOpen();

  static final class None extends Body {
    @Override
    void accept(Lexer token) {}

    @Override
    boolean isOpen() {
      return false;
    }
  }
}
