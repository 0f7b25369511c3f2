package org.wornladder.engine;

import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.wornladder.sql.Statement;

/**
 * Which statements are part of a transaction, for an engine where all others commit by themselves.
 *
 * @param joining the first keywords of those that change rows alone, or nothing
 */
public record ImplicitCommits(Set<String> joining) {
  public boolean joins(Statement statement) {
    return joining.contains(StatementWords.first(statement, 1).get(0));
  }

  /** What is to be said against a statement that begins or ends a transaction itself. */
  public Optional<Objection> objection(Statement statement) {
    List<String> words = StatementWords.first(statement, 3);
    boolean starts = words.get(0).equals("START") && words.contains("TRANSACTION");
    // BEGIN with more behind it is a block of statements.
    boolean begins =
        words.get(0).equals("BEGIN") && (words.size() == 1 || words.get(1).equals("WORK"));
    boolean ends =
        words.get(0).equals("COMMIT")
            || begins
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
