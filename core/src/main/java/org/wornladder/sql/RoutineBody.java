package org.wornladder.sql;

import java.util.Optional;

/**
 * Stored routines whose blocks, branches and loops nest and end by their own names, without a
 * DELIMITER line around them (MariaDB Server documentation, "Programmatic and Compound
 * Statements"). The header says where the body begins, and the body's statements are followed.
 */
final class RoutineBody extends Body {
  private final CompoundStatements statements = new CompoundStatements();
  private Optional<RoutineHeader> header = Optional.empty();
  private boolean begun;

  @Override
  void accept(Lexer token) {
    if (!begun) {
      begun = true;
      if (token.isWord("CREATE")) {
        header = Optional.of(new RoutineHeader());
      } else {
        statements.acceptFirst(token);
      }
    } else if (header.isPresent()) {
      inHeader(token, header.get());
    } else {
      statements.accept(token);
    }
  }

  private void inHeader(Lexer token, RoutineHeader open) {
    switch (open.accept(token)) {
      case HEADER -> {}
      case BODY_FOLLOWS -> header = Optional.empty();
      case BODY -> {
        header = Optional.empty();
        statements.accept(token);
      }
      case DECLARATIONS -> {
        header = Optional.empty();
        statements.openDeclarations();
      }
      case DECLARATIONS_BEGUN -> {
        header = Optional.empty();
        statements.openDeclarations();
        statements.accept(token);
      }
    }
  }

  @Override
  boolean isOpen() {
    return statements.isOpen();
  }
}
