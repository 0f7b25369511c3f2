package org.wornladder.engine;

import java.sql.SQLException;
import java.util.List;
import org.wornladder.sql.Statement;

/**
 * Runs several steps of a session in one message to the database, which saves a round trip for each
 * statement. Between {@link #start} and {@link #send} the session's begin, execute, insert and
 * commit are collected instead of sent.
 */
public interface Pipeline {
  /**
   * Whether a statement may be part of a message: it needs nothing but its text, and leaves the
   * session's settings as they were.
   */
  boolean accepts(Statement statement);

  /** Starts to collect. */
  void start();

  /** Collects a mark, whose time {@link Timing#marks} says later. */
  void mark();

  /**
   * Sends what was collected, and waits until the database has done all of it.
   *
   * @throws SQLException if a statement failed; nothing after it was done
   */
  Timing send() throws SQLException;

  /**
   * How long a message took.
   *
   * @param nanos from sending it to its answer
   * @param marks at which millisecond of it the database came to each mark
   */
  record Timing(long nanos, List<Long> marks) {
    public Timing {
      marks = List.copyOf(marks);
    }

    /** The milliseconds from a mark to the next. */
    public long millis(int mark) {
      return marks.get(mark + 1) - marks.get(mark);
    }
  }
}
