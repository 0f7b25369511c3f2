package org.wornladder.engine.mariadb;

import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import org.wornladder.engine.StatementWords;
import org.wornladder.sql.Statement;

/** Names that carry a database in front (MariaDB documentation, "Identifier Qualifiers"). */
final class MariadbNames {
  private static final int WORDS = 400;

  /** What a table's name comes after. */
  private static final Set<String> BEFORE =
      Set.of(
          "TABLE",
          "INTO",
          "FROM",
          "JOIN",
          "UPDATE",
          "VIEW",
          "EXISTS",
          "REFERENCES",
          "ON",
          "FUNCTION",
          "PROCEDURE",
          "TRIGGER");

  private MariadbNames() {}

  /** Another database that a statement names; columns are named so too, and do not count. */
  static Optional<String> otherDatabase(Statement statement) {
    List<String> words = StatementWords.first(statement, WORDS);
    boolean query = words.contains("SELECT");
    for (int i = 1; i + 2 < words.size(); i++) {
      boolean behind = BEFORE.contains(words.get(i - 1));
      // Behind ON stands a table only where an index or a trigger is made.
      boolean columns = words.get(i - 1).equals("ON") && (query || !words.get(0).equals("CREATE"));
      if (behind && !columns && words.get(i + 1).equals(".")) {
        return Optional.of("the database " + words.get(i).toLowerCase(Locale.ROOT));
      }
    }
    return Optional.empty();
  }
}
