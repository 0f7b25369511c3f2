package org.wornladder.project;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.wornladder.sql.Dialects;
import org.wornladder.sql.Lexer;
import org.wornladder.sql.SqlTextException;
import org.wornladder.sql.Token;
import org.wornladder.sql.TokenKind;

/** Reads {@code table T exists}, {@code column T.C missing} and the like. */
final class ConditionParser {
  private ConditionParser() {}

  /** The condition; empty if the text is not one. */
  static Optional<Condition> parse(String text) {
    List<String> words = words(text);
    if (words.size() < 3) {
      return Optional.empty();
    }
    String end = words.get(words.size() - 1);
    boolean present = end.equals("exists");
    Optional<Condition.Kind> kind = kind(words.get(0));
    boolean column = kind.filter(Condition.Kind.COLUMN::equals).isPresent();
    boolean shaped = words.size() == (column ? 5 : 3) && (!column || words.get(2).equals("."));
    if (kind.isEmpty() || !shaped || !(present || end.equals("missing"))) {
      return Optional.empty();
    }
    String name = column ? words.get(3) : "";
    return Optional.of(
        new Condition.Presence(kind.get(), words.get(1), name, present, text.strip()));
  }

  private static Optional<Condition.Kind> kind(String word) {
    for (Condition.Kind kind : Condition.Kind.values()) {
      if (kind.name().toLowerCase(Locale.ROOT).equals(word)) {
        return Optional.of(kind);
      }
    }
    return Optional.empty();
  }

  private static List<String> words(String text) {
    List<String> words = new ArrayList<>();
    try {
      for (Token token : Lexer.tokens(text, Dialects.NEUTRAL)) {
        if (token.kind().isMeaning()) {
          String word = token.in(text);
          words.add(token.kind() == TokenKind.QUOTED_NAME ? unquoted(word) : word);
        }
      }
    } catch (SqlTextException e) {
      return List.of();
    }
    return words;
  }

  private static String unquoted(String name) {
    String quote = name.substring(0, 1);
    return name.substring(1, name.length() - 1).replace(quote + quote, quote);
  }
}
