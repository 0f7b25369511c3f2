package org.wornladder.cli.view;

import java.util.List;
import org.wornladder.engine.ReservedWords;
import org.wornladder.sql.Dialects;
import org.wornladder.sql.Lexer;
import org.wornladder.sql.SqlTextException;
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

  /**
   * A statement with its end mark, which JSON has none of, on a line of its own where a comment may
   * stand before it.
   */
  static String terminated(String sql) {
    if (sql.startsWith("{")) {
      return sql;
    }
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
