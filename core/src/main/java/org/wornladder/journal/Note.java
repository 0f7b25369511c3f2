package org.wornladder.journal;

/**
 * What is known of an entry only when it is written.
 *
 * @param statement the statement reached, counted from 1; 0 where none is meant
 * @param elapsedMs how long it took, in milliseconds
 * @param text free text, without secrets; may be empty
 */
public record Note(int statement, long elapsedMs, String text) {
  public static final Note NONE = new Note(0, 0, "");

  public static Note of(String text) {
    return new Note(0, 0, text);
  }

  public static Note elapsed(long milliseconds) {
    return new Note(0, milliseconds, "");
  }
}
