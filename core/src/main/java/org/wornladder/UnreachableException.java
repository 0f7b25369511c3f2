package org.wornladder;

/** A database that cannot be reached, opened or written. */
public final class UnreachableException extends LadderException {
  public UnreachableException(String what, String where, String next, Throwable cause) {
    super(what, where, next, cause);
  }
}
