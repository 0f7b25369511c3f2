package org.wornladder.engine.sqlite;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import org.wornladder.sql.Dialects;
import org.wornladder.sql.Lexer;
import org.wornladder.sql.Token;

/**
 * The statement that made a table, edited: what is not edited keeps its layout and comments (SQLite
 * documentation, "CREATE TABLE").
 */
final class SqliteTableEdit {
  private static final Set<String> TABLE_RULES =
      Set.of("CONSTRAINT", "PRIMARY", "UNIQUE", "CHECK", "FOREIGN");

  /** The words with which a column's constraints begin; what stands before them is its type. */
  private static final Set<String> COLUMN_RULES =
      Set.of(
          "CONSTRAINT",
          "PRIMARY",
          "NOT",
          "NULL",
          "UNIQUE",
          "CHECK",
          "DEFAULT",
          "COLLATE",
          "REFERENCES",
          "GENERATED",
          "AS");

  private final String text;
  private final List<Token> tokens = new ArrayList<>();
  private final List<Item> items = new ArrayList<>();
  private int close;

  /** A column or rule of the table: the places of its first and behind its last token. */
  private record Item(int from, int to) {}

  private SqliteTableEdit(String text) {
    this.text = text;
    for (Token token : Lexer.tokens(text, Dialects.SQLITE)) {
      if (token.kind().isMeaning()) {
        tokens.add(token);
      }
    }
    split();
  }

  static SqliteTableEdit of(String text) {
    return new SqliteTableEdit(text);
  }

  private void split() {
    int open = 0;
    while (!word(open).equals("(")) {
      open++;
    }
    int depth = 0;
    int from = open + 1;
    for (int i = open; i < tokens.size(); i++) {
      depth += word(i).equals("(") ? 1 : word(i).equals(")") ? -1 : 0;
      boolean ends = depth == 0 && word(i).equals(")");
      if (ends || depth == 1 && word(i).equals(",")) {
        items.add(new Item(from, i));
        from = i + 1;
      }
      if (ends) {
        close = i;
        return;
      }
    }
    close = tokens.size() - 1;
  }

  private String word(int token) {
    Token one = tokens.get(token);
    return text.substring(one.start(), one.end()).toUpperCase(Locale.ROOT);
  }

  private String plain(int token) {
    return plain(text.substring(tokens.get(token).start(), tokens.get(token).end()));
  }

  /** A name without its quotes. */
  static String plain(String name) {
    boolean quoted = name.length() > 1 && "\"`['".indexOf(name.charAt(0)) >= 0;
    return quoted ? name.substring(1, name.length() - 1) : name;
  }

  private Optional<Item> column(String name) {
    return items.stream()
        .filter(item -> item.from() < item.to() && !TABLE_RULES.contains(word(item.from())))
        .filter(item -> plain(item.from()).equalsIgnoreCase(name))
        .findFirst();
  }

  private String replaced(int fromToken, int toToken, String with) {
    int start = tokens.get(fromToken).start();
    int end = toToken > fromToken ? tokens.get(toToken - 1).end() : start;
    return text.substring(0, start) + with + text.substring(end);
  }

  private String inserted(int behindToken, String words) {
    int end = tokens.get(behindToken).end();
    return text.substring(0, end) + words + text.substring(end);
  }

  /** Where a constraint of a column begins, outside of parentheses; empty if it has none such. */
  private Optional<Integer> rule(Item column, String... words) {
    int depth = 0;
    for (int i = column.from() + 1; i < column.to(); i++) {
      depth += word(i).equals("(") ? 1 : word(i).equals(")") ? -1 : 0;
      if (depth == 0 && begins(i, column.to(), words)) {
        return Optional.of(i);
      }
    }
    return Optional.empty();
  }

  private boolean begins(int at, int end, String... words) {
    for (int i = 0; i < words.length; i++) {
      if (at + i >= end || !word(at + i).equals(words[i])) {
        return false;
      }
    }
    return true;
  }

  /** The place behind the tokens of a constraint that begins somewhere. */
  private int endOfRule(Item column, int from) {
    int depth = 0;
    for (int i = from + 1; i < column.to(); i++) {
      boolean next = depth == 0 && COLUMN_RULES.contains(word(i)) && !belongs(from, i);
      if (next) {
        return i;
      }
      depth += word(i).equals("(") ? 1 : word(i).equals(")") ? -1 : 0;
    }
    return column.to();
  }

