package org.wornladder;

import java.util.Optional;

/** A statement that the database refused. Says which, what it said, and what is left of it all. */
public final class StatementFailedException extends LadderException {
  private final transient Failure failure;

  /**
   * What failed.
   *
   * @param step the rung's label or the standing script's name
   * @param place file, line and column of the statement, or of the place in it that the database
   *     names, or the file alone
   * @param statement its text without secrets; empty where the commit failed
   * @param message the database's own
   * @param values what it said of the values of a row, which are not for everybody; may be empty
   * @param left what is now in the database, in one sentence
   * @param completed how many steps were completed before it in this run
   */
  public record Failure(
      String environment,
      String step,
      String place,
      Optional<String> statement,
      String message,
      Optional<String> values,
      String left,
      int completed) {}

  public StatementFailedException(Failure failure, Advice advice, Throwable cause) {
    super(
        failure.step() + " failed on " + failure.environment() + ": " + failure.message(),
        failure.place(),
        advice,
        cause);
    this.failure = failure;
  }

  public Failure failure() {
    return failure;
  }
}
