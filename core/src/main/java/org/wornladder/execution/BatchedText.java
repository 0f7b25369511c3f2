package org.wornladder.execution;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import org.wornladder.ProjectException;
import org.wornladder.project.Batching;
import org.wornladder.sql.Place;
import org.wornladder.sql.Statement;
import org.wornladder.sql.Token;

/**
 * An UPDATE, DELETE or INSERT … SELECT with room for one more condition: on the key of the rows
 * that it reads.
 *
 * @param before everything up to its own condition
 * @param condition its own; empty if it has none
 * @param after what follows the condition
 * @param table the table whose rows are counted, as the statement writes it
 * @param column the key's name, without quotes
 * @param key the key as an expression
 */
record BatchedText(
    String before, String condition, String after, String table, String column, String key) {
  /** Words behind which a condition on single rows would mean something else. */
  private static final Set<String> WHOLE =
      Set.of(
          "GROUP",
          "HAVING",
          "ORDER",
          "LIMIT",
          "OFFSET",
          "FETCH",
          "UNION",
          "EXCEPT",
          "INTERSECT",
          "WINDOW",
          "OVER",
          "DISTINCT",
          "JOIN",
          "USING",
          "WITH");

  /** Functions that make one value of many rows. */
  private static final Set<String> AGGREGATES =
      Set.of(
          "COUNT",
          "SUM",
          "AVG",
          "MIN",
          "MAX",
          "ARRAY_AGG",
          "STRING_AGG",
          "GROUP_CONCAT",
          "LISTAGG",
          "JSON_AGG",
          "JSONB_AGG",
          "JSON_ARRAYAGG",
          "BOOL_AND",
          "BOOL_OR",
          "EVERY",
          "TOTAL");

  /** Reads a statement word by word, as far as it stands in no brackets. */
  private static final class Reader {
    private final String text;
    private final Place place;
    private final List<Token> tokens = new ArrayList<>();
    private final List<String> words = new ArrayList<>();

    Reader(Statement statement) {
      text = statement.text();
      place = statement.place();
      int depth = 0;
      for (Token token : statement.tokens()) {
        if (!token.kind().isMeaning()) {
          continue;
        }
        String word = token.in(text);
        depth -= word.equals(")") ? 1 : 0;
        if (depth == 0) {
          tokens.add(token);
          words.add(word.toUpperCase(Locale.ROOT));
        }
        depth += word.equals("(") ? 1 : 0;
      }
    }

    ProjectException wrong(String reason) {
      return ProjectException.of(
          place,
          "this cannot run in batches: " + reason,
          "write one UPDATE, DELETE or INSERT … SELECT of one table, or take in-batches-of out");
    }

    int find(String word, int from) {
      int at = words.subList(from, words.size()).indexOf(word);
      return at < 0 ? -1 : at + from;
    }

    /** The place behind a name with its schema. */
    int afterName(int at) {
      int end = at + 1;
      while (end < words.size() && words.get(end).equals(".")) {
        end += 2;
      }
      return end;
    }

    String between(int from, int to) {
      int begin = tokens.get(from).start();
      int end = to < tokens.size() ? tokens.get(to).start() : text.length();
      return text.substring(begin, end).strip();
    }

    /** Behind a table's name: its alias if it has one. */
    Optional<String> alias(int at, Set<String> ends) {
      int place = at < words.size() && words.get(at).equals("AS") ? at + 1 : at;
      return place >= words.size() || ends.contains(words.get(place))
          ? Optional.empty()
          : Optional.of(tokens.get(place).in(text));
    }
  }

  /**
   * Reads a statement.
   *
   * @throws ProjectException if a condition cannot be added, or the key changes under it
   */
  static BatchedText of(Statement statement, Batching batching) {
    Reader reader = new Reader(statement);
    String verb = reader.words.get(0);
    int table =
        switch (verb) {
          case "UPDATE" -> 1;
          case "DELETE" -> reader.find("FROM", 1) + 1;
          case "INSERT" -> source(reader);
          default -> throw reader.wrong("it begins with " + verb);
        };
    if (table <= 0 || table >= reader.words.size()) {
      throw reader.wrong("it names no table");
    }
    if (reader.words.get(table).equals("ONLY")) {
      table++;
    }
    int next = reader.afterName(table);
    refuseWhole(reader, next, verb);
    String column = plain(batching.key().substring(batching.key().lastIndexOf('.') + 1));
    if (verb.equals("UPDATE")) {
      refuseChangedKey(reader, next, batching, column);
    }
    String name = reader.between(table, next);
    Optional<String> alias = reader.alias(next, Set.of("SET", "WHERE", "RETURNING", "ON", ";"));
    String key =
        batching.key().contains(".") ? batching.key() : alias.orElse(name) + "." + batching.key();
    return parts(reader, next, name, column, key);
  }

  /** Whether it changes rows, and neither deletes nor copies them. */
  boolean isUpdate() {
    return before.regionMatches(true, 0, "UPDATE", 0, 6);
  }

  private static int source(Reader reader) {
    int select = reader.find("SELECT", 1);
    return select < 0 ? -1 : reader.find("FROM", select) + 1;
  }

  private static void refuseWhole(Reader reader, int from, String verb) {
    for (int i = 0; i < reader.words.size(); i++) {
      String word = reader.words.get(i);
      boolean several = i >= from && word.equals(",") && reader.find("SET", 0) < 0;
      boolean aggregate =
          AGGREGATES.contains(word)
              && i + 1 < reader.words.size()
              && reader.words.get(i + 1).equals("(");
      if (WHOLE.contains(word) || aggregate || several) {
        throw reader.wrong(
            several ? "it reads several tables" : "its " + word + " is about all rows");
      }
    }
    if (verb.equals("UPDATE")
        && reader.find(",", 1) > 0
        && reader.find(",", 1) < reader.find("SET", 1)) {
      throw reader.wrong("it changes several tables");
    }
  }

  private static String plain(String name) {
    return name.replaceAll("[\"`\\[\\]]", "");
  }

  private static void refuseChangedKey(Reader reader, int from, Batching batching, String column) {
    int set = reader.find("SET", from);
    int end = reader.find("WHERE", from);
    for (int i = set; i >= 0 && i < (end < 0 ? reader.words.size() : end); i++) {
      boolean assigned =
          i + 1 < reader.words.size()
              && reader.words.get(i + 1).equals("=")
              && (i == set + 1
                  || reader.words.get(i - 1).equals(",")
                  || reader.words.get(i - 1).equals("."));
      if (assigned && plain(reader.words.get(i)).equalsIgnoreCase(column)) {
        throw reader.wrong("it changes its own key, " + batching.key());
      }
    }
  }

  private static BatchedText parts(
      Reader reader, int from, String table, String column, String key) {
    int where = reader.find("WHERE", from);
    int end = end(reader, where < 0 ? from : where);
    int cut = end < reader.tokens.size() ? reader.tokens.get(end).start() : reader.text.length();
    String before =
        reader
            .text
            .substring(0, where < 0 ? cut : reader.tokens.get(where).start())
            .stripTrailing();
    String condition =
        where < 0 ? "" : reader.text.substring(reader.tokens.get(where).end(), cut).strip();
    return new BatchedText(before, condition, reader.text.substring(cut), table, column, key);
  }

  /** Where what follows the condition begins. */
  private static int end(Reader reader, int from) {
    for (int i = from; i < reader.words.size(); i++) {
      String word = reader.words.get(i);
      boolean conflict =
          word.equals("ON")
              && i + 1 < reader.words.size()
              && Set.of("CONFLICT", "DUPLICATE").contains(reader.words.get(i + 1));
      if (word.equals("RETURNING") || conflict) {
        return i;
      }
    }
    return reader.words.size();
  }

  /** The statement for the rows that satisfy one more condition. */
  String with(String more) {
    String whole = condition.isEmpty() ? more : "(" + condition + "\n) AND " + more;
    return before + "\nWHERE " + whole + (after.isBlank() ? "" : "\n" + after);
  }
}
