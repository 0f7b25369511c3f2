package org.wornladder;

/** A journal that cannot be worked with: its chain is broken, or the table is not a journal. */
public final class JournalException extends LadderException {
  /** With a hint that names no command; it may be empty. */
  public JournalException(String what, String where, String hint, Throwable cause) {
    this(what, where, Advice.hint(hint), cause);
  }

  public JournalException(String what, String where, Advice advice, Throwable cause) {
    super(what, where, advice, cause);
  }
}
