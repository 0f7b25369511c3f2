package org.wornladder;

import java.util.Optional;

/** The root of all failures that a user can do something about. */
public abstract class LadderException extends RuntimeException {
  private final Optional<String> where;
  private final Optional<String> next;

  /**
   * @param what what happened, one sentence without its full stop
   * @param where a file with line and column, or an environment and a statement; empty if nowhere
   * @param next what to do about it, a command where there is one; empty if nothing can be said
   */
  protected LadderException(String what, String where, String next, Throwable cause) {
    super(what, cause);
    this.where = Optional.of(where).filter(text -> !text.isEmpty());
    this.next = Optional.of(next).filter(text -> !text.isEmpty());
  }

  public String what() {
    return getMessage();
  }

  public Optional<String> where() {
    return where;
  }

  public Optional<String> next() {
    return next;
  }
}
