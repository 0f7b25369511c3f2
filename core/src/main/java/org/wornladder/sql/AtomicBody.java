package org.wornladder.sql;

import java.util.List;

/**
 * PostgreSQL's {@code CREATE FUNCTION … BEGIN ATOMIC … END}, followed as psql follows it: BEGIN and
 * CASE open, END closes, outside of parentheses (manual, "CREATE FUNCTION"). A label or a column
 * may be called {@code end}.
 */
final class AtomicBody extends Body {
  private enum State {
    START,
    CREATE,
    ROUTINE,
    OTHER
  }

  private State state = State.START;
  private int parentheses;
  private int depth;
  private boolean nameFollows;

  @Override
  void accept(Lexer token) {
    switch (state) {
      case START -> state = token.isWord("CREATE") ? State.CREATE : State.OTHER;
      case CREATE -> state = created(token);
      case ROUTINE -> follow(token);
      case OTHER -> {}
    }
  }

  private static State created(Lexer token) {
    if (token.isWord("OR") || token.isWord("REPLACE")) {
      return State.CREATE;
    }
    return token.isOneOf(List.of("FUNCTION", "PROCEDURE")) ? State.ROUTINE : State.OTHER;
  }

  private void follow(Lexer token) {
    boolean name = nameFollows;
    nameFollows = token.isMark('.') || token.isWord("AS");
    if (token.isMark('(')) {
      parentheses++;
    } else if (token.isMark(')')) {
      parentheses = Math.max(0, parentheses - 1);
    } else if (parentheses == 0 && !name) {
      count(token);
    }
  }

  private void count(Lexer token) {
    if (token.isWord("BEGIN") || depth > 0 && token.isWord("CASE")) {
      depth++;
    } else if (depth > 0 && token.isWord("END")) {
      depth--;
    }
  }

  @Override
  boolean isOpen() {
    return depth > 0;
  }
}