  /** NOT NULL, DEFAULT NULL and REFERENCES … NOT DEFERRABLE hold words that begin others. */
  private boolean belongs(int rule, int at) {
    return at == rule + 1 && (word(rule).equals("NOT") || word(rule).equals("DEFAULT"))
        || word(rule).equals("CONSTRAINT") && at == rule + 2;
  }

  String required(String column) {
    Item item = column(column).orElseThrow();
    return rule(item, "NOT", "NULL").isPresent()
        ? text
        : inserted(endOfType(item) - 1, " NOT NULL");
  }

  String optional(String column) {
    Item item = column(column).orElseThrow();
    return rule(item, "NOT", "NULL").map(at -> replaced(at, at + 2, "")).orElse(text);
  }

  String withDefault(String column, String expression) {
    String bare = SqliteTableEdit.of(withoutDefault(column)).text;
    SqliteTableEdit edit = SqliteTableEdit.of(bare);
    Item item = edit.column(column).orElseThrow();
    return edit.inserted(edit.endOfType(item) - 1, " DEFAULT " + expression);
  }

  String withoutDefault(String column) {
    Item item = column(column).orElseThrow();
    return rule(item, "DEFAULT").map(at -> replaced(at, endOfRule(item, at), "")).orElse(text);
  }

  String withType(String column, String type) {
    Item item = column(column).orElseThrow();
    int end = endOfType(item);
    return end == item.from() + 1
        ? inserted(item.from(), " " + type)
        : replaced(item.from() + 1, end, type);
  }

  private int endOfType(Item column) {
    int depth = 0;
    for (int i = column.from() + 1; i < column.to(); i++) {
      if (depth == 0 && COLUMN_RULES.contains(word(i))) {
        return i;
      }
      depth += word(i).equals("(") ? 1 : word(i).equals(")") ? -1 : 0;
    }
    return column.to();
  }

  /** With one more rule of the table. */
  String withRule(String rule) {
    int last = items.get(items.size() - 1).to() - 1;
    return inserted(last, ", " + rule);
  }

  /** Without a rule of this name, of the table or of a column; empty if there is none. */
  Optional<String> withoutRule(String name) {
    for (Item item : items) {
      if (word(item.from()).equals("CONSTRAINT") && plain(item.from() + 1).equalsIgnoreCase(name)) {
        return Optional.of(withoutItem(item));
      }
      int depth = 0;
      for (int i = item.from() + 1; i + 1 < item.to(); i++) {
        depth += word(i).equals("(") ? 1 : word(i).equals(")") ? -1 : 0;
        boolean found =
            depth == 0 && word(i).equals("CONSTRAINT") && plain(i + 1).equalsIgnoreCase(name);
        if (found) {
          return Optional.of(replaced(i, endOfRule(item, i + 2), ""));
        }
      }
    }
    return Optional.empty();
  }

  /** Without a column, and without the rules of the table that speak of it alone or with others. */
  String withoutColumn(String name) {
    String bare = withoutItem(column(name).orElseThrow());
    SqliteTableEdit edit = SqliteTableEdit.of(bare);
    for (Item item : edit.items) {
      if (TABLE_RULES.contains(edit.word(item.from())) && edit.speaksOf(item, name)) {
        return SqliteTableEdit.of(edit.withoutItem(item)).withoutRulesOn(name);
      }
    }
    return bare;
  }

  private String withoutRulesOn(String name) {
    for (Item item : items) {
      if (TABLE_RULES.contains(word(item.from())) && speaksOf(item, name)) {
        return SqliteTableEdit.of(withoutItem(item)).withoutRulesOn(name);
      }
    }
    return text;
  }

  private boolean speaksOf(Item item, String name) {
    for (int i = item.from(); i < item.to() && !word(i).equals("REFERENCES"); i++) {
      if (plain(i).equalsIgnoreCase(name)) {
        return true;
      }
    }
    return false;
  }

  /** Without an item and the comma that parts it from another. */
  private String withoutItem(Item item) {
    boolean last = item.to() == close;
    if (last && items.size() > 1) {
      return replaced(item.from() - 1, item.to(), "");
    }
    return replaced(item.from(), item.to() + (last ? 0 : 1), "").replaceAll("\\n[ \\t]*\\n", "\n");
  }
}
