package org.wornladder.engine.mariadb;

import java.util.ArrayList;
import java.util.List;
import org.wornladder.engine.ClientVariables;
import org.wornladder.engine.ClientVariables.OutOfReach;
import org.wornladder.engine.ClientVariables.Piece;
import org.wornladder.engine.ClientVariables.Put;
import org.wornladder.engine.VariableSyntax;
import org.wornladder.sql.Lexer;
import org.wornladder.sql.Token;

/**
 * User variables, which the client's {@code --init-command} sets: the statement is a text that is
 * put together and then run (documentation, "User-Defined Variables", "EXECUTE IMMEDIATE").
 */
final class MariadbVariables implements VariableSyntax {
  @Override
  public Put put(String statement, ClientVariables variables) throws OutOfReach {
    StringBuilder plain = new StringBuilder();
    List<String> parts = new ArrayList<>();
    for (Token token : Lexer.tokens(statement, variables.dialect())) {
      String part = token.in(statement);
      if (!variables.isHeldBy(part)) {
        plain.append(part);
      } else if (!token.kind().isMeaning()) {
        plain.append(variables.masked(part));
      } else {
        parts.add(MariadbEngine.QUOTING.text(plain.toString()));
        plain.setLength(0);
        parts.add(expression(token, part, variables));
      }
    }
    parts.add(MariadbEngine.QUOTING.text(plain.toString()));
    return new Put("", "EXECUTE IMMEDIATE CONCAT(" + String.join(", ", parts) + ")");
  }

  private static String expression(Token token, String part, ClientVariables variables)
      throws OutOfReach {
    String value = joined(variables.pieces(ClientVariables.unquoted(part)));
    return switch (token.kind()) {
      case STRING -> "QUOTE(" + value + ")";
      case QUOTED_NAME -> "CONCAT('`', REPLACE(" + value + ", '`', '``'), '`')";
      case WORD, NUMBER -> value;
      default -> throw OutOfReach.within();
    };
  }

  private static String joined(List<Piece> pieces) {
    List<String> values = new ArrayList<>();
    for (Piece piece : pieces) {
      values.add(piece.variable() ? "@" + piece.text() : MariadbEngine.QUOTING.text(piece.text()));
    }
    return values.size() == 1 ? values.get(0) : "CONCAT(" + String.join(", ", values) + ")";
  }

  @Override
  public String demand(String variable) {
    return """
        DELIMITER //
        BEGIN NOT ATOMIC
          IF @%1$s IS NULL THEN
            SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'nothing is done: SET @%1$s gives the value that is missing';
          END IF;
        END//
        DELIMITER ;
        """
        .formatted(variable);
  }
}
