package org.wornladder.engine.mariadb;

import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.wornladder.engine.Objection;
import org.wornladder.engine.StatementWords;
import org.wornladder.sql.Dialects;
import org.wornladder.sql.Statement;

/**
 * Which statements commit by themselves (MariaDB documentation, "SQL statements That Cause an
 * Implicit Commit").
 */
final class MariadbObjections {
  /** What changes rows alone, or nothing; all else commits what came before it. */
  private static final Set<String> JOINING =
      Set.of("INSERT", "UPDATE", "DELETE", "REPLACE", "SELECT", "WITH", "DO", "VALUES");

  private MariadbObjections() {}

  static boolean joins(Statement statement) {
    List<String> words = StatementWords.first(statement, Dialects.MARIADB, 2);
    return JOINING.contains(words.get(0));
  }

  static Optional<Objection> to(Statement statement) {
    List<String> words = StatementWords.first(statement, Dialects.MARIADB, 3);
    boolean starts = words.get(0).equals("START") && words.contains("TRANSACTION");
    boolean ends =
        words.get(0).equals("COMMIT")
            || words.get(0).equals("BEGIN")
            || (words.get(0).equals("ROLLBACK") && !words.contains("TO"));
    return starts || ends
        ? Optional.of(
            new Objection(
                words.get(0)
                    + " would begin or end the transaction that the ladder keeps its record in",
                "take it out; statements that change rows commit with their record as it is"))
        : Optional.empty();
  }
}
