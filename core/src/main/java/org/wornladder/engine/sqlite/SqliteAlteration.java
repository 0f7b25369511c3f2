package org.wornladder.engine.sqlite;

import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;
import org.wornladder.change.ChangeScript;
import org.wornladder.change.ChangeScript.Origin;
import org.wornladder.change.Differences;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.Index;
import org.wornladder.schema.Part;
import org.wornladder.schema.Snapshot;
import org.wornladder.schema.Table;
import org.wornladder.sql.Statement;
import org.wornladder.sql.Token;

/**
 * A standard ALTER TABLE that SQLite does not have (ISO/IEC 9075-2, "alter table statement"): it is
 * carried out by making the table anew.
 *
 * @param table its name, without quotes
 * @param actions in order
 */
record SqliteAlteration(String table, List<Action> actions) {
  /**
   * One action.
   *
   * @param words its tokens, names and strings as they are written
   * @param rests what is written from each token on
   */
  private record Action(List<String> words, List<String> rests) {
    private Action {
      words = List.copyOf(words);
      rests = List.copyOf(rests);
    }
  }

  /** Reads a statement; empty if SQLite itself may be able to run it. */
  static Optional<SqliteAlteration> of(Statement statement) {
    String text = statement.text();
    if (!text.regionMatches(true, 0, "ALTER", 0, 5)) {
      return Optional.empty();
    }
    List<Token> tokens =
        statement.tokens().stream().filter(token -> token.kind().isMeaning()).toList();
    List<String> words = tokens.stream().map(token -> token.in(text)).toList();
    if (words.size() < 5 || !is(words, 1, "TABLE") || is(words, 3, ".")) {
      return Optional.empty();
    }
    List<Action> actions = split(text, tokens.subList(3, tokens.size()));
    boolean standard = actions.stream().map(Action::words).anyMatch(SqliteAlteration::isStandard);
    return standard
        ? Optional.of(new SqliteAlteration(SqliteTableEdit.plain(words.get(2)), actions))
        : Optional.empty();
  }

  private static List<Action> split(String text, List<Token> tokens) {
    List<Action> actions = new ArrayList<>();
    int depth = 0;
    int from = 0;
    for (int i = 0; i <= tokens.size(); i++) {
      String word = i < tokens.size() ? tokens.get(i).in(text) : ",";
      depth += word.equals("(") ? 1 : word.equals(")") ? -1 : 0;
      if (depth == 0 && word.equals(",")) {
        actions.add(action(text, tokens.subList(from, i)));
        from = i + 1;
      }
    }
    return actions;
  }

  private static Action action(String text, List<Token> tokens) {
    int end = tokens.isEmpty() ? 0 : tokens.get(tokens.size() - 1).end();
    return new Action(
        tokens.stream().map(token -> token.in(text)).toList(),
        tokens.stream().map(token -> text.substring(token.start(), end)).toList());
  }

  private static boolean is(List<String> words, int place, String word) {
    return place < words.size() && words.get(place).equalsIgnoreCase(word);
  }

  /** Whether SQLite lacks an action, or lacks it for some columns. */
  private static boolean isStandard(List<String> action) {
    return is(action, 0, "ALTER") || isRule(action) || is(action, 0, "DROP");
  }

  private static boolean isRule(List<String> action) {
    return is(action, 0, "ADD")
        && List.of("CONSTRAINT", "UNIQUE", "PRIMARY", "CHECK", "FOREIGN")
            .contains(action.size() > 1 ? action.get(1).toUpperCase(Locale.ROOT) : "");
  }

  /**
   * The statements that carry it out, as the structure is now.
   *
   * @return the statement itself where SQLite can run it, or cannot say better why not
   */
  List<String> statements(Snapshot now, SqliteDdl ddl, String itself) throws SQLException {
    Optional<Table> standing =
        now.objects().stream()
            .filter(Table.class::isInstance)
            .map(Table.class::cast)
            .filter(one -> one.id().name().equalsIgnoreCase(table))
            .findFirst();
    if (standing.isEmpty() || isPlainDrop(standing.get())) {
      return List.of(itself);
    }
    Table before = standing.get();
    String text = before.text();
    List<String> gone = new ArrayList<>();
    for (Action action : actions) {
      Optional<String> edited = edited(text, before, action, gone);
      if (edited.isEmpty()) {
        return List.of(itself);
      }
      text = edited.get();
    }
    Snapshot wanted = with(now, before, made(text, before, gone));
    return ChangeScript.of(Differences.between(now, wanted), now, wanted, ddl, Origin.TWO_DATABASES)
        .statements();
  }

