package org.wornladder.engine.sqlite;

import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import org.wornladder.engine.Objection;
import org.wornladder.engine.StatementWords;
import org.wornladder.sql.Statement;

/**
 * Statements that SQLite ignores or refuses inside a transaction, or that would end it (SQLite
 * documentation, "PRAGMA Statements", "VACUUM", "ATTACH DATABASE", "Transaction").
 */
final class SqliteObjections {
  private static final Set<String> DEAD_PRAGMAS =
      Set.of(
          "FOREIGN_KEYS", "JOURNAL_MODE", "SYNCHRONOUS", "TEMP_STORE", "AUTO_VACUUM", "ENCODING");
  private static final Set<String> OFF = Set.of("OFF", "0", "FALSE", "NO");
  private static final int WORDS = 7;
  private static final String OUTSIDE =
      "write --| run: outside-transaction above the first section";

  private SqliteObjections() {}

  static Optional<Objection> to(Statement statement, boolean insideTransaction) {
    List<String> words = StatementWords.first(statement, WORDS);
    String first = words.get(0);
    return switch (first) {
      case "BEGIN", "COMMIT", "END" -> Optional.of(ownTransaction(first));
      case "ROLLBACK" ->
          words.contains("TO") ? Optional.empty() : Optional.of(ownTransaction(first));
      case "VACUUM", "ATTACH", "DETACH" ->
          insideTransaction
              ? Optional.of(new Objection(first + " cannot run inside a transaction", OUTSIDE))
              : Optional.empty();
      case "PRAGMA" -> insideTransaction ? pragma(words) : Optional.empty();
      default -> Optional.empty();
    };
  }

  /** Whether a statement switches foreign keys off, which is done before the transaction begins. */
  static boolean turnsForeignKeysOff(Statement statement) {
    List<String> words = StatementWords.first(statement, WORDS);
    return words.get(0).equals("PRAGMA") && isForeignKeysOff(words);
  }

  private static boolean isForeignKeysOff(List<String> words) {
    return words.contains("FOREIGN_KEYS") && words.stream().anyMatch(OFF::contains);
  }

  private static Objection ownTransaction(String word) {
    return new Objection(
        word + " would begin or end the transaction that the ladder runs the rung in",
        "take it out; a rung is all or nothing as it is");
  }

  private static Optional<Objection> pragma(List<String> words) {
    // PRAGMA schema.name: the name is what counts.
    String name =
        words.size() > 3 && words.get(2).equals(".")
            ? words.get(3)
            : words.get(words.size() > 1 ? 1 : 0);
    if (!DEAD_PRAGMAS.contains(name)) {
      return Optional.empty();
    }
    if (isForeignKeysOff(words)) {
      return Optional.empty();
    }
    String next =
        name.equals("FOREIGN_KEYS")
            ? "leave it out: foreign keys are enforced again after the rung"
            : OUTSIDE;
    String pragma = "PRAGMA " + name.toLowerCase(Locale.ROOT);
    return Optional.of(new Objection(pragma + " has no effect inside a transaction", next));
  }
}
