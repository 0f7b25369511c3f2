package org.wornladder.project;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.wornladder.Advice;
import org.wornladder.ProjectException;
import org.wornladder.sql.Dialects;
import org.wornladder.sql.Lexer;
import org.wornladder.sql.Place;
import org.wornladder.sql.SqlTextException;
import org.wornladder.sql.Token;

/**
 * Writes common changes out of a few words in SQL's own manner, with the way back where there is
 * one.
 */
public final class Shorthand {
  private final List<String> up = new ArrayList<>();
  private final List<String> down = new ArrayList<>();
  private final List<String> lost = new ArrayList<>();

  /** Everything that was asked for: ways down in the opposite order. */
  public RungDraft draft() {
    if (lost.isEmpty()) {
      return new RungDraft(up, down, Optional.empty());
    }
    return new RungDraft(up, List.of(), Optional.of(String.join("; ", lost)));
  }

  /** {@code bin (code text not null primary key, …)}. */
  public Shorthand createTable(String words) {
    Words read = Words.of(words, "create-table", "bin (code text not null primary key)");
    String table = read.name();
    String rest = read.rest();
    if (!rest.startsWith("(") || !rest.endsWith(")")) {
      throw read.wrong();
    }
    return add("CREATE TABLE " + table + " " + rest + ";", "DROP TABLE " + table + ";");
  }

  /** {@code picking price decimal(10,2)}. */
  public Shorthand addColumn(String words) {
    Words read = Words.of(words, "add-column", "picking price decimal(10,2)");
    String table = read.name();
    String column = read.name();
    String add = "ALTER TABLE " + table + " ADD COLUMN " + column + " " + read.rest();
    return add(add.strip() + ";", "ALTER TABLE " + table + " DROP COLUMN " + column + ";");
  }

  /** {@code picking price}, with the column's type behind it where a way down is wanted. */
  public Shorthand dropColumn(String words) {
    Words read = Words.of(words, "drop-column", "picking price decimal(10,2)");
    String table = read.name();
    int dot = table.lastIndexOf('.');
    if (dot > 0 && read.rest().isEmpty()) {
      return dropColumn(table.substring(0, dot) + " " + table.substring(dot + 1));
    }
    String column = read.name();
    String drop = "ALTER TABLE " + table + " DROP COLUMN " + column + ";";
    if (read.rest().isEmpty()) {
      up.add(drop);
      lost.add("the column " + table + "." + column + " and its values are dropped");
      return this;
    }
    return add(drop, "ALTER TABLE " + table + " ADD COLUMN " + column + " " + read.rest() + ";");
  }

  /** {@code picking (variety_id, picked_on)}, or {@code unique bin (code)}. */
  public Shorthand addIndex(String words) {
    Words read = Words.of(words, "add-index", "picking (variety_id, picked_on)");
    String first = read.name();
    boolean unique = first.equalsIgnoreCase("unique") && !read.rest().startsWith("(");
    String table = unique ? read.name() : first;
    String columns = read.rest();
    if (!columns.startsWith("(") || !columns.endsWith(")")) {
      throw read.wrong();
    }
    String name = indexName(table, columns);
    String create = unique ? "CREATE UNIQUE INDEX " : "CREATE INDEX ";
    return add(create + name + " ON " + table + " " + columns + ";", "DROP INDEX " + name + ";");
  }

  /** {@code picking price to price_per_kg}. */
  public Shorthand renameColumn(String words) {
    Words read = Words.of(words, "rename-column", "picking price to price_per_kg");
    String table = read.name();
    String from = read.name();
    String to = read.name();
    if (to.equalsIgnoreCase("to")) {
      to = read.name();
    }
    if (!read.rest().isEmpty()) {
      throw read.wrong();
    }
    String rename = "ALTER TABLE " + table + " RENAME COLUMN ";
    return add(rename + from + " TO " + to + ";", rename + to + " TO " + from + ";");
  }

  private Shorthand add(String way, String back) {
    up.add(way);
    down.add(0, back);
    return this;
  }

  private static String indexName(String table, String columns) {
    String words = (table + "_" + columns).replaceAll("[^\\p{L}\\p{N}_]+", "_");
    return words.replaceAll("_+", "_").replaceAll("^_|_$", "").toLowerCase(Locale.ROOT);
  }

  /** The words behind an operation, taken one by one. */
  private static final class Words {
    private final String text;
    private final String operation;
    private final String example;
    private final List<Token> tokens;
    private int at;

    private Words(String text, String operation, String example, List<Token> tokens) {
      this.text = text;
      this.operation = operation;
      this.example = example;
      this.tokens = tokens;
    }

    static Words of(String words, String operation, String example) {
      String text = words.strip();
      try {
        List<Token> tokens =
            Lexer.tokens(text, Dialects.NEUTRAL).stream()
                .filter(token -> token.kind().isMeaning())
                .toList();
        Words read = new Words(text, operation, example, tokens);
        if (text.contains(";")) {
          throw read.wrong();
        }
        return read;
      } catch (SqlTextException e) {
        throw new Words(text, operation, example, List.of()).wrong();
      }
    }

    /** The next name, quoted or not, with its schema if it has one. */
    String name() {
      if (at >= tokens.size()) {
        throw wrong();
      }
      int start = tokens.get(at).start();
      int end = tokens.get(at++).end();
      while (at + 1 < tokens.size() && tokens.get(at).in(text).equals(".")) {
        end = tokens.get(at + 1).end();
        at += 2;
      }
      return text.substring(start, end);
    }

    String rest() {
      return at >= tokens.size() ? "" : text.substring(tokens.get(at).start()).strip();
    }

    ProjectException wrong() {
      return ProjectException.of(
          Place.of("short-hand to " + operation),
          "'" + text + "' is not what a short-hand to " + operation.replace('-', ' ') + " takes",
          Advice.of(Advice.Code.SHORTHAND_EXAMPLE, operation, example));
    }
  }
}
