package org.wornladder.execution;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import org.wornladder.change.Risk;
import org.wornladder.change.Risk.Kind;
import org.wornladder.engine.StatementWords;
import org.wornladder.sql.Dialect;
import org.wornladder.sql.Statement;

/**
 * The risks of a script's statements as far as their text shows them, without a database. What a
 * script does to tables that it makes itself is no risk.
 */
public final class StatementRisks {
  private static final int ALL = 400;
  static final String CALLED = "it is called ";

  /** Parts of a table that no program calls by their name. */
  private static final Set<String> UNCALLED = Set.of("CONSTRAINT", "INDEX", "KEY");

  private static final Set<String> RULES =
      Set.of(
          "CONSTRAINT",
          "PRIMARY",
          "UNIQUE",
          "FOREIGN",
          "CHECK",
          "EXCLUDE",
          "INDEX",
          "KEY",
          "FULLTEXT",
          "SPATIAL",
          "PARTITION",
          "PERIOD",
          "SYSTEM");
  private static final Set<String> FILLED =
      Set.of("DEFAULT", "GENERATED", "AUTO_INCREMENT", "SERIAL", "BIGSERIAL", "IDENTITY", "AS");

  private final Set<String> own = new HashSet<>();
  private final Set<String> made = new HashSet<>();
  private final List<Found> found = new ArrayList<>();

  /** A risk, and the statement that carries it. */
  public record Found(Statement statement, Risk risk) {
    /** Whether it is that something has another name. */
    public boolean isRename() {
      return StatementRisks.isRename(risk);
    }
  }

  /** Whether it is that something has another name. */
  public static boolean isRename(Risk risk) {
    return risk.reason().startsWith(CALLED);
  }

  private StatementRisks() {}

  /** The risks of statements that run one after the other. */
  public static List<Found> of(List<Statement> statements) {
    if (!statements.isEmpty() && statements.get(0).dialect().has(Dialect.Trait.JSON)) {
      return CommandRisks.of(statements);
    }
    StatementRisks risks = new StatementRisks();
    for (Statement statement : statements) {
      risks.makes(risks.words(statement));
    }
    for (Statement statement : statements) {
      risks.take(statement, risks.words(statement));
    }
    return List.copyOf(risks.found);
  }

  private List<String> words(Statement statement) {
    return StatementWords.tokens(statement, ALL);
  }

  private static boolean is(List<String> words, int place, String word) {
    return place < words.size() && words.get(place).equalsIgnoreCase(word);
  }

  private static int find(List<String> words, int from, String word) {
    for (int i = from; i < words.size(); i++) {
      if (is(words, i, word)) {
        return i;
      }
    }
    return -1;
  }

  /** Names of what the script makes, anywhere in it. */
  private void makes(List<String> words) {
    if (is(words, 0, "CREATE")) {
      for (String kind : List.of("TABLE", "VIEW", "FUNCTION", "PROCEDURE")) {
        int at = find(words, 1, kind);
        if (at > 0 && at < 5) {
          made.add(key(name(words, afterIf(words, at + 1))));
        }
      }
    }
  }

  /** Behind IF EXISTS, IF NOT EXISTS, ONLY and CONCURRENTLY. */
  private static int afterIf(List<String> words, int from) {
    int at = from;
    while (at < words.size()
        && List.of("IF", "NOT", "EXISTS", "ONLY", "CONCURRENTLY")
            .contains(words.get(at).toUpperCase(Locale.ROOT))) {
      at++;
    }
    return at;
  }

  /** A name with its schema, without quotes. */
  private static String name(List<String> words, int at) {
    StringBuilder name = new StringBuilder();
    for (int i = at; i < words.size(); i += 2) {
      name.append(plain(words.get(i)));
      if (!is(words, i + 1, ".")) {
        break;
      }
      name.append('.');
    }
    return name.toString();
  }

  private static int afterName(List<String> words, int at) {
    int end = at + 1;
    while (is(words, end, ".")) {
      end += 2;
    }
    return end;
  }

  private static String plain(String word) {
    boolean quoted = word.length() > 1 && "\"`[".indexOf(word.charAt(0)) >= 0;
    return quoted ? word.substring(1, word.length() - 1) : word;
  }

  private static String key(String name) {
    return name.toLowerCase(Locale.ROOT);
  }

  private void add(Statement statement, Kind kind, String subject, String reason) {
    found.add(new Found(statement, Risk.of(kind, subject, reason)));
  }

