package org.wornladder.sql;

/**
 * A piece of SQL text.
 *
 * @param start offset of its first character
 * @param end offset behind its last character
 */
public record Token(TokenKind kind, int start, int end) {
  /** The token's characters in the text it was read from. */
  public String in(String text) {
    return text.substring(start, end);
  }
}
