package org.wornladder.engine.postgres;

import java.util.List;
import java.util.Optional;
import org.wornladder.engine.Objection;
import org.wornladder.engine.StatementWords;
import org.wornladder.sql.Statement;

/**
 * Statements that PostgreSQL refuses inside a transaction block, or that would end it (PostgreSQL
 * manual, the notes of each command; chapter 3.4 "Transactions").
 */
final class PostgresObjections {
  private static final int WORDS = 8;

  private PostgresObjections() {}

  static Optional<Objection> to(Statement statement, boolean insideTransaction) {
    List<String> words = StatementWords.first(statement, WORDS);
    String first = words.get(0);
    return switch (first) {
      case "BEGIN", "COMMIT", "END", "ABORT", "START" -> Optional.of(ownTransaction(first));
      case "ROLLBACK" ->
          words.contains("TO") ? Optional.empty() : Optional.of(ownTransaction(first));
      case "PREPARE" ->
          words.contains("TRANSACTION")
              ? Optional.of(ownTransaction("PREPARE TRANSACTION"))
              : Optional.empty();
      case "DISCARD" ->
          words.contains("ALL")
              ? Optional.of(
                  new Objection(
                      "DISCARD ALL would give up the lock that lets one run at a time",
                      "take it out; the session is put back after every rung as it is"))
              : Optional.empty();
      default ->
          insideTransaction && refusesTransaction(words)
              ? Optional.of(
                  new Objection(
                      named(words) + " cannot run inside a transaction",
                      "write --| run: outside-transaction above the first section"))
              : Optional.empty();
    };
  }

  static boolean refusesTransaction(Statement statement) {
    return refusesTransaction(StatementWords.first(statement, WORDS));
  }

  private static boolean refusesTransaction(List<String> words) {
    String second = words.size() > 1 ? words.get(1) : "";
    return switch (words.get(0)) {
      case "VACUUM" -> true;
      case "CREATE", "DROP" ->
          second.equals("DATABASE")
              || second.equals("TABLESPACE")
              || second.equals("SUBSCRIPTION")
              || words.contains("CONCURRENTLY");
      case "REINDEX" ->
          words.contains("CONCURRENTLY") || second.equals("DATABASE") || second.equals("SYSTEM");
      case "ALTER" -> second.equals("SYSTEM") || words.contains("CONCURRENTLY");
      default -> false;
    };
  }

  private static String named(List<String> words) {
    return words.contains("CONCURRENTLY")
        ? words.get(0) + " … CONCURRENTLY"
        : words.get(0)
            + (words.size() > 1 && !words.get(0).equals("VACUUM") ? " " + words.get(1) : "");
  }

  private static Objection ownTransaction(String word) {
    return new Objection(
        word + " would begin or end the transaction that the ladder runs the rung in",
        "take it out; a rung is all or nothing as it is");
  }
}
