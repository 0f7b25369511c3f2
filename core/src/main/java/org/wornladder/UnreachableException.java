package org.wornladder;

/** A database that cannot be reached, opened or written. */
public final class UnreachableException extends LadderException {
  /** With a hint that names no command; it may be empty. */
  public UnreachableException(String what, String where, String hint, Throwable cause) {
    this(what, where, Advice.hint(hint), cause);
  }

  public UnreachableException(String what, String where, Advice advice, Throwable cause) {
    super(what, where, advice, cause);
  }
}
