package org.wornladder.sql;

import java.util.List;

/**
 * One statement of a script.
 *
 * @param text the statement from its first meaning token to its end mark, comments included; of one
 *     without an end mark, to its last meaning token
 * @param place where it begins
 * @param data rows that follow a bulk load, with the line that ends them; empty for all others
 * @param dialect how its text is read: as the engine does, under the settings that the script has
 *     made before it
 */
public record Statement(String text, Place place, String data, Dialect dialect) {
  /** A statement without data, read as the engine usually does. */
  public Statement(String text, Place place, Dialect dialect) {
    this(text, place, "", dialect);
  }

  /** All its tokens, in order. */
  public List<Token> tokens() {
    return Lexer.tokens(text, dialect);
  }

  /** Another text in its place, read as this one is. */
  public Statement withText(String other) {
    return new Statement(other, place, data, dialect);
  }
}
