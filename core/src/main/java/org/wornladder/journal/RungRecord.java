package org.wornladder.journal;

import java.util.Collections;
import java.util.SortedSet;
import java.util.TreeSet;
import org.wornladder.project.Direction;
import org.wornladder.project.Script;
import org.wornladder.sql.Dialect;

/**
 * What the journal says of one rung.
 *
 * @param last the entry that made the state
 * @param run the entry of the last run of its way up; {@code last} where none is known
 * @param up the way up that is in place, or was last tried
 */
public record RungRecord(
    long number, State state, Entry last, Entry run, Way up, Progress progress) {
  /** What state a rung is in, in one database. */
  public enum State {
    IN_PLACE,
    PASSED_OVER,
    ROLLED_BACK,
    FAILED,
    STUCK
  }

  /**
   * How far a way came that runs outside a transaction.
   *
   * @param up which way
   * @param done the numbers of the statements that are done
   * @param doubtful the statement of which nobody knows; 0 if there is none
   * @param failed the statement that failed and left nothing; 0 if there is none
   */
  public record Progress(boolean up, SortedSet<Integer> done, int doubtful, int failed) {
    static final Progress NONE = started(true);

    public Progress {
      done = Collections.unmodifiableSortedSet(new TreeSet<>(done));
    }

    static Progress started(boolean up) {
      return new Progress(up, new TreeSet<>(), 0, 0);
    }

    Progress withDone(int statement) {
      SortedSet<Integer> more = new TreeSet<>(done);
      more.add(statement);
      return new Progress(up, more, 0, 0);
    }

    Progress withDoubtful(int statement) {
      return new Progress(up, done, statement, 0);
    }

    Progress withFailed(int statement) {
      return new Progress(up, done, 0, statement);
    }

    /** The last statement that is done; 0 if none is. */
    public int reached() {
      return done.isEmpty() ? 0 : done.last();
    }
  }

  /**
   * A way up as it ran.
   *
   * @param text the SHA-256 of its file as it was
   * @param fingerprint the hash of its meaning
   * @param dialect of the engine where it ran, by which the meaning was read
   */
  public record Way(String text, String fingerprint, Dialect dialect) {
    static Way of(EntrySubject subject, Dialect dialect) {
      return new Way(subject.upText(), subject.upFingerprint(), dialect);
    }

    /** Whether a script's way up still means the same there. */
    public boolean isSame(Script script) {
      return text.equals(script.fileHash())
          || fingerprint.equals(script.fingerprint(Direction.UP, dialect));
    }
  }

  /** Whether the rung counts as in place: its way up ran, or it is not for this environment. */
  public boolean isInPlace() {
    return state == State.IN_PLACE || state == State.PASSED_OVER;
  }
}
