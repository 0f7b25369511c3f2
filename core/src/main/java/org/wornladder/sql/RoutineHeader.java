package org.wornladder.sql;

import java.util.List;

/**
 * What stands between CREATE and the body of a MariaDB routine, trigger, event or package (MariaDB
 * Server documentation, "CREATE PROCEDURE", "CREATE FUNCTION", "CREATE TRIGGER", "CREATE EVENT",
 * "CREATE PACKAGE"). Of any other statement all is header.
 */
final class RoutineHeader {
  /** What a token is to the header. */
  enum Part {
    HEADER,
    /** The next token is the first one of the body. */
    BODY_FOLLOWS,
    /** It is the first one of the body. */
    BODY,
    /** In Oracle mode: declarations follow, and then a block. */
    DECLARATIONS,
    /** It is the first one of the declarations. */
    DECLARATIONS_BEGUN
  }

  private enum State {
    /** Before the word that says what is made. */
    KIND,
    DEFINER,
    NAME,
    ROUTINE,
    /** Behind RETURN, which is a statement, or in Oracle mode the type. */
    RETURN,
    TRIGGER,
    /** Behind FOR EACH ROW. */
    TRIGGER_ORDER,
    /** Behind FOLLOWS or PRECEDES: the name of another trigger, and then the body. */
    TRIGGER_BEFORE_BODY,
    EVENT,
    PACKAGE,
    OTHER
  }

  private static final List<String> COMPOUND =
      List.of("BEGIN", "IF", "CASE", "LOOP", "REPEAT", "WHILE", "FOR");

  private static final List<String> SIMPLE =
      List.of(
          "SELECT",
          "INSERT",
          "UPDATE",
          "DELETE",
          "REPLACE",
          "CALL",
          "DO",
          "WITH",
          "VALUES",
          "CREATE",
          "ALTER",
          "DROP",
          "TRUNCATE",
          "RENAME",
          "EXECUTE",
          "PREPARE",
          "DEALLOCATE",
          "SIGNAL",
          "RESIGNAL",
          "GET",
          "COMMIT",
          "ROLLBACK",
          "START",
          "SAVEPOINT",
          "LOCK",
          "FLUSH",
          "GRANT",
          "REVOKE",
          "SHOW",
          "ANALYZE",
          "OPTIMIZE",
          "EXPLAIN",
          "KILL");

  private State state = State.KIND;
  private State behindName = State.OTHER;
  private int parentheses;
  private boolean nameOpen = true;
  private boolean afterDot;
  private boolean afterCharacter;
  private boolean afterEach;
  private boolean afterIs;
  private boolean definerGoesOn;

  Part accept(Lexer token) {
    if (token.isMark('(')) {
      parentheses++;
    } else if (token.isMark(')')) {
      parentheses--;
    }
    if (parentheses > 0) {
      return Part.HEADER;
    }
    return switch (state) {
      case KIND -> kind(token);
      case DEFINER -> definer(token);
      case NAME -> name(token);
      case ROUTINE -> routine(token);
      case RETURN -> declares(token);
      case TRIGGER -> trigger(token);
      case TRIGGER_ORDER -> order(token);
      case TRIGGER_BEFORE_BODY -> Part.BODY_FOLLOWS;
      case EVENT -> token.isWord("DO") ? Part.BODY_FOLLOWS : Part.HEADER;
      case PACKAGE -> declares(token);
      case OTHER -> Part.HEADER;
    };
  }

  private Part kind(Lexer token) {
    if (token.isWord("DEFINER")) {
      state = State.DEFINER;
      definerGoesOn = true;
    } else if (token.isOneOf(List.of("PROCEDURE", "FUNCTION"))) {
      named(State.ROUTINE);
    } else if (token.isWord("TRIGGER")) {
      named(State.TRIGGER);
    } else if (token.isWord("EVENT")) {
      named(State.EVENT);
    } else if (token.isWord("PACKAGE")) {
      named(State.PACKAGE);
    } else if (!token.isOneOf(List.of("OR", "REPLACE", "AGGREGATE"))) {
      state = State.OTHER;
    }
    return Part.HEADER;
  }

  private void named(State next) {
    state = State.NAME;
    behindName = next;
  }

  /** {@code DEFINER = user@host}, or CURRENT_USER with or without parentheses. */
  private Part definer(Lexer token) {
    boolean mark = token.isMark('=') || token.isMark('@') || token.isMark(')');
    if (!mark && !definerGoesOn) {
      state = State.KIND;
      return kind(token);
    }
    definerGoesOn = token.isMark('=') || token.isMark('@');
    return Part.HEADER;
  }

  /** {@code [IF NOT EXISTS] [BODY] [database.]name}. */
  private Part name(Lexer token) {
    boolean before =
        token.isOneOf(List.of("IF", "NOT", "EXISTS"))
            || behindName == State.PACKAGE && token.isWord("BODY");
    if (nameOpen && before) {
      return Part.HEADER;
    }
    if (nameOpen || afterDot) {
      nameOpen = false;
      afterDot = false;
      return Part.HEADER;
    }
    if (token.isMark('.')) {
      afterDot = true;
      return Part.HEADER;
    }
    state = behindName;
    return token.isMark(')') ? Part.HEADER : again(token);
  }

  private Part again(Lexer token) {
    return switch (state) {
      case ROUTINE -> routine(token);
      case TRIGGER -> trigger(token);
      case PACKAGE -> declares(token);
      default -> Part.HEADER;
    };
  }

  private Part routine(Lexer token) {
    boolean character = afterCharacter;
    afterCharacter = token.isOneOf(List.of("CHARACTER", "CHARSET"));
    if (token.isWord("RETURN")) {
      state = State.RETURN;
      return Part.HEADER;
    }
    if (token.isOneOf(COMPOUND)) {
      return Part.BODY;
    }
    if (token.isOneOf(SIMPLE) || token.isWord("SET") && !character) {
      state = State.OTHER;
      return Part.HEADER;
    }
    return declares(token);
  }

  /** In Oracle mode AS or IS begins the body; behind a value IS has another meaning. */
  private Part declares(Lexer token) {
    if (afterIs) {
      afterIs = false;
      return token.isOneOf(List.of("NOT", "NULL", "TRUE", "FALSE", "UNKNOWN"))
          ? Part.HEADER
          : Part.DECLARATIONS_BEGUN;
    }
    if (token.isWord("AS")) {
      return Part.DECLARATIONS;
    }
    if (token.isWord("IS")) {
      if (state != State.RETURN) {
        return Part.DECLARATIONS;
      }
      afterIs = true;
    }
    return Part.HEADER;
  }

  private Part trigger(Lexer token) {
    boolean row = afterEach && token.isWord("ROW");
    afterEach = token.isWord("EACH");
    if (row) {
      state = State.TRIGGER_ORDER;
    }
    return Part.HEADER;
  }

  private Part order(Lexer token) {
    if (token.isOneOf(List.of("FOLLOWS", "PRECEDES"))) {
      state = State.TRIGGER_BEFORE_BODY;
      return Part.HEADER;
    }
    return Part.BODY;
  }
}
