package org.wornladder.sql;

import java.util.ArrayList;
import java.util.List;
import org.wornladder.sql.Dialect.Trait;

/** Splits a script into its statements. */
public final class Splitter {
  private final String text;
  private final Lexer lexer;
  private final Dialect dialect;
  private final boolean parenthesesHold;
  private final List<Statement> statements = new ArrayList<>();

  private Body body;
  private int first = -1;
  private int last;
  private int parentheses;
  private int placed;
  private Place place;

  private Splitter(String text, Dialect dialect, Place origin) {
    this.text = text;
    this.dialect = dialect;
    lexer = new Lexer(text, dialect);
    parenthesesHold = dialect.has(Trait.PARENTHESES_HOLD);
    body = Body.in(dialect);
    place = origin;
  }

  /**
   * The statements of a script, in order; empty ones are left out.
   *
   * @param origin where the text begins in its file
   * @throws SqlTextException where a quote, a comment or a block never ends
   */
  public static List<Statement> split(String text, Dialect dialect, Place origin) {
    return new Splitter(text, dialect, origin).run();
  }

  private List<Statement> run() {
    while (lexer.advance()) {
      TokenKind kind = lexer.kind();
      if (kind == TokenKind.LOAD_DATA) {
        attachData();
      } else if (kind == TokenKind.END && !isHeld()) {
        finish();
      } else if (kind.isMeaning() && kind != TokenKind.DELIMITER_LINE) {
        take();
      }
    }
    if (body.isOpen() && !lexer.hasOwnEndMark()) {
      throw new SqlTextException("a BEGIN … END block of this statement is never ended", first);
    }
    finish();
    return List.copyOf(statements);
  }

  private boolean isHeld() {
    if (lexer.hasOwnEndMark()) {
      return false;
    }
    return body.isOpen() || (parenthesesHold && parentheses > 0);
  }

  private void take() {
    if (first < 0) {
      first = lexer.start();
    }
    last = lexer.end();
    body.accept(lexer);
    if (lexer.isMark('(')) {
      parentheses++;
    } else if (lexer.isMark(')')) {
      parentheses--;
    }
  }

  private void finish() {
    if (first >= 0) {
      String statement = text.substring(first, last);
      statements.add(new Statement(statement, placeOf(first), ""));
    }
    first = -1;
    parentheses = 0;
    body = Body.in(dialect);
  }

  private void attachData() {
    Statement load = statements.remove(statements.size() - 1);
    String data = text.substring(lexer.start(), lexer.end());
    statements.add(new Statement(load.text(), load.place(), data));
  }

  /** Counts on from the place before, so that a long script is walked over once. */
  private Place placeOf(int offset) {
    place = place.plus(text.substring(placed, offset), offset - placed);
    placed = offset;
    return place;
  }
}
