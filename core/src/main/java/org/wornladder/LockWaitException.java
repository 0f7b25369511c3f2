package org.wornladder;

/** A lock that somebody else held for longer than we were willing to wait. */
public final class LockWaitException extends LadderException {
  /** With a hint that names no command; it may be empty. */
  public LockWaitException(String what, String where, String hint) {
    this(what, where, Advice.hint(hint));
  }

  public LockWaitException(String what, String where, Advice advice) {
    super(what, where, advice, null);
  }
}
