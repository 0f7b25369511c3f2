package org.wornladder.sql;

/** What a token is. Every character of a text belongs to exactly one token. */
public enum TokenKind {
  /** Blanks, line ends and a byte-order mark. */
  BLANK,
  /** A comment without effect, up to but without its line end. */
  LINE_COMMENT,
  BLOCK_COMMENT,
  /** A comment that an engine executes or heeds. */
  LIVE_COMMENT,
  /** A key word or a plain name. */
  WORD,
  NUMBER,
  /** A quoted string with its quotes and its prefix. */
  STRING,
  /** A quoted name with its quotes. */
  QUOTED_NAME,
  /** One or more operator characters, or a single mark of punctuation. */
  MARK,
  /** The mark that ends a statement. */
  END,
  /** A whole line that sets the end mark. */
  DELIMITER_LINE,
  /** The rows of a bulk load that stand inside a script, with the line that ends them. */
  LOAD_DATA;

  /** Whether the token counts for what the text means. */
  public boolean isMeaning() {
    return this != BLANK && this != LINE_COMMENT && this != BLOCK_COMMENT;
  }
}