  private void take(Statement statement, List<String> words) {
    String first = words.isEmpty() ? "" : words.get(0).toUpperCase(Locale.ROOT);
    switch (first) {
      case "CREATE" -> create(statement, words);
      case "DROP" -> drop(statement, words);
      case "TRUNCATE" -> truncate(statement, words);
      case "DELETE" -> rows(statement, name(words, afterIf(words, is(words, 1, "FROM") ? 2 : 1)));
      case "RENAME" -> {
        if (is(words, 1, "TABLE") || is(words, 1, "TABLES")) {
          renameTables(statement, words);
        }
      }
      case "ALTER" -> {
        if (is(words, 1, "TABLE")) {
          alter(statement, words);
        }
      }
      default -> {
        // No risk that a text shows.
      }
    }
  }

  private void create(Statement statement, List<String> words) {
    int table = find(words, 1, "TABLE");
    if (table > 0 && table < 4) {
      own.add(key(name(words, afterIf(words, table + 1))));
      return;
    }
    int on = find(words, 1, "ON");
    if (is(words, 1, "UNIQUE") && on > 0) {
      String name = name(words, afterIf(words, on + 1));
      if (!own.contains(key(name))) {
        add(statement, Kind.MAY_FAIL, "table " + name, "no two rows may have the same key");
      }
    }
  }

  private void drop(Statement statement, List<String> words) {
    String kind = words.size() > 1 ? words.get(1).toLowerCase(Locale.ROOT) : "";
    int at = afterIf(words, 2);
    while (at < words.size()) {
      String name = name(words, at);
      boolean remade = made.contains(key(name));
      boolean table = kind.equals("table");
      if (table && !own.contains(key(name)) && !remade) {
        add(statement, Kind.ERASES, "table " + name, "its rows are gone");
      }
      boolean called = table || List.of("view", "function", "procedure").contains(kind);
      if (called && !own.contains(key(name)) && !remade) {
        add(statement, Kind.BREAKS_OLD_CODE, kind + " " + name, "it is not there any more");
      }
      int next = afterName(words, at);
      if (!is(words, next, ",")) {
        return;
      }
      at = next + 1;
    }
  }

  private void truncate(Statement statement, List<String> words) {
    int at = afterIf(words, is(words, 1, "TABLE") ? 2 : 1);
    while (at < words.size()) {
      rows(statement, name(words, at));
      int next = afterName(words, at);
      if (!is(words, next, ",")) {
        return;
      }
      at = afterIf(words, next + 1);
    }
  }

  private void rows(Statement statement, String name) {
    if (!own.contains(key(name))) {
      add(statement, Kind.ERASES, "table " + name, "rows are gone");
    }
  }

  private void alter(Statement statement, List<String> words) {
    int at = afterIf(words, 2);
    String table = name(words, at);
    int from = afterName(words, at);
    if (own.contains(key(table))) {
      int to = find(words, from, "TO");
      if (is(words, from, "RENAME") && to == from + 1) {
        own.add(key(name(words, to + 1)));
      }
      return;
    }
    int depth = 0;
    for (int i = from; i <= words.size(); i++) {
      String word = i < words.size() ? words.get(i) : ",";
      depth += word.equals("(") ? 1 : word.equals(")") ? -1 : 0;
      if (i == words.size() || depth == 0 && word.equals(",")) {
        action(statement, table, words.subList(from, Math.min(i, words.size())));
        from = i + 1;
      }
    }
  }

  /** One action of an ALTER TABLE. */
  private void action(Statement statement, String table, List<String> words) {
    String first = words.isEmpty() ? "" : words.get(0).toUpperCase(Locale.ROOT);
    switch (first) {
      case "RENAME" -> rename(statement, table, words);
      case "CHANGE" -> change(statement, table, words);
      case "DROP" -> dropColumn(statement, table, words);
      case "ADD" -> add(statement, table, words);
      case "ALTER" -> {
        int column = is(words, 1, "COLUMN") ? 2 : 1;
        if (is(words, column + 1, "RENAME") && is(words, column + 2, "TO")) {
          renamedColumn(statement, table, words.get(column), name(words, column + 3));
        }
        int set = find(words, 1, "SET");
        if (set > 0 && is(words, set + 1, "NOT") && is(words, set + 2, "NULL")) {
          required(statement, table + "." + plain(words.get(column)));
        }
      }
      default -> {
        // Others show nothing that is certain.
      }
    }
  }

