package org.wornladder.engine.sqlite;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.wornladder.schema.Column;
import org.wornladder.schema.Constraint;
import org.wornladder.schema.Kind;
import org.wornladder.sql.Dialects;
import org.wornladder.sql.Lexer;
import org.wornladder.sql.SqlTextException;
import org.wornladder.sql.Token;

/**
 * What the pragmas do not say of a table, out of the statement that made it (SQLite documentation,
 * "CREATE TABLE"): checks, collations, what generated columns compute, deferred keys, and what
 * comes after the closing parenthesis. Tokens stand with one blank between them, so that layout
 * does not count.
 */
final class SqliteTableText {
  private static final String STRICT = "STRICT";
  private static final String ROWID = "ROWID";

  private final List<String> words;
  private final Map<String, Map<String, String>> columns = new HashMap<>();
  private final List<Constraint> checks = new ArrayList<>();
  private final Map<String, String> options = new TreeMap<>();
  private final List<String> deferred = new ArrayList<>();

  private SqliteTableText(List<String> words) {
    this.words = words;
  }

  /** Reads a statement; one that cannot be read, or is none, says nothing. */
  static SqliteTableText of(String definition) {
    SqliteTableText text = new SqliteTableText(words(definition));
    text.read();
    return text;
  }

  /** A statement with one blank between its tokens, and without comments. */
  static String canonical(String definition) {
    return joined(words(definition));
  }

  /** Words with a blank between them, but where no writer puts one. */
  private static String joined(List<String> words) {
    StringBuilder text = new StringBuilder();
    String before = "";
    for (String word : words) {
      boolean close =
          text.isEmpty() || before.equals("(") || before.equals(".") || "),.;".contains(word);
      text.append(close ? "" : " ").append(word);
      before = word;
    }
    return text.toString();
  }

  private static List<String> words(String definition) {
    List<String> words = new ArrayList<>();
    try {
      for (Token token : Lexer.tokens(definition, Dialects.SQLITE)) {
        if (token.kind().isMeaning()) {
          words.add(definition.substring(token.start(), token.end()));
        }
      }
    } catch (SqlTextException e) {
      // The engine took it, so it is right: it stands as it is.
      return List.of(definition);
    }
    return words;
  }

  /** What else is said of a column. */
  Map<String, String> more(String column) {
    return columns.getOrDefault(column.toLowerCase(Locale.ROOT), Map.of());
  }

  List<Constraint> checks() {
    return checks;
  }

  Map<String, String> options() {
    return options;
  }

  /** Whether the foreign key over some columns is checked at the commit alone. */
  boolean isDeferred(List<String> keyColumns) {
    return deferred.contains(String.join(", ", keyColumns).toLowerCase(Locale.ROOT));
  }

  private void read() {
    if (words.size() > 1 && words.get(1).equalsIgnoreCase("VIRTUAL")) {
      options.put(
          SqliteDdl.VIRTUAL, joined(words.subList(find(words, 0, "USING") + 1, words.size())));
      return;
    }
    int open = words.indexOf("(");
    if (open < 0) {
      return;
    }
    int close = closing(words, open);
    int from = open + 1;
    for (int i = from; i <= close && i < words.size(); i++) {
      if (words.get(i).equals("(")) {
        i = closing(words, i);
      } else if (words.get(i).equals(",") || i == close) {
        item(words.subList(from, i));
        from = i + 1;
      }
    }
    for (int i = close + 1; i < words.size(); i++) {
      switch (words.get(i).toUpperCase(Locale.ROOT)) {
        case STRICT -> options.put(SqliteDdl.STRICT, "yes");
        case ROWID -> options.put(SqliteDdl.ROWID, "no");
        default -> {
          // WITHOUT, and commas.
        }
      }
    }
  }

