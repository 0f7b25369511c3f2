package org.wornladder.cli;

import org.wornladder.JournalException;
import org.wornladder.LadderException;
import org.wornladder.LockWaitException;
import org.wornladder.ProjectException;
import org.wornladder.RefusedException;
import org.wornladder.ReplayException;
import org.wornladder.StatementFailedException;
import org.wornladder.UnreachableException;

/** What the program answers to its caller. */
public final class ExitCode {
  /** Done, nothing needs you. */
  public static final int DONE = 0;

  /** It ran and found something that needs you. */
  public static final int FOUND = 1;

  /** The command line or a project file is wrong. */
  public static final int WRONG = 2;

  /** Refused, for safety. */
  public static final int REFUSED = 3;

  /** The database could not be reached, or the lock not had, in time. */
  public static final int UNREACHABLE = 4;

  /** A statement failed. */
  public static final int FAILED = 5;

  /** A fault in the program itself, or too little memory. */
  public static final int FAULT = 70;

  private ExitCode() {}

  public static int of(LadderException e) {
    if (e instanceof ProjectException) {
      return WRONG;
    }
    if (e instanceof RefusedException || e instanceof JournalException) {
      return REFUSED;
    }
    if (e instanceof ReplayException) {
      return e.getCause() instanceof LadderException failure ? of(failure) : REFUSED;
    }
    if (e instanceof UnreachableException || e instanceof LockWaitException) {
      return UNREACHABLE;
    }
    return e instanceof StatementFailedException ? FAILED : FAULT;
  }
}
