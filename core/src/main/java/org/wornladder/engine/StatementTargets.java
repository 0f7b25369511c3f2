package org.wornladder.engine;

import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import org.wornladder.engine.StatementTarget.Change;
import org.wornladder.engine.StatementTarget.Kind;
import org.wornladder.engine.StatementTarget.Name;
import org.wornladder.sql.Dialect;
import org.wornladder.sql.Statement;

/** Reads off a statement what it leaves behind, as far as its first keywords say so. */
public final class StatementTargets {
  /** Enough for every word between the verb and the name. */
  private static final int TOKENS = 24;

  /** Words that may stand between the verb and the kind. */
  private static final Set<String> MODIFIERS =
      Set.of("UNIQUE", "FULLTEXT", "SPATIAL", "CACHED", "MEMORY", "AGGREGATE", "OR", "REPLACE");

  /** Words behind {@code ALTER TABLE … DROP} after which no column comes. */
  private static final Set<String> OTHER_PARTS =
      Set.of(
          "CONSTRAINT",
          "INDEX",
          "KEY",
          "PRIMARY",
          "FOREIGN",
          "CHECK",
          "PARTITION",
          "SYSTEM",
          "PERIOD");

  private static final Set<String> REPEATABLE =
      Set.of(
          "VACUUM",
          "ANALYZE",
          "REINDEX",
          "OPTIMIZE",
          "SET",
          "USE",
          "PRAGMA",
          "FLUSH",
          "GRANT",
          "REVOKE",
          "COMMENT",
          "CHECKPOINT");

  private StatementTargets() {}

  /** Whether a statement may run twice and leave what one run leaves. */
  public static boolean isRepeatable(Statement statement) {
    if (statement.dialect().has(Dialect.Trait.JSON)) {
      return CommandTargets.isRepeatable(statement);
    }
    List<String> words = StatementWords.first(statement, TOKENS);
    boolean replaces =
        words.size() > 2
            && words.get(0).equals("CREATE")
            && words.get(1).equals("OR")
            && words.get(2).equals("REPLACE")
            && !words.contains("TABLE");
    boolean conditional =
        indexOfExists(words) > 0 && !words.get(0).equals("ALTER") && !words.contains("SELECT");
    return REPEATABLE.contains(words.get(0)) || replaces || conditional;
  }

  /** The {@code EXISTS} of an {@code IF EXISTS} or {@code IF NOT EXISTS}; -1 if there is none. */
  private static int indexOfExists(List<String> words) {
    int at = words.indexOf("IF");
    if (at < 0 || at + 1 >= words.size()) {
      return -1;
    }
    int exists = words.get(at + 1).equals("NOT") ? at + 2 : at + 1;
    return exists < words.size() && words.get(exists).equals("EXISTS") ? exists : -1;
  }

  /** What a statement leaves behind; empty if it is not one object, or the words do not say it. */
  public static Optional<StatementTarget> of(Statement statement) {
    if (statement.dialect().has(Dialect.Trait.JSON)) {
      return CommandTargets.of(statement);
    }
    List<String> tokens = StatementWords.tokens(statement, TOKENS);
    List<String> words = tokens.stream().map(token -> token.toUpperCase(Locale.ROOT)).toList();
    Optional<Change> change =
        switch (words.get(0)) {
          case "CREATE" -> Optional.of(Change.MAKES);
          case "ALTER" -> Optional.of(Change.ALTERS);
          case "DROP" -> Optional.of(Change.DROPS);
          default -> Optional.empty();
        };
    int at = 1;
    while (at < words.size() && MODIFIERS.contains(words.get(at))) {
      at++;
    }
    Optional<Kind> kind = at < words.size() ? kind(words.get(at)) : Optional.empty();
    if (change.isEmpty() || kind.isEmpty()) {
      return Optional.empty();
    }
    at++;
    if (at < words.size() && words.get(at).equals("CONCURRENTLY")) {
      at++;
    }
    boolean folds = statement.dialect().has(Dialect.Trait.FOLDS_TO_LOWER);
    int exists = indexOfExists(words);
    if (exists >= at) {
      at = exists + 1;
    }
    Found found = Found.at(tokens, at, folds);
    boolean several = found.end() < tokens.size() && tokens.get(found.end()).equals(",");
    boolean renames = words.contains("RENAME");
    if (found.name().isEmpty() || several || renames) {
      return Optional.empty();
    }
    if (change.get() == Change.ALTERS && kind.get() == Kind.TABLE) {
      Optional<StatementTarget> column = droppedColumn(found, tokens, words, folds);
      if (column.isPresent()) {
        return column;
      }
    }
    int on = words.indexOf("ON");
    boolean ofTable = kind.get() == Kind.INDEX || kind.get() == Kind.TRIGGER;
    Name table = ofTable && on > at ? Found.at(tokens, on + 1, folds).name() : Name.NONE;
    return Optional.of(new StatementTarget(change.get(), kind.get(), found.name(), table));
  }

  /** The column that is all that an {@code ALTER TABLE} drops. */
  private static Optional<StatementTarget> droppedColumn(
      Found table, List<String> tokens, List<String> words, boolean folds) {
    int at = table.end();
    if (at >= words.size() || !words.get(at).equals("DROP")) {
      return Optional.empty();
    }
    at++;
    if (at < words.size() && words.get(at).equals("COLUMN")) {
      at++;
    } else if (at < words.size() && OTHER_PARTS.contains(words.get(at))) {
      return Optional.empty();
    }
    if (at + 1 < words.size() && words.get(at).equals("IF") && words.get(at + 1).equals("EXISTS")) {
      at += 2;
    }
    Found column = Found.at(tokens, at, folds);
    boolean more =
        column.end() < words.size()
            && !words.get(column.end()).equals("CASCADE")
            && !words.get(column.end()).equals("RESTRICT");
    return column.name().isEmpty() || more
        ? Optional.empty()
        : Optional.of(new StatementTarget(Change.DROPS, Kind.COLUMN, column.name(), table.name()));
  }

  private static Optional<Kind> kind(String word) {
    for (Kind kind : Kind.values()) {
      if (kind != Kind.COLUMN && kind.name().equals(word)) {
        return Optional.of(kind);
      }
    }
    return Optional.empty();
  }

  /** A name out of one or two parts, and the token behind it. */
  private record Found(Name name, int end) {
    static Found at(List<String> tokens, int at, boolean folds) {
      if (at >= tokens.size()) {
        return new Found(Name.NONE, at);
      }
      String first = plain(tokens.get(at), folds);
      boolean dotted = at + 2 < tokens.size() && tokens.get(at + 1).equals(".");
      return dotted
          ? new Found(new Name(first, plain(tokens.get(at + 2), folds)), at + 3)
          : new Found(new Name("", first), at + 1);
    }

    private static String plain(String token, boolean folds) {
      boolean quoted =
          token.length() > 1
              && (token.charAt(0) == '"' || token.charAt(0) == '`')
              && token.charAt(token.length() - 1) == token.charAt(0);
      if (!quoted) {
        return folds ? token.toLowerCase(Locale.ROOT) : token;
      }
      String quote = token.substring(0, 1);
      return token.substring(1, token.length() - 1).replace(quote + quote, quote);
    }
  }
}
