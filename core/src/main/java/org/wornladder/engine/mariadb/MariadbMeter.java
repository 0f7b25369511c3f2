package org.wornladder.engine.mariadb;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.wornladder.engine.Session;
import org.wornladder.engine.StatementMeter;
import org.wornladder.engine.StatementWords;
import org.wornladder.sql.Statement;
import org.wornladder.sql.Token;

/**
 * The lightest algorithm and lock by which the server changes a table, found by demanding each of
 * an empty copy (MariaDB manual, "ALTER TABLE", "ALGORITHM", "LOCK").
 */
final class MariadbMeter implements StatementMeter {
  private static final String PROBE = "ladder_probe";
  private static final List<String> WAYS =
      List.of(
          "ALGORITHM=INSTANT, LOCK=NONE",
          "ALGORITHM=NOCOPY, LOCK=NONE",
          "ALGORITHM=NOCOPY, LOCK=SHARED",
          "ALGORITHM=INPLACE, LOCK=NONE",
          "ALGORITHM=INPLACE, LOCK=SHARED",
          "ALGORITHM=COPY, LOCK=SHARED",
          "ALGORITHM=COPY, LOCK=EXCLUSIVE");

  private final Session session;

  MariadbMeter(Session session) {
    this.session = session;
  }

  @Override
  public List<Measured> measure(List<Statement> statements) throws SQLException {
    List<Measured> measured = new ArrayList<>();
    for (Statement statement : statements) {
      measured.add(new Measured(0, effects(statement)));
    }
    return measured;
  }

  private List<String> effects(Statement statement) throws SQLException {
    List<String> words = StatementWords.first(statement, 3);
    if (words.size() < 3 || !words.get(0).equals("ALTER") || !words.get(1).equals("TABLE")) {
      return List.of();
    }
    String table = StatementWords.tokens(statement, 3).get(2);
    try {
      session.change("CREATE TABLE " + PROBE + " LIKE " + table);
      return lightest(statement, table).map(way -> List.of(way + " on " + table)).orElse(List.of());
    } catch (SQLException e) {
      // A table that another statement of the rung makes: no other session uses it yet.
      return List.of();
    } finally {
      session.change("DROP TABLE IF EXISTS " + PROBE);
    }
  }

  private Optional<String> lightest(Statement statement, String table) throws SQLException {
    String probe = ofProbe(statement, table);
    for (String way : WAYS) {
      try {
        session.change(probe + ", " + way);
        return Optional.of(way);
      } catch (SQLException e) {
        // Refused: a heavier one is tried.
        continue;
      }
    }
    return Optional.empty();
  }

  /** The same statement about the copy. */
  private static String ofProbe(Statement statement, String table) {
    String text = statement.text();
    for (Token token : statement.tokens()) {
      String word = text.substring(token.start(), token.end());
      if (word.equals(table)) {
        return text.substring(0, token.start()) + PROBE + text.substring(token.end());
      }
    }
    return text;
  }
}
