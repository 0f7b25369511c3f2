package org.wornladder.engine.postgres;

import java.util.Optional;
import org.wornladder.engine.ClientVariables;
import org.wornladder.engine.ClientVariables.OutOfReach;
import org.wornladder.engine.ClientVariables.Piece;
import org.wornladder.engine.ClientVariables.Put;
import org.wornladder.engine.VariableSyntax;
import org.wornladder.sql.Lexer;
import org.wornladder.sql.Token;

/** Variables of psql, which {@code -v} sets (manual, "psql", "Variables", "SQL Interpolation"). */
final class PsqlVariables implements VariableSyntax {
  @Override
  public Put put(String statement, ClientVariables variables) throws OutOfReach {
    StringBuilder ahead = new StringBuilder();
    StringBuilder text = new StringBuilder();
    for (Token token : Lexer.tokens(statement, variables.dialect())) {
      String part = token.in(statement);
      text.append(variables.isHeldBy(part) ? put(token, part, variables, ahead) : part);
    }
    return new Put(ahead.toString(), text.toString());
  }

  private static String put(
      Token token, String part, ClientVariables variables, StringBuilder ahead) throws OutOfReach {
    Optional<String> whole = variables.variable(ClientVariables.unquoted(part));
    return switch (token.kind()) {
      case LINE_COMMENT, BLOCK_COMMENT -> variables.masked(part);
      case WORD, NUMBER -> ":" + whole.orElseThrow(OutOfReach::within);
      case QUOTED_NAME -> ":\"" + whole.orElseThrow(OutOfReach::within) + "\"";
      case STRING -> {
        if (part.charAt(0) != '\'') {
          throw OutOfReach.within();
        }
        yield ":'" + (whole.isPresent() ? whole.get() : joined(part, variables, ahead)) + "'";
      }
      default -> throw OutOfReach.within();
    };
  }

  /** Has psql put a text together; gives the name of the variable that holds it. */
  private static String joined(String part, ClientVariables variables, StringBuilder ahead) {
    String name = "ladder_text_" + ahead.length();
    ahead.append("\\set ").append(name);
    for (Piece piece : variables.pieces(ClientVariables.unquoted(part))) {
      ahead.append(piece.variable() ? " :" + piece.text() : " '" + escaped(piece.text()) + "'");
    }
    ahead.append('\n');
    return name;
  }

  /** A text as psql's own commands read one between quotes. */
  private static String escaped(String text) {
    return text.replace("\\", "\\\\").replace("'", "''").replace("\n", "\\n");
  }

  @Override
  public String demand(String variable) {
    return """
        \\if :{?%1$s}
        \\else
        \\warn 'nothing is done: psql -v %1$s=… gives the value that is missing'
        \\quit
        \\endif
        """
        .formatted(variable);
  }
}