  /** Whether it drops one column that nothing else in the table speaks of. */
  private boolean isPlainDrop(Table before) {
    List<String> first = actions.get(0).words();
    if (actions.size() != 1 || !is(first, 0, "DROP") || isDropOfRule(first)) {
      return false;
    }
    String column = dropped(first);
    boolean used =
        before.parts().stream()
            .filter(part -> !part.kind().label().equals("column"))
            .anyMatch(part -> speaksOf(part, column));
    return !used || before.column(column).isEmpty();
  }

  private static boolean speaksOf(Part part, String column) {
    return part.facts().values().stream()
        .anyMatch(
            fact ->
                fact.toLowerCase(Locale.ROOT)
                    .matches(
                        "(?s).*(?<![\\w$])"
                            + Pattern.quote(column.toLowerCase(Locale.ROOT))
                            + "(?![\\w$]).*"));
  }

  private static boolean isDropOfRule(List<String> action) {
    return is(action, 1, "CONSTRAINT");
  }

  private static String dropped(List<String> action) {
    int at = is(action, 1, "COLUMN") ? 2 : 1;
    return SqliteTableEdit.plain(at < action.size() ? action.get(at) : "");
  }

  private static Optional<String> edited(
      String text, Table before, Action whole, List<String> gone) {
    List<String> action = whole.words();
    SqliteTableEdit edit = SqliteTableEdit.of(text);
    if (isRule(action)) {
      return Optional.of(edit.withRule(whole.rests().get(1)));
    }
    if (is(action, 0, "DROP") && isDropOfRule(action)) {
      return action.size() > 2
          ? edit.withoutRule(SqliteTableEdit.plain(action.get(2)))
          : Optional.empty();
    }
    if (is(action, 0, "DROP")) {
      String column = dropped(action);
      gone.add(column);
      return before.column(column).isPresent()
          ? Optional.of(edit.withoutColumn(column))
          : Optional.empty();
    }
    int at = is(action, 1, "COLUMN") ? 2 : 1;
    boolean known =
        is(action, 0, "ALTER")
            && at < action.size()
            && before.column(SqliteTableEdit.plain(action.get(at))).isPresent();
    return known
        ? column(edit, SqliteTableEdit.plain(action.get(at)), action, whole.rests(), at + 1)
        : Optional.empty();
  }

  /** What is said of a column behind its name. */
  private static Optional<String> column(
      SqliteTableEdit edit, String name, List<String> action, List<String> rests, int from) {
    String rest = String.join(" ", action.subList(from, action.size())).toUpperCase(Locale.ROOT);
    if (rest.equals("SET NOT NULL")) {
      return Optional.of(edit.required(name));
    }
    if (rest.equals("DROP NOT NULL")) {
      return Optional.of(edit.optional(name));
    }
    if (rest.equals("DROP DEFAULT")) {
      return Optional.of(edit.withoutDefault(name));
    }
    if (rest.startsWith("SET DEFAULT ")) {
      return Optional.of(edit.withDefault(name, rests.get(from + 2)));
    }
    int type = rest.startsWith("SET DATA TYPE ") ? 3 : rest.startsWith("TYPE ") ? 1 : 0;
    return type > 0 ? Optional.of(edit.withType(name, rests.get(from + type))) : Optional.empty();
  }

  /** The table that a statement makes, found out by SQLite itself, with the indexes that it had. */
  private static Table made(String text, Table before, List<String> gone) throws SQLException {
    try (Connection memory = DriverManager.getConnection("jdbc:sqlite::memory:");
        java.sql.Statement sql = memory.createStatement()) {
      sql.execute(text);
      Table made = new SqliteStructure(sql, List.of(), Map.of()).read().tables().get(0);
      List<Part> parts = new ArrayList<>(made.storedParts());
      before.indexes().stream()
          .filter(index -> !index.fromConstraint())
          .filter(index -> gone.stream().noneMatch(column -> isOn(index, column)))
          .forEach(parts::add);
      return (Table) made.with(made.facts(), parts);
    }
  }

  private static boolean isOn(Index index, String column) {
    return speaksOf(index, column);
  }

  private static Snapshot with(Snapshot now, Table before, Table after) {
    List<DatabaseObject> objects = new ArrayList<>(now.objects());
    objects.remove(before);
    objects.add(after);
    return new Snapshot(objects);
  }
}
