package org.wornladder.sql;

import java.util.List;

/**
 * {@code DECLARE … HANDLER FOR condition [, condition …]}, behind which a statement follows
 * (MariaDB Server documentation, "DECLARE HANDLER").
 */
final class HandlerConditions {
  private enum State {
    CLOSED,
    DECLARE,
    KIND,
    HANDLER,
    CONDITION,
    SQLSTATE,
    NOT,
    BEHIND_CONDITION
  }

  private State state = State.CLOSED;

  void reset() {
    state = State.CLOSED;
  }

  /** DECLARE was read, of a handler or of something else. */
  void declare() {
    state = State.DECLARE;
  }

  boolean isOpen() {
    return state != State.CLOSED;
  }

  /** Takes the next token; whether it is the first one of the handler's statement. */
  boolean accept(Lexer token) {
    if (state == State.BEHIND_CONDITION && !token.isMark(',')) {
      state = State.CLOSED;
      return true;
    }
    state =
        switch (state) {
          case DECLARE ->
              token.isOneOf(List.of("CONTINUE", "EXIT", "UNDO")) ? State.KIND : State.CLOSED;
          case KIND -> token.isWord("HANDLER") ? State.HANDLER : State.CLOSED;
          case HANDLER -> token.isWord("FOR") ? State.CONDITION : State.CLOSED;
          case CONDITION ->
              token.isWord("SQLSTATE")
                  ? State.SQLSTATE
                  : token.isWord("NOT") ? State.NOT : State.BEHIND_CONDITION;
          case SQLSTATE -> token.isWord("VALUE") ? State.SQLSTATE : State.BEHIND_CONDITION;
          case NOT -> State.BEHIND_CONDITION;
          case BEHIND_CONDITION -> State.CONDITION;
          case CLOSED -> State.CLOSED;
        };
    return false;
  }
}