  private void item(List<String> item) {
    if (item.isEmpty()) {
      return;
    }
    switch (item.get(0).toUpperCase(Locale.ROOT)) {
      case "CONSTRAINT", "PRIMARY", "UNIQUE", "CHECK", "FOREIGN" -> tableConstraint(item);
      default -> column(item);
    }
  }

  private void tableConstraint(List<String> item) {
    check(item);
    int foreign = find(item, 0, "FOREIGN");
    if (foreign >= 0 && isDeferrable(item)) {
      int open = item.indexOf("(");
      List<String> names = new ArrayList<>();
      for (String word : item.subList(open + 1, closing(item, open))) {
        if (!word.equals(",")) {
          names.add(plain(word));
        }
      }
      deferred.add(String.join(", ", names).toLowerCase(Locale.ROOT));
    }
  }

  private void column(List<String> item) {
    String name = plain(item.get(0));
    Map<String, String> more = new TreeMap<>();
    int collate = find(item, 1, "COLLATE");
    if (collate >= 0 && collate + 1 < item.size()) {
      more.put(Column.COLLATION, plain(item.get(collate + 1)).toUpperCase(Locale.ROOT));
    }
    if (find(item, 1, "AUTOINCREMENT") >= 0) {
      more.put(Column.IDENTITY, "autoincrement");
    }
    int as = find(item, 1, "AS");
    if (as >= 0 && as + 1 < item.size() && item.get(as + 1).equals("(")) {
      boolean stored = find(item, as, "STORED") >= 0;
      more.put(Column.GENERATED, parenthesis(item, as + 1) + (stored ? " stored" : " virtual"));
    }
    if (find(item, 1, "REFERENCES") >= 0 && isDeferrable(item)) {
      deferred.add(name.toLowerCase(Locale.ROOT));
    }
    columns.put(name.toLowerCase(Locale.ROOT), more);
    check(item);
  }

  private static boolean isDeferrable(List<String> item) {
    return find(item, 0, "DEFERRABLE") >= 0
        && find(item, 0, "NOT") != find(item, 0, "DEFERRABLE") - 1
        && find(item, 0, "DEFERRED") >= 0;
  }

  private void check(List<String> item) {
    for (int at = find(item, 0, "CHECK"); at >= 0; at = find(item, at + 1, "CHECK")) {
      boolean named = at >= 2 && item.get(at - 2).equalsIgnoreCase("CONSTRAINT");
      Optional<String> name = named ? Optional.of(plain(item.get(at - 1))) : Optional.empty();
      checks.add(new Constraint(Kind.CHECK, name, "", parenthesis(item, at + 1)));
    }
  }

  /** The first place of a word outside of parentheses; -1 if there is none. */
  private static int find(List<String> item, int from, String word) {
    int depth = 0;
    for (int i = from; i < item.size(); i++) {
      String found = item.get(i);
      if (found.equals("(")) {
        depth++;
      } else if (found.equals(")")) {
        depth--;
      } else if (depth == 0 && found.equalsIgnoreCase(word)) {
        return i;
      }
    }
    return -1;
  }

  /** Where the parenthesis that opens at a word closes; the end if it never does. */
  private static int closing(List<String> item, int open) {
    int depth = 0;
    for (int i = open; i < item.size(); i++) {
      if (item.get(i).equals("(")) {
        depth++;
      } else if (item.get(i).equals(")") && --depth == 0) {
        return i;
      }
    }
    return item.size();
  }

  private static String parenthesis(List<String> item, int open) {
    if (open >= item.size()) {
      return "";
    }
    int close = Math.min(closing(item, open) + 1, item.size());
    return joined(item.subList(open, close));
  }

  /** A name without its quotes. */
  private static String plain(String word) {
    if (word.length() < 2) {
      return word;
    }
    char first = word.charAt(0);
    String inner = word.substring(1, word.length() - 1);
    return switch (first) {
      case '"', '`', '\'' -> inner.replace("" + first + first, "" + first);
      case '[' -> inner;
      default -> word;
    };
  }
}
