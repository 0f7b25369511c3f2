package org.wornladder.sql;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;

/**
 * Follows the compound statements of MariaDB, token by token: what opens a block opens it only
 * where a statement may begin, and END closes one only there, behind the condition of UNTIL, or
 * behind the last value of a CASE. Elsewhere these words are names (MariaDB Server documentation,
 * "Programmatic and Compound Statements" and "SQL_MODE=ORACLE").
 */
final class CompoundStatements {
  private enum Block {
    BEGIN,
    IF,
    LOOP,
    CASE_STATEMENT,
    CASE_EXPRESSION,
    /** What Oracle mode declares before BEGIN: variables, cursors, and in packages routines. */
    DECLARATIONS
  }

  private static final List<String> CLOSED_BY_NAME =
      List.of("IF", "LOOP", "REPEAT", "WHILE", "FOR", "CASE");
  private static final List<String> ROUTINES = List.of("PROCEDURE", "FUNCTION");

  /** Words behind which a value follows, so that END is a name there. */
  private static final List<String> BEFORE_VALUE =
      List.of(
          "THEN",
          "ELSE",
          "WHEN",
          "CASE",
          "AND",
          "OR",
          "NOT",
          "AS",
          "IN",
          "LIKE",
          "BETWEEN",
          "IS",
          "DIV",
          "MOD",
          "XOR",
          "SELECT",
          "DISTINCT",
          "BY",
          "UNTIL",
          "RETURN",
          "SET");

  private final Deque<Block> open = new ArrayDeque<>();
  private final HandlerConditions handler = new HandlerConditions();
  private boolean statementStart = true;

  /** Whether the condition of an IF, WHEN, WHILE or FOR is being read. */
  private boolean condition;

  private boolean until;
  private boolean afterEnd;
  private boolean afterBegin;
  private boolean afterLabel;
  private boolean labelOpen;
  private boolean valueBefore;
  private boolean afterDot;
  private boolean routineHeader;
  private int parentheses;

  /** Takes the first token of a statement that makes nothing. */
  void acceptFirst(Lexer token) {
    if (token.isWord("BEGIN")) {
      afterBegin = true;
      statementStart = false;
    } else if (token.isWord("DECLARE")) {
      openDeclarations();
    } else {
      accept(token);
    }
  }

  /** Opens what Oracle mode declares before a block. */
  void openDeclarations() {
    open(Block.DECLARATIONS);
  }

  boolean isOpen() {
    return !open.isEmpty();
  }

  void accept(Lexer token) {
    boolean start = statementStart;
    statementStart = false;
    if (afterBegin) {
      afterFirstBegin(token);
    } else if (token.isMark(';')) {
      endStatement();
    } else if (afterEnd && token.isOneOf(CLOSED_BY_NAME)) {
      afterEnd = false;
    } else if (start) {
      afterEnd = false;
      begin(token);
    } else {
      afterEnd = false;
      goOn(token);
    }
    valueBefore = isValue(token);
    afterDot = token.isMark('.');
  }

  /**
   * At the top, BEGIN alone starts a transaction; a block has NOT ATOMIC, or in Oracle mode more.
   */
  private void afterFirstBegin(Lexer token) {
    afterBegin = false;
    if (token.isOneOf(List.of("WORK", "TRANSACTION"))) {
      return;
    }
    open(Block.BEGIN);
    if (!token.isWord("NOT")) {
      accept(token);
    }
  }

  private void endStatement() {
    while (open.peek() == Block.CASE_EXPRESSION) {
      open.pop();
    }
    statementStart = true;
    condition = false;
    until = false;
    labelOpen = false;
    routineHeader = false;
    afterEnd = false;
    handler.reset();
  }

  private void begin(Lexer token) {
    labelOpen = false;
    if (token.isWord("END")) {
      close();
    } else if (token.isWord("BEGIN")) {
      if (open.peek() == Block.DECLARATIONS) {
        open.pop();
      }
      open(Block.BEGIN);
    } else if (token.isOneOf(List.of("NOT", "ATOMIC")) || label(token)) {
      statementStart = true;
    } else if (token.isOneOf(List.of("IF", "WHILE", "FOR", "CASE"))) {
      open.push(
          token.isWord("IF") ? Block.IF : token.isWord("CASE") ? Block.CASE_STATEMENT : Block.LOOP);
      condition = true;
    } else if (token.isOneOf(List.of("LOOP", "REPEAT"))) {
      open(Block.LOOP);
    } else if (token.isOneOf(List.of("ELSE", "EXCEPTION"))) {
      statementStart = true;
    } else if (token.isOneOf(List.of("ELSEIF", "ELSIF", "WHEN"))) {
      condition = true;
    } else if (token.isWord("UNTIL")) {
      until = true;
    } else if (token.isWord("DECLARE")) {
      handler.declare();
    } else if (open.peek() == Block.DECLARATIONS && token.isOneOf(ROUTINES)) {
      routineHeader = true;
      parentheses = 0;
    } else {
      labelOpen = token.kind() == TokenKind.WORD || token.kind() == TokenKind.QUOTED_NAME;
    }
  }

  /** {@code <<label>>}, which Oracle mode has before a block. */
  private boolean label(Lexer token) {
    if (token.isText("<<")) {
      afterLabel = true;
      return true;
    }
    boolean inside = afterLabel;
    afterLabel = inside && !token.isText(">>");
    return inside;
  }

  private void goOn(Lexer token) {
    boolean named = labelOpen;
    labelOpen = false;
    if (named && token.isMark(':')) {
      statementStart = true;
    } else if (handler.isOpen()) {
      if (handler.accept(token)) {
        begin(token);
      }
    } else if (routineHeader) {
      header(token);
    } else if (token.isWord("CASE") && !afterDot && isOpen()) {
      open.push(Block.CASE_EXPRESSION);
    } else if (token.isWord("END") && valueBefore) {
      endOfValue();
    } else if (condition && open.peek() != Block.CASE_EXPRESSION) {
      conditionEnd(token);
    }
  }

  private void conditionEnd(Lexer token) {
    boolean loop = open.peek() == Block.LOOP;
    if (loop ? token.isOneOf(List.of("DO", "LOOP")) : token.isWord("THEN")) {
      condition = false;
      statementStart = true;
    }
  }

  private void endOfValue() {
    if (open.peek() == Block.CASE_EXPRESSION) {
      open.pop();
    } else if (until) {
      close();
    }
  }

  /** The header of a routine in a package; in the package's own declaration it is all there is. */
  private void header(Lexer token) {
    if (token.isMark('(')) {
      parentheses++;
    } else if (token.isMark(')')) {
      parentheses--;
    } else if (parentheses == 0 && token.isOneOf(List.of("AS", "IS"))) {
      routineHeader = false;
      openDeclarations();
    }
  }

  private void open(Block block) {
    open.push(block);
    statementStart = true;
  }

  private void close() {
    open.poll();
    until = false;
    afterEnd = true;
  }

  private static boolean isValue(Lexer token) {
    return switch (token.kind()) {
      case WORD -> !token.isOneOf(BEFORE_VALUE);
      case MARK -> token.isMark(')');
      case NUMBER, STRING, QUOTED_NAME -> true;
      default -> false;
    };
  }
}
