package org.wornladder;

/** The files do not run in a scratch database. */
public final class ReplayException extends LadderException {
  /** With a hint that names no command; it may be empty. */
  public ReplayException(String what, String where, String hint, Throwable cause) {
    this(what, where, Advice.hint(hint), cause);
  }

  public ReplayException(String what, String where, Advice advice, Throwable cause) {
    super(what, where, advice, cause);
  }

  /** A failure of a run, which happened in the scratch database alone. */
  public static ReplayException of(LadderException failure) {
    return new ReplayException(
        "in the scratch database: " + failure.what(),
        failure.where().orElse(""),
        "mend the file; no environment was touched",
        failure);
  }
}
