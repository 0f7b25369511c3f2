package org.wornladder.fuzz;

import java.util.List;
import org.wornladder.sql.Dialect;
import org.wornladder.sql.Dialects;
import org.wornladder.sql.Lexer;
import org.wornladder.sql.Place;
import org.wornladder.sql.Splitter;
import org.wornladder.sql.SqlTextException;
import org.wornladder.sql.Statement;
import org.wornladder.sql.Token;

/** SQL text: joined tokens are the text, and statements are pieces of it in their order. */
final class SqlTarget implements Fuzz.Target {
  @Override
  public void feed(Mutator mutator, List<String> corpus) {
    String text = mutator.mutated(mutator.any(corpus), corpus);
    Dialect dialect = mutator.any(Dialects.ALL);
    try {
      int at = 0;
      for (Token token : Lexer.tokens(text, dialect)) {
        if (token.start() != at || token.end() <= at) {
          throw new IllegalStateException(dialect.name() + ": a gap at " + at + " in " + text);
        }
        at = token.end();
      }
      if (at != text.length()) {
        throw new IllegalStateException(dialect.name() + ": the end is missing in " + text);
      }
      int from = 0;
      for (Statement statement : Splitter.split(text, dialect, Place.of("fuzz.sql"))) {
        int found = text.indexOf(statement.text(), from);
        if (found < 0 || statement.text().isBlank()) {
          throw new IllegalStateException(
              dialect.name() + ": no piece of it: " + statement.text() + " in " + text);
        }
        from = found + statement.text().length();
      }
    } catch (SqlTextException e) {
      // Documented: what never ends, and commands of a shell that are refused.
      return;
    }
  }
}
