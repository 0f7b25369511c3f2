package org.wornladder.engine;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.wornladder.sql.Lexer;
import org.wornladder.sql.Statement;

/** The tokens of a statement that say what it is. */
public final class StatementWords {
  private StatementWords() {}

  /** The first tokens that count, in upper case; quoted names and strings with their quotes. */
  public static List<String> first(Statement statement, int count) {
    List<String> words = new ArrayList<>();
    for (String token : tokens(statement, count)) {
      words.add(token.toUpperCase(Locale.ROOT));
    }
    return words;
  }

  /** The first tokens that count, as they are. */
  public static List<String> tokens(Statement statement, int count) {
    List<String> tokens = new ArrayList<>();
    String text = statement.text();
    Lexer lexer = new Lexer(text, statement.dialect());
    while (tokens.size() < count && lexer.advance()) {
      if (lexer.kind().isMeaning()) {
        tokens.add(text.substring(lexer.start(), lexer.end()));
      }
    }
    return tokens;
  }
}
