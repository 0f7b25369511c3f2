package org.wornladder.engine;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.wornladder.sql.Statement;

/**
 * What statements leave in their session alone, which is gone with it: a rung that goes on in
 * another session finds nothing of it.
 */
public final class SessionStatements {
  /** Enough for all of a statement that sets something up. */
  private static final int TOKENS = 400;

  private static final Set<String> SETTING =
      Set.of("SET", "USE", "RESET", "PRAGMA", "PREPARE", "ATTACH", "DETACH");
  private static final Set<String> BEFORE_TEMPORARY = Set.of("OR", "REPLACE", "LOCAL", "GLOBAL");
  private static final Set<String> BEFORE_NAME = Set.of("TABLE", "IF", "NOT", "EXISTS");

  /** A variable of the session, but none of the server's, and what makes it one that is set. */
  private static final Pattern SET = Pattern.compile("(?<!@)@[\\w$.]+(?=\\s*:?=)");

  private static final Pattern TAKEN = Pattern.compile("(?<!@)@[\\w$.]+");

  private SessionStatements() {}

  /** Whether a statement sets its session up, and says the same in any other. */
  public static boolean setsUp(Statement statement) {
    List<String> words = StatementWords.first(statement, TOKENS);
    boolean byFunction =
        words.get(0).equals("SELECT") && words.contains("SET_CONFIG") && !words.contains("FROM");
    return (SETTING.contains(words.get(0)) || byFunction)
        && !(words.size() > 1 && words.get(1).equals("STATEMENT"))
        && left(statement).isEmpty();
  }

  /**
   * The names of what a statement left in its session and what running it again would not bring
   * back: variables that were computed, a temporary table.
   */
  public static List<String> left(Statement statement) {
    List<String> tokens = StatementWords.tokens(statement, TOKENS);
    List<String> words = tokens.stream().map(token -> token.toUpperCase(Locale.ROOT)).toList();
    boolean workedOut = words.contains("(") || words.contains("SELECT");
    return switch (words.get(0)) {
      case "SET" -> workedOut ? names(SET, statement.text()) : List.of();
      case "SELECT" -> into(words, statement.text());
      case "CREATE" -> temporary(tokens, words);
      default -> List.of();
    };
  }

  private static List<String> into(List<String> words, String text) {
    int into = text.toUpperCase(Locale.ROOT).lastIndexOf("INTO");
    return words.contains("INTO") ? names(TAKEN, text.substring(into)) : List.of();
  }

  private static List<String> names(Pattern pattern, String text) {
    List<String> names = new ArrayList<>();
    Matcher matcher = pattern.matcher(text);
    while (matcher.find()) {
      names.add(matcher.group());
    }
    return names;
  }

  private static List<String> temporary(List<String> tokens, List<String> words) {
    int at = 1;
    while (at < words.size() && BEFORE_TEMPORARY.contains(words.get(at))) {
      at++;
    }
    if (at >= words.size() || !Set.of("TEMP", "TEMPORARY").contains(words.get(at))) {
      return List.of();
    }
    at++;
    while (at < words.size() && BEFORE_NAME.contains(words.get(at))) {
      at++;
    }
    return at < tokens.size() ? List.of(tokens.get(at)) : List.of();
  }

  /** Whether a statement speaks of something by its name. */
  public static boolean names(Statement statement, String name) {
    String text = statement.text().toUpperCase(Locale.ROOT);
    return Pattern.compile(
            "(?<![\\w$@])" + Pattern.quote(name.toUpperCase(Locale.ROOT)) + "(?![\\w$])")
        .matcher(text)
        .find();
  }
}
