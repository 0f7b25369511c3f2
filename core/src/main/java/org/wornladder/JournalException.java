package org.wornladder;

/** A journal that cannot be worked with: its chain is broken, or the table is not a journal. */
public final class JournalException extends LadderException {
  public JournalException(String what, String where, String next, Throwable cause) {
    super(what, where, next, cause);
  }
}
