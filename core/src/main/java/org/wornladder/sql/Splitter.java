package org.wornladder.sql;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** Splits a script into its statements. */
public final class Splitter {
  private final String text;
  private final Lexer lexer;
  private final List<Statement> statements = new ArrayList<>();

  private int first = -1;
  private int last;
  private int placed;
  private Place place;

  private Splitter(String text, Dialect dialect, Place origin) {
    this.text = text;
    lexer = new Lexer(text, dialect);
    place = origin;
  }

  /**
   * The statements of a script, in order; empty ones are left out.
   *
   * @param origin where the text begins in its file
   * @throws SqlTextException where a quote, a comment or a block never ends, or what should be JSON
   *     is not
   */
  public static List<Statement> split(String text, Dialect dialect, Place origin) {
    if (dialect.has(Dialect.Trait.JSON)) {
      return JsonCommands.split(text, dialect, origin);
    }
    return new Splitter(text, dialect, origin).run();
  }

  /**
   * The same for a script whose statements end at lines with one word alone, in whatever case. What
   * stands between two such lines is one statement, with its semicolons; comments alone are none.
   *
   * @param word what such a line holds
   */
  public static List<Statement> split(String text, Dialect dialect, Place origin, String word) {
    List<Statement> statements = new ArrayList<>();
    int begin = 0;
    int line = 0;
    while (line <= text.length()) {
      int end = text.indexOf('\n', line);
      int behind = end < 0 ? text.length() + 1 : end + 1;
      boolean isEnd =
          text.substring(line, end < 0 ? text.length() : end).strip().equalsIgnoreCase(word);
      if (isEnd || behind > text.length()) {
        int until = isEnd ? line : text.length();
        whole(text, begin, until, dialect, origin).ifPresent(statements::add);
        begin = Math.min(behind, text.length());
      }
      line = behind;
    }
    return statements;
  }

  /** What stands between two offsets, from its first token on. */
  private static Optional<Statement> whole(
      String text, int from, int until, Dialect dialect, Place origin) {
    String part = text.substring(from, until).stripTrailing();
    Lexer lexer = new Lexer(part, dialect);
    while (lexer.advance()) {
      if (lexer.kind().isMeaning()) {
        int start = from + lexer.start();
        return Optional.of(
            new Statement(part.substring(lexer.start()), origin.plus(text, start), dialect));
      }
    }
    return Optional.empty();
  }

  private List<Statement> run() {
    while (lexer.advance()) {
      TokenKind kind = lexer.kind();
      if (kind == TokenKind.LOAD_DATA) {
        attachData();
      } else if (kind == TokenKind.END) {
        // A comment before it is part of the statement: some engines keep it.
        last = Math.max(last, behindText(lexer.start()));
        finish();
      } else if (kind.isMeaning() && kind != TokenKind.DELIMITER_LINE) {
        take();
      }
    }
    if (lexer.isBlockOpen()) {
      throw SqlTextException.openBlock(first);
    }
    finish();
    return List.copyOf(statements);
  }

  /** Behind the last character before an offset that is no blank. */
  private int behindText(int offset) {
    int end = offset;
    while (end > 0 && Scan.isBlank(text.charAt(end - 1))) {
      end--;
    }
    return end;
  }

  private void take() {
    if (first < 0) {
      first = lexer.start();
    }
    last = lexer.end();
  }

  private void finish() {
    if (first >= 0) {
      String statement = text.substring(first, last);
      statements.add(new Statement(statement, placeOf(first), lexer.statementDialect()));
    }
    first = -1;
  }

  private void attachData() {
    Statement load = statements.remove(statements.size() - 1);
    String data = text.substring(lexer.start(), lexer.end());
    statements.add(new Statement(load.text(), load.place(), data, load.dialect()));
  }

  /** Counts on from the place before, so that a long script is walked over once. */
  private Place placeOf(int offset) {
    place = place.plus(text.substring(placed, offset), offset - placed);
    placed = offset;
    return place;
  }
}
