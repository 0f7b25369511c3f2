package org.wornladder.cli.view;

import java.util.Optional;
import java.util.Set;
import org.wornladder.Advice;

/** Words advice as commands that work when they are copied. Alternatives are parted by "; or". */
final class AdviceText {
  private AdviceText() {}

  /**
   * One line; empty if there is nothing to say.
   *
   * @param guarded the names of the guarded environments
   */
  static String of(Advice advice, Set<String> guarded) {
    String text = template(advice.code()).formatted(arguments(advice));
    return advice.code() == Advice.Code.HINT ? text : Commands.confirmed(text, guarded);
  }

  /** The same, empty if there is nothing to say. */
  static Optional<String> optional(Advice advice, Set<String> guarded) {
    return advice.isEmpty() ? Optional.empty() : Optional.of(of(advice, guarded));
  }

  private static Object[] arguments(Advice advice) {
    boolean hasPath =
        switch (advice.code()) {
          case NAME_FILE_TO_RENUMBER, RENUMBER_FILE, RESTORE_OR_ACCEPT, RESTORE_REDO_OR_ACCEPT ->
              true;
          default -> false;
        };
    return advice.facts().stream().map(fact -> hasPath ? Commands.word(fact) : fact).toArray();
  }

  private static String template(Advice.Code code) {
    return switch (code) {
      case NONE -> "";
      case HINT -> "%s";
      case APPLY_GOES_ON -> "ladder apply %s  goes on with it";
      case ACCEPT_FILE ->
          "ladder settle %s %s --accept-file --because TEXT goes on with the new text after that"
              + " statement";
      case ADD_YES -> "add --yes if that is meant";
      case ADOPT -> "ladder adopt %s takes what is there under management";
      case ADOPT_INTO_NEW_PROJECT ->
          "adopt into a project without rungs; ladder init DIR makes one";
      case ADOPT_SMALLER_TABLES -> "--rows takes tables of at most %s rows";
      case APPLY_FIRST -> "ladder apply %s first";
      case APPLY_THEN_ROLL_BACK -> "ladder apply %s goes on with it; then it can be taken back";
      case CHECK_FILES -> "ladder check lists what is wrong with the files";
      case CHECK_SELECTION ->
          "see that the url is the right one, and what --only and --except leave";
      case COMPARE_EXAMPLE -> "for example ladder compare env:%s env:live";
      case CONFIRM_CHANGE -> "look at ladder preview %1$s, then add --confirm %1$s";
      case CONFIRM_DATABASE -> "if it is, --confirm %s empties it";
      case CONFIRM_SEED -> "look at ladder seed %1$s --dry-run, then add --confirm %1$s";
      case CORRECT_AND_GO_ON ->
          "correct what stopped it, then ladder apply %1$s; if that was the file, first ladder"
              + " settle %1$s %2$s --accept-file --because TEXT";
      case CORRECT_STATEMENT -> "correct the statement, then ladder apply %s";
      case CORRECT_THEN_SEED -> "correct it, then ladder seed %s";
      case CORRECT_WAY_DOWN -> "correct the way down, then ladder rollback %s";
      case DECIDE_STATEMENT ->
          "look with ladder show %1$s, then ladder settle %1$s %2$s --done --because TEXT;"
              + " or --not-done --because TEXT";
      case KEEP_OR_LET_GO ->
          "ladder apply %1$s --attic on keeps it; or ladder apply %1$s --attic off";
      case LIST_ATTIC -> "ladder attic list %s shows what is kept";
      case LET_GO -> "ladder apply %s --attic off lets it go";
      case LEAVE_FOLD ->
          "ladder rollback %1$s --to 0 --from-journal, then ladder apply %1$s; or get the files from"
              + " %2$s/ or version control back in the place of %3$s, apply them, and fold again";
      case DERIVE_WAY_DOWN ->
          "ladder rollback %1$s --derived --dry-run shows the way down that the structures before"
              + " and after it give; or write a new rung that undoes it, or restore a backup";
      case DRAFT_IN_PARTS -> "draft less at a time, with --only or --except; nothing was written";
      case DRAFT_OR_REFRESH ->
          "ladder draft WORDS writes the rung; or ladder draft --refresh-files brings schema/ up to"
              + " date";
      case DRAFT_RUNG_OF_ITS_OWN -> "ladder draft WORDS writes a rung of its own";
      case WRITE_SCHEMA_FILES ->
          "ladder draft --refresh-files writes schema/ as the ladder builds it; then edit it";
      case FILE_OR_DATABASE ->
          "write into %2$s what the database has, and ladder apply %1$s; or ladder drift %1$s --mend"
              + " mend.sql writes what brings the database back";
      case FIND_JOURNAL_WRITER ->
          "find out who wrote to the tables (ladder history %1$s shows the entries); then ladder"
              + " settle %1$s --accept-journal --because TEXT";
      case GRANT_THEN_APPLY -> "grant the right to the database's user, then ladder apply %s";
      case GRANT_THEN_ROLL_BACK ->
          "grant the right to the database's user, then ladder rollback %s";
      case INIT_OR_NAME_PROJECT -> "ladder init makes one here; --project DIR names another folder";
      case INIT_WRITES_IT -> "ladder init writes a new one";
      case LEAVE_OBJECTS_OUT -> "leave objects out with --except; nothing was written";
      case LIST_RUNGS -> "ladder status lists them";
      case LIST_TABLES -> "ladder show %s lists them";
      case SHOW_FIELDS -> "ladder show %s --fields %s infers their fields";
      case NAME_FILE_TO_RENUMBER -> "name the one to move: ladder renumber %s";
      case NOT_TOGETHER -> "apply without --together";
      case NOT_TOGETHER_OR_UP_TO -> "apply without --together, or with --to the rung before it";
      case PREVIEW -> "ladder preview %s says what can be done";
      case REACH_OR_CONFIRM -> "make it reachable, or say that it does not have it: --confirm %s";
      case RENUMBER_FILE -> "ladder renumber %s moves that one to the end";
      case RENUMBER_OR_ALLOW -> "ladder renumber %s, or write late: allow in ladder.yaml";
      case RENUMBER_OR_ALLOW_LATE ->
          "ladder renumber %s gives the file a number above %s; or write late: allow under %s in"
              + " ladder.yaml";
      case RESTORE_FILE_OR_ROLL_BACK -> "get the file back, or ladder rollback %s --absent";
      case RESTORE_FILE_OR_TAKE_DOWN ->
          "put the file back, then ladder apply %1$s; or take down what is there, by the way down"
              + " that the journal keeps: ladder rollback %1$s --absent";
      case RESTORE_FILE_THEN_APPLY -> "put the file back, then ladder apply %s";
      case RESTORE_OR_ACCEPT ->
          "put the old text back (git checkout -- %1$s) and write the change as a new rung; or take"
              + " the edit as it is: ladder settle %2$s %3$s --accept-file --because TEXT";
      case RESTORE_REDO_OR_ACCEPT ->
          "put the old text back (git checkout -- %1$s) and write the change as a new rung; or run"
              + " it anew: ladder rollback %2$s --to %4$s --from-journal, then ladder apply %2$s; or"
              + " take the edit as it is: ladder settle %2$s %3$s --accept-file --because TEXT";
      case RETRY -> "another session holds a lock that it needs: run it again, or with --retries N";
      case ROLLBACK_TARGET ->
          "--to names the rung that stays; 0 takes all back. See ladder status %s";
      case ROLL_BACK_ABSENT -> "ladder rollback %s --absent takes back what has no file";
      case ROLL_BACK_FIRST -> "ladder rollback %s first, or write a new rung that undoes it";
      case ROLL_BACK_FROM_JOURNAL -> "the journal has: %s - run it with --from-journal";
      case ROLL_BACK_GOES_ON -> "ladder rollback %s  goes on with it";
      case ROLL_BACK_OR_ACCEPT_FILE ->
          "ladder rollback takes back what is done of it, and apply then runs all of it; or write"
              + " the rest of the file without it, then ladder settle %s --accept-file";
      case SHORTHAND_EXAMPLE -> "for example: --%s \"%s\"";
      case SHOW_DRIFT_OR_GO_ON ->
          "ladder drift %1$s shows all; ladder apply %1$s --despite-drift REASON goes on, on the"
              + " record";
      case SHOW_RUNGS_AND_DRIFT ->
          "ladder status %1$s shows its rungs; ladder drift %1$s what is not of them";
      case SHOW_STATUS -> "see ladder status %s";
      case SHOW_STATUS_THEN_RUN_AGAIN ->
          "ladder status %s says what was done; run it again to go on";
      case SHOW_WAITING -> "ladder status %s says which rungs wait";
      case SHOW_WHY_CONDITION_FAILS ->
          "see why with ladder show %s; --| otherwise: pass would pass it over";
      case START_SERVER_OR_AWAIT ->
          "see that it runs and that the url of %s is right; --await SECONDS waits for one that is"
              + " starting";
      case TIMEOUT_APPLY_AGAIN ->
          "it took longer than statement-timeout allows: ladder apply %s tries it again";
      case TIMEOUT_ROLL_BACK_AGAIN ->
          "it took longer than statement-timeout allows: ladder rollback %s tries it again";
      case WAIT_LONGER -> "wait for it, or give it longer with --lock-wait SECONDS";
      case WRITE_RUNG -> "ladder new WORDS writes its next rung";
      case WRITE_RUNG_BY_HAND -> "ladder drift %s shows them; write the rung by hand";
    };
  }
}
