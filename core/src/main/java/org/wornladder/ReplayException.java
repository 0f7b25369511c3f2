package org.wornladder;

/** The files do not run in a scratch database. */
public final class ReplayException extends LadderException {
  public ReplayException(String what, String where, String next, Throwable cause) {
    super(what, where, next, cause);
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
