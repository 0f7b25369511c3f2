package org.wornladder;

/** A lock that somebody else held for longer than we were willing to wait. */
public final class LockWaitException extends LadderException {
  public LockWaitException(String what, String where, String next) {
    super(what, where, next, null);
  }
}
