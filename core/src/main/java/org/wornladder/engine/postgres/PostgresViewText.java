package org.wornladder.engine.postgres;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import org.wornladder.sql.Dialects;
import org.wornladder.sql.Lexer;
import org.wornladder.sql.SqlTextException;
import org.wornladder.sql.Token;
import org.wornladder.sql.TokenKind;

/**
 * Views as every version prints them: before 16 the server wrote the table's name in front of each
 * column even where a query has one table alone (release notes of PostgreSQL 16).
 */
final class PostgresViewText {
  private static final Set<String> SETS = Set.of("UNION", "INTERSECT", "EXCEPT");
  private static final Set<String> QUERIES = Set.of("SELECT", "WITH", "VALUES");
  private static final Set<String> BEHIND_FROM =
      Set.of(
          "WHERE", "GROUP", "HAVING", "WINDOW", "ORDER", "LIMIT", "OFFSET", "FETCH", "FOR", "WITH");

  private final String text;
  private final List<Token> tokens = new ArrayList<>();

  /** Whether a token belongs to the outermost query, parentheses that hold no query included. */
  private final List<Boolean> outermost = new ArrayList<>();

  /** How deep in parentheses a token stands. */
  private final List<Integer> depths = new ArrayList<>();

  private PostgresViewText(String text) {
    this.text = text;
  }

  /** A view's statement in the words of the newest version. */
  static String canonical(String statement) {
    int query = statement.indexOf(" AS\n");
    if (query < 0) {
      return statement;
    }
    String head = statement.substring(0, query + 4);
    try {
      return head + new PostgresViewText(statement.substring(query + 4)).shortened();
    } catch (SqlTextException e) {
      return statement;
    }
  }

  private String shortened() {
    read();
    String alias = onlyTable();
    if (alias.isEmpty()) {
      return text;
    }
    StringBuilder shorter = new StringBuilder();
    int from = 0;
    for (int i = 0; i + 2 < tokens.size(); i++) {
      boolean prefix =
          outermost.get(i)
              && word(i).equals(alias)
              && word(i + 1).equals(".")
              // The row as a whole keeps the name of what it is of.
              && !word(i + 2).startsWith("*")
              && (i == 0 || !word(i - 1).equals("."));
      if (prefix) {
        shorter.append(text, from, tokens.get(i).start());
        from = tokens.get(i + 1).end();
      }
    }
    return shorter.append(text, from, text.length()).toString();
  }

  private void read() {
    for (Token token : Lexer.tokens(text, Dialects.POSTGRES)) {
      if (token.kind().isMeaning()) {
        tokens.add(token);
      }
    }
    Deque<Boolean> open = new ArrayDeque<>();
    for (int i = 0; i < tokens.size(); i++) {
      if (word(i).equals(")") && !open.isEmpty()) {
        open.pop();
      }
      outermost.add(!open.contains(true));
      depths.add(open.size());
      if (word(i).equals("(")) {
        open.push(i + 1 < tokens.size() && QUERIES.contains(upper(i + 1)));
      }
    }
  }

  private String word(int index) {
    return tokens.get(index).in(text);
  }

  private String upper(int index) {
    return tokens.get(index).kind() == TokenKind.WORD
        ? word(index).toUpperCase(Locale.ROOT)
        : word(index);
  }

  /**
   * The name that columns bear of the one object the outermost query reads; empty if it is not one.
   */
  private String onlyTable() {
    int from = -1;
    for (int i = 0; i < tokens.size(); i++) {
      if (depths.get(i) == 0 && SETS.contains(upper(i))) {
        return "";
      }
      if (depths.get(i) == 0 && upper(i).equals("FROM")) {
        from = i;
      }
    }
    if (from < 0 || from + 1 >= tokens.size() || word(from + 1).equals("(")) {
      return "";
    }
    String alias = "";
    for (int i = from + 1; i < tokens.size(); i++) {
      if (depths.get(i) == 0) {
        String word = upper(i);
        if (BEHIND_FROM.contains(word) || tokens.get(i).kind() == TokenKind.END) {
          break;
        }
        if (word.equals(",") || word.equals("JOIN")) {
          return "";
        }
        boolean name =
            tokens.get(i).kind() == TokenKind.WORD || tokens.get(i).kind() == TokenKind.QUOTED_NAME;
        alias = name && !word.equals("ONLY") && !word.equals("LATERAL") ? word(i) : alias;
      }
    }
    return alias;
  }
}