  /** {@code RENAME …} in the forms of all engines: a table, a column, or what is not called. */
  private void rename(Statement statement, String table, List<String> words) {
    int to = find(words, 1, "TO");
    boolean ofTable = to == 1 || to < 0 && words.size() > 1;
    if (ofTable) {
      boolean said = to == 1 || is(words, 1, "AS") || is(words, 1, "=");
      renamedTable(statement, table, name(words, said ? 2 : 1));
    } else if (to > 1 && !UNCALLED.contains(words.get(1).toUpperCase(Locale.ROOT))) {
      renamedColumn(statement, table, words.get(to - 1), name(words, to + 1));
    }
  }

  private void renamedTable(Statement statement, String table, String other) {
    boolean isOwn = own.contains(key(table));
    own.add(key(other));
    if (!isOwn && !made.contains(key(table))) {
      add(statement, Kind.BREAKS_OLD_CODE, "table " + table, CALLED + other + " now");
    }
  }

  private void renamedColumn(Statement statement, String table, String column, String other) {
    if (!plain(column).equalsIgnoreCase(other)) {
      add(
          statement,
          Kind.BREAKS_OLD_CODE,
          "column " + table + "." + plain(column),
          CALLED + other + " now");
    }
  }

  /** {@code CHANGE [COLUMN] [IF EXISTS] old new type} (MariaDB manual, "ALTER TABLE"). */
  private void change(Statement statement, String table, List<String> words) {
    int at = afterIf(words, is(words, 1, "COLUMN") ? 2 : 1);
    if (at + 1 < words.size()) {
      renamedColumn(statement, table, words.get(at), plain(words.get(at + 1)));
    }
  }

  /** {@code RENAME TABLE a TO b, c TO d} (MariaDB manual, "RENAME TABLE"). */
  private void renameTables(Statement statement, List<String> words) {
    int at = afterIf(words, 2);
    while (at < words.size()) {
      int to = find(words, at, "TO");
      if (to < 0) {
        return;
      }
      renamedTable(statement, name(words, at), name(words, to + 1));
      at = afterName(words, to + 1) + 1;
    }
  }

  private void dropColumn(Statement statement, String table, List<String> words) {
    int at = afterIf(words, is(words, 1, "COLUMN") ? 2 : 1);
    if (at >= words.size() || at == 1 && RULES.contains(words.get(at).toUpperCase(Locale.ROOT))) {
      return;
    }
    String subject = "column " + table + "." + plain(words.get(at));
    add(statement, Kind.ERASES, subject, "its values are gone");
    add(statement, Kind.BREAKS_OLD_CODE, subject, "it is not there any more");
  }

  private void add(Statement statement, String table, List<String> words) {
    int at = afterIf(words, is(words, 1, "COLUMN") ? 2 : 1);
    String word = at < words.size() ? words.get(at).toUpperCase(Locale.ROOT) : "";
    if (at == 1 && RULES.contains(word)) {
      rule(statement, table, words);
      return;
    }
    int not = find(words, at, "NOT");
    boolean required = not > 0 && is(words, not + 1, "NULL");
    boolean filled =
        words.stream().map(one -> one.toUpperCase(Locale.ROOT)).anyMatch(FILLED::contains);
    if (required && !filled) {
      String subject = "column " + table + "." + plain(words.get(at));
      add(
          statement,
          Kind.MAY_FAIL,
          subject,
          "it is required and has no default, which only an empty table takes");
      add(
          statement,
          Kind.BREAKS_OLD_CODE,
          subject,
          "a program that does not know it cannot add rows");
    }
  }

  private void rule(Statement statement, String table, List<String> words) {
    boolean later = find(words, 1, "VALID") > 0 && find(words, 1, "NOT") > 0;
    String reason =
        find(words, 1, "FOREIGN") > 0
            ? "every row must point to one that is there"
            : find(words, 1, "CHECK") > 0
                ? "every row must satisfy it"
                : find(words, 1, "UNIQUE") > 0 || find(words, 1, "PRIMARY") > 0
                    ? "no two rows may have the same key"
                    : "";
    if (!reason.isEmpty() && !later) {
      add(statement, Kind.MAY_FAIL, "table " + table, reason);
    }
  }

  private void required(Statement statement, String column) {
    add(statement, Kind.MAY_FAIL, "column " + column, "no row may have NULL in it");
    add(
        statement,
        Kind.BREAKS_OLD_CODE,
        "column " + column,
        "a program that leaves it NULL cannot write rows");
  }
}
