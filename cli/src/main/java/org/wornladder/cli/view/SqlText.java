package org.wornladder.cli.view;

import java.util.List;
import org.wornladder.engine.ReservedWords;
import org.wornladder.project.Secrets;
import org.wornladder.sql.Dialect;
import org.wornladder.sql.Dialects;
import org.wornladder.sql.Lexer;
import org.wornladder.sql.SqlTextException;
import org.wornladder.sql.Statement;
import org.wornladder.sql.Token;
import org.wornladder.sql.TokenKind;

/** SQL on a colour terminal: keywords are set off. */
final class SqlText {
  private SqlText() {}

  /** Safe lines of a statement. */
  static List<String> lines(String sql, Colors colors) {
    String text = SafeText.lines(sql);
    return List.of((colors.areOn() ? highlighted(text, colors) : text).split("\n", -1));
  }

  /** A statement without secrets, with its end mark where it is SQL. */
  static String terminated(Statement statement, Secrets secrets) {
    String text = secrets.mask(statement.text());
    return statement.dialect().has(Dialect.Trait.JSON) ? text : terminated(text);
  }

  /** SQL with its end mark, on a line of its own where a comment may stand before it. */
  static String terminated(String sql) {
    String last = sql.substring(sql.lastIndexOf('\n') + 1);
    boolean comment = last.contains("--") || last.contains("#") || last.contains("//");
    return sql + (comment ? "\n;" : ";");
  }

  private static String highlighted(String sql, Colors colors) {
    StringBuilder out = new StringBuilder();
    int end = 0;
    try {
      for (Token token : Lexer.tokens(sql, Dialects.NEUTRAL)) {
        out.append(sql, end, token.start());
        String text = sql.substring(token.start(), token.end());
        boolean keyword = token.kind() == TokenKind.WORD && ReservedWords.contains(text);
        out.append(keyword ? colors.keyword(text) : text);
        end = token.end();
      }
      return out.append(sql.substring(end)).toString();
    } catch (SqlTextException e) {
      // A text that cannot be read is shown as it is.
      return sql;
    }
  }
}
