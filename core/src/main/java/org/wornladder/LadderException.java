package org.wornladder;

import java.util.Optional;

/** The root of all failures that a user can do something about. */
public abstract class LadderException extends RuntimeException {
  private final Optional<String> where;
  private final transient Advice advice;

  /**
   * @param what what happened, one sentence without its full stop
   * @param where a file with line and column, or an environment and a statement; empty if nowhere
   * @param advice what to do about it
   */
  protected LadderException(String what, String where, Advice advice, Throwable cause) {
    super(what, cause);
    this.where = Optional.of(where).filter(text -> !text.isEmpty());
    this.advice = advice;
  }

  public String what() {
    return getMessage();
  }

  public Optional<String> where() {
    return where;
  }

  /** What a person can do about it, for the program around the core to word. */
  public Advice advice() {
    return advice;
  }
}
