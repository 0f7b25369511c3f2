package org.wornladder.change;

import java.util.List;
import org.wornladder.sql.Dialect;
import org.wornladder.sql.Lexer;
import org.wornladder.sql.SqlTextException;
import org.wornladder.sql.Token;

/** Statements as one text. */
public final class SqlScript {
  private static final List<String> MARKS = List.of("$$", "//", "$end$");

  private SqlScript() {}

  /** Each statement with its end mark, a blank line between them. */
  public static String of(List<String> statements) {
    StringBuilder text = new StringBuilder();
    for (String statement : statements) {
      text.append(text.isEmpty() ? "" : "\n").append(statement).append(";\n");
    }
    return text.toString();
  }

  /**
   * The same as the engine's own client reads it: where that knows statements only by their end
   * mark, one with semicolons inside gets another mark; commands of a document database stand in an
   * array, as a rung has them.
   */
  public static String forClient(List<String> statements, Dialect dialect) {
    if (dialect.has(Dialect.Trait.JSON)) {
      return statements.isEmpty() ? "" : "[\n  " + String.join(",\n  ", statements) + "\n]\n";
    }
    if (!dialect.has(Dialect.Trait.DELIMITER_LINES)) {
      return of(statements);
    }
    StringBuilder text = new StringBuilder();
    for (String statement : statements) {
      text.append(text.isEmpty() ? "" : "\n");
      if (holdsSemicolon(statement, dialect)) {
        String mark =
            MARKS.stream().filter(one -> !statement.contains(one)).findFirst().orElse("$end$");
        text.append("DELIMITER ").append(mark).append('\n').append(statement).append(mark);
        text.append("\nDELIMITER ;\n");
      } else {
        text.append(statement).append(";\n");
      }
    }
    return text.toString();
  }

  private static boolean holdsSemicolon(String statement, Dialect dialect) {
    try {
      for (Token token : Lexer.tokens(statement, dialect)) {
        if (token.in(statement).equals(";")) {
          return true;
        }
      }
      return false;
    } catch (SqlTextException e) {
      return statement.contains(";");
    }
  }
}
