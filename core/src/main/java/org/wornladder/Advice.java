package org.wornladder;

import java.util.Arrays;
import java.util.List;

/**
 * What a person can do about a failure: a code and its facts, which the program around the core
 * words in its own terms (the command line as a command, a build as a goal), or a hint that holds
 * for all of them.
 *
 * @param facts as the code names them, in order
 */
public record Advice(Code code, List<String> facts) {
  /** Nothing is to be said. */
  public static final Advice NONE = of(Code.NONE);

  /** What can be done. In parentheses, its facts in order. */
  public enum Code {
    NONE,
    /** A sentence that names no command (the sentence). */
    HINT,
    /** Accept an edited file as the text of a stuck rung (environment, rung). */
    ACCEPT_FILE,
    /** Draft a rung of its own, instead of more for one that is there. */
    DRAFT_RUNG_OF_ITS_OWN,
    /** Draft the difference, or bring the declared structure up to date. */
    DRAFT_OR_REFRESH,
    /** Draft fewer objects at a time. */
    /** List what is kept. Environment. */
    LIST_ATTIC,
    /** Decide whether what goes is kept. Environment. */
    KEEP_OR_LET_GO,
    /** Let what a rung erases go. Environment. */
    LET_GO,
    /** Go on without a fold. Environment, folder of the folded rungs, the fold's file. */
    LEAVE_FOLD,
    /** Have the way down of a rung worked out. Environment. */
    DERIVE_WAY_DOWN,
    DRAFT_IN_PARTS,
    /** Have the declared structure written as the ladder builds it. */
    WRITE_SCHEMA_FILES,
    /** Say yes. */
    ADD_YES,
    /** Take the database under management (environment). */
    ADOPT,
    ADOPT_INTO_NEW_PROJECT,
    /** Adopt the rows of tables with fewer rows (the most). */
    ADOPT_SMALLER_TABLES,
    /** Apply goes on with a stuck rung (environment). */
    APPLY_GOES_ON,
    /** Apply to another environment before (environment). */
    APPLY_FIRST,
    /** Apply goes on with the rung, which can be rolled back then (environment). */
    APPLY_THEN_ROLL_BACK,
    CHECK_FILES,
    /** Check the url, and which objects are selected. */
    CHECK_SELECTION,
    /** Name two structures, for example (environment). */
    COMPARE_EXAMPLE,
    /** Look at the plan, then confirm it by the environment's name (environment). */
    CONFIRM_CHANGE,
    /** Confirm by the database's name (database). */
    CONFIRM_DATABASE,
    /** Look at the rows, then confirm by the environment's name (environment). */
    CONFIRM_SEED,
    /** Bring a standing script up to date, or the database (environment, file). */
    FILE_OR_DATABASE,
    /** Correct the cause, or accept an edited file, and go on (environment, rung). */
    CORRECT_AND_GO_ON,
    /** Correct the statement and apply again (environment). */
    CORRECT_STATEMENT,
    /** Correct the seed and seed again (environment). */
    CORRECT_THEN_SEED,
    /** Correct the way down and roll back again (environment). */
    CORRECT_WAY_DOWN,
    /** Find out whether a statement took effect, and record it (environment, rung). */
    DECIDE_STATEMENT,
    /** Find out who wrote to the journal (environment). */
    FIND_JOURNAL_WRITER,
    /** Grant a right to the database's user, then apply (environment). */
    GRANT_THEN_APPLY,
    /** Grant a right to the database's user, then roll back (environment). */
    GRANT_THEN_ROLL_BACK,
    /** Make a project here, or name its folder. */
    INIT_OR_NAME_PROJECT,
    /** A new project has this file. */
    INIT_WRITES_IT,
    LEAVE_OBJECTS_OUT,
    LIST_RUNGS,
    /** List the tables (environment). */
    LIST_TABLES,
    /** What a collection's documents hold: the environment, the collection. */
    SHOW_FIELDS,
    /** Name the file, since two have the number (a file). */
    NAME_FILE_TO_RENUMBER,
    /** Apply without one transaction for all. */
    NOT_TOGETHER,
    /** The same, or up to the rung before. */
    NOT_TOGETHER_OR_UP_TO,
    /** See the plan and what speaks against it (environment). */
    PREVIEW,
    /** Make an environment reachable, or confirm that it does not have the rung (environment). */
    REACH_OR_CONFIRM,
    /** Move a file to the end (file). */
    RENUMBER_FILE,
    /** Move a late rung to the end, or allow late rungs (rung). */
    RENUMBER_OR_ALLOW,
    /** The same (rung, highest number in place, environment). */
    RENUMBER_OR_ALLOW_LATE,
    /** Restore a file, or roll back what has none (environment). */
    RESTORE_FILE_OR_ROLL_BACK,
    /** Restore a file, then apply (environment). */
    RESTORE_FILE_THEN_APPLY,
    /** The same, or take down what is there by the journal's way down (environment). */
    RESTORE_FILE_OR_TAKE_DOWN,
    /** Restore a worn rung's text, or accept the edit (file, environment, rung). */
    RESTORE_OR_ACCEPT,
    /** The same, or run it anew (file, environment, rung, the rung before it). */
    RESTORE_REDO_OR_ACCEPT,
    /** Another session holds a lock: try again. */
    RETRY,
    /** Name the rung that stays (environment). */
    ROLLBACK_TARGET,
    /** Roll back what this checkout has no file for (environment). */
    ROLL_BACK_ABSENT,
    /** Roll back before (environment). */
    ROLL_BACK_FIRST,
    /** Allow the way down that the journal has (its text). */
    ROLL_BACK_FROM_JOURNAL,
    /** A roll-back goes on with it (environment). */
    ROLL_BACK_GOES_ON,
    /** Roll back and run all of it, or rewrite the rest and accept the file (rung). */
    ROLL_BACK_OR_ACCEPT_FILE,
    /** A right text for a short-hand (operation, example). */
    SHORTHAND_EXAMPLE,
    /** See the drift, or go on in spite of it (environment). */
    SHOW_DRIFT_OR_GO_ON,
    /** See the rungs, and what is not of them (environment). */
    SHOW_RUNGS_AND_DRIFT,
    /** See the ladder (environment). */
    SHOW_STATUS,
    /** See what was done, and run it again (environment). */
    SHOW_STATUS_THEN_RUN_AGAIN,
    /** See which rungs wait (environment). */
    SHOW_WAITING,
    /** See the structure to which a condition speaks (environment). */
    SHOW_WHY_CONDITION_FAILS,
    /** Start the server, or wait for it (environment). */
    START_SERVER_OR_AWAIT,
    /** The environment's time limit ended it: apply again (environment). */
    TIMEOUT_APPLY_AGAIN,
    /** The environment's time limit ended it: roll back again (environment). */
    TIMEOUT_ROLL_BACK_AGAIN,
    /** Wait longer for a lock. */
    WAIT_LONGER,
    /** Write the next rung. */
    WRITE_RUNG,
    /** See the drift, and write the rung by hand (environment). */
    WRITE_RUNG_BY_HAND
  }

  public Advice {
    facts = List.copyOf(facts);
  }

  /** A sentence that names no command; {@link #NONE} if it is empty. */
  public static Advice hint(String text) {
    return text.isEmpty() ? NONE : of(Code.HINT, text);
  }

  public static Advice of(Code code, Object... facts) {
    return new Advice(code, Arrays.stream(facts).map(String::valueOf).toList());
  }

  public boolean isEmpty() {
    return code == Code.NONE;
  }
}
