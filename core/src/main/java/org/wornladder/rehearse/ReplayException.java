package org.wornladder.rehearse;

import org.wornladder.fault.LadderException;

/** The files do not run in a scratch database. */
public final class ReplayException extends LadderException {
  ReplayException(String what, String where, String next, Throwable cause) {
    super(what, where, next, cause);
  }

  /** A failure of a run, which happened in the scratch database alone. */
  static ReplayException of(LadderException failure) {
    return new ReplayException(
        "in the scratch database: " + failure.what(),
        failure.where().orElse(""),
        "mend the file; no environment was touched",
        failure);
  }
}
