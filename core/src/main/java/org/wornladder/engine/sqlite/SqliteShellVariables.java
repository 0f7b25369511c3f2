package org.wornladder.engine.sqlite;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import org.wornladder.engine.ClientVariables;
import org.wornladder.engine.ClientVariables.OutOfReach;
import org.wornladder.engine.ClientVariables.Piece;
import org.wornladder.engine.ClientVariables.Put;
import org.wornladder.engine.VariableSyntax;
import org.wornladder.sql.Lexer;
import org.wornladder.sql.Token;

/**
 * Parameters of the shell, which {@code .parameter set} sets (its documentation, "SQL Parameters").
 */
final class SqliteShellVariables implements VariableSyntax {
  private static final Set<String> WITH_PARAMETERS =
      Set.of("INSERT", "UPDATE", "DELETE", "REPLACE", "SELECT", "WITH");

  @Override
  public Put put(String statement, ClientVariables variables) throws OutOfReach {
    StringBuilder text = new StringBuilder();
    boolean first = true;
    for (Token token : Lexer.tokens(statement, variables.dialect())) {
      String part = token.in(statement);
      if (first && token.kind().isMeaning()) {
        first = false;
        if (!WITH_PARAMETERS.contains(part.toUpperCase(Locale.ROOT))) {
          throw new OutOfReach("sqlite3 puts values into no statement that changes the structure");
        }
      }
      if (!variables.isHeldBy(part)) {
        text.append(part);
      } else if (!token.kind().isMeaning()) {
        text.append(variables.masked(part));
      } else if (part.startsWith("'")) {
        text.append(joined(variables.pieces(ClientVariables.unquoted(part))));
      } else {
        throw OutOfReach.within();
      }
    }
    return new Put("", text.toString());
  }

  private static String joined(List<Piece> pieces) {
    List<String> values = new ArrayList<>();
    for (Piece piece : pieces) {
      values.add(piece.variable() ? "@" + piece.text() : SqliteEngine.QUOTING.text(piece.text()));
    }
    return "(" + String.join(" || ", values) + ")";
  }

  @Override
  public String demand(String variable) {
    return """
        -- nothing is done if the next statement fails: .parameter set @%1$s gives the value
        CREATE TEMP TABLE ladder_missing (%1$s text NOT NULL);
        INSERT INTO ladder_missing VALUES (@%1$s);
        DROP TABLE ladder_missing;
        """
        .formatted(variable);
  }
}
