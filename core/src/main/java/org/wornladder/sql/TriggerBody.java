package org.wornladder.sql;

/**
 * SQLite's {@code CREATE [TEMP] TRIGGER … BEGIN statement; … END}. The kind stands where the
 * grammar has it, and END ends the trigger only behind a semicolon: elsewhere it ends a CASE, or is
 * a name (SQLite, "CREATE TRIGGER" and "sqlite3_complete").
 */
final class TriggerBody extends Body {
  private enum State {
    START,
    EXPLAIN,
    CREATE,
    INSIDE,
    BEHIND_STATEMENT,
    /** It has ended, or is none. */
    OUTSIDE
  }

  private State state = State.START;

  @Override
  void accept(Lexer token) {
    state =
        switch (state) {
          case START -> started(token, State.EXPLAIN);
          case EXPLAIN ->
              token.isWord("QUERY") || token.isWord("PLAN")
                  ? State.EXPLAIN
                  : started(token, State.OUTSIDE);
          case CREATE -> created(token);
          case INSIDE -> inside(token);
          case BEHIND_STATEMENT -> token.isWord("END") ? State.OUTSIDE : inside(token);
          case OUTSIDE -> State.OUTSIDE;
        };
  }

  private static State started(Lexer token, State explained) {
    return token.isWord("CREATE")
        ? State.CREATE
        : token.isWord("EXPLAIN") ? explained : State.OUTSIDE;
  }

  private static State created(Lexer token) {
    if (token.isWord("TEMP") || token.isWord("TEMPORARY")) {
      return State.CREATE;
    }
    return token.isWord("TRIGGER") ? State.INSIDE : State.OUTSIDE;
  }

  private static State inside(Lexer token) {
    return token.isMark(';') ? State.BEHIND_STATEMENT : State.INSIDE;
  }

  @Override
  boolean isOpen() {
    return state == State.INSIDE || state == State.BEHIND_STATEMENT;
  }
}
