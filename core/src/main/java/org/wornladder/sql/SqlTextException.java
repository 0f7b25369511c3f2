package org.wornladder.sql;

/** SQL text that cannot be read: a quote, comment or block that is opened and never closed. */
public final class SqlTextException extends RuntimeException {
  private final int offset;

  SqlTextException(String message, int offset) {
    super(message);
    this.offset = offset;
  }

  /** Where the unended thing opens, in characters from the start of the text. */
  public int offset() {
    return offset;
  }
}
