package org.wornladder.sql;

import java.util.ArrayDeque;
import java.util.Deque;

/**
 * Stored routines whose blocks, branches and loops nest and end by their own names (MariaDB Server
 * documentation, "Programmatic and Compound Statements").
 */
final class RoutineBody extends Body {
  private static final String[] OPENERS = {"IF", "LOOP", "REPEAT", "WHILE", "FOR"};
  private static final String[] KINDS = {"PROCEDURE", "FUNCTION", "TRIGGER", "EVENT"};
  private static final String[] BEFORE_BODY = {
    "ROW", "DO", "DETERMINISTIC", "DATA", "SQL", "DEFINER", "INVOKER"
  };
  private static final int HEADER_WORDS = 12;

  private enum Block {
    BEGIN,
    BRANCH_OR_LOOP,
    CASE_STATEMENT,
    CASE_EXPRESSION
  }

  private final Deque<Block> open = new ArrayDeque<>();
  private int tokens;
  private boolean create;
  private boolean routine;
  private boolean statementStart = true;
  private boolean afterEnd;
  private boolean afterBegin;

  @Override
  void accept(Lexer token) {
    tokens++;
    if (tokens == 1 && token.isWord("CREATE")) {
      create = true;
      statementStart = false;
    } else if (create && !routine) {
      routine = tokens <= HEADER_WORDS && isOneOf(token, KINDS);
    } else if (create && open.isEmpty()) {
      beforeBody(token);
    } else {
      inBody(token);
    }
  }

  @Override
  boolean isOpen() {
    return !open.isEmpty();
  }

  /** Between the kind of routine and its first block, which need not be a BEGIN. */
  private void beforeBody(Lexer token) {
    boolean start = statementStart;
    statementStart = false;
    if (token.isWord("BEGIN")) {
      open(Block.BEGIN);
    } else if (token.isWord("CASE")) {
      open.push(start ? Block.CASE_STATEMENT : Block.CASE_EXPRESSION);
    } else if (start && isOneOf(token, OPENERS)) {
      openBranchOrLoop(token);
    } else {
      statementStart =
          token.isMark(')')
              || token.isMark(':')
              || token.kind() == TokenKind.STRING
              || isOneOf(token, BEFORE_BODY);
    }
  }

  private void inBody(Lexer token) {
    boolean start = statementStart;
    statementStart = false;
    boolean closing = afterEnd && (isOneOf(token, OPENERS) || token.isWord("CASE"));
    afterEnd = false;
    if (closing) {
      return;
    }
    if (afterBegin) {
      // At the top, BEGIN alone starts a transaction; only BEGIN NOT ATOMIC opens a block.
      afterBegin = false;
      if (token.isWord("NOT")) {
        open(Block.BEGIN);
        statementStart = false;
      }
    } else if (token.isWord("END")) {
      open.poll();
      afterEnd = true;
    } else if (token.isWord("CASE")) {
      open.push(start ? Block.CASE_STATEMENT : Block.CASE_EXPRESSION);
    } else if (start && token.isWord("BEGIN")) {
      begin();
    } else if (start && isOneOf(token, OPENERS)) {
      openBranchOrLoop(token);
    } else {
      statementStart = startsStatement(token);
    }
  }

  private boolean startsStatement(Lexer token) {
    if (token.isWord("THEN") || token.isWord("ELSE")) {
      return open.peek() != Block.CASE_EXPRESSION;
    }
    return token.kind() == TokenKind.END
        || token.isWord("DO")
        || token.isWord("ATOMIC")
        || token.isMark(':');
  }

  private void begin() {
    if (open.isEmpty()) {
      afterBegin = true;
    } else {
      open(Block.BEGIN);
    }
  }

  private void openBranchOrLoop(Lexer token) {
    open(Block.BRANCH_OR_LOOP);
    statementStart = token.isWord("LOOP") || token.isWord("REPEAT");
  }

  private void open(Block block) {
    open.push(block);
    statementStart = true;
  }

  private static boolean isOneOf(Lexer token, String[] words) {
    for (String word : words) {
      if (token.isWord(word)) {
        return true;
      }
    }
    return false;
  }
}
