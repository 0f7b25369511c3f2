package org.wornladder.journal;

/**
 * What is known of an entry only when it is written.
 *
 * @param statement the statement reached, counted from 1; 0 where none is meant
 * @param elapsedMs how long it took, in milliseconds
 * @param text free text, without secrets; may be empty
 */
public record EntryDetails(int statement, long elapsedMs, String text) {
  public static final EntryDetails NONE = new EntryDetails(0, 0, "");

  public static EntryDetails of(String text) {
    return new EntryDetails(0, 0, text);
  }

  public static EntryDetails elapsed(long milliseconds) {
    return new EntryDetails(0, milliseconds, "");
  }
}
