package org.wornladder.engine;

import java.sql.SQLException;
import java.util.List;
import org.wornladder.sql.Statement;

/** Finds out at a database what statements do to others at work. */
public interface StatementMeter {
  /**
   * What each statement does, run one after the other; nothing of it is left.
   *
   * @return for each statement its time and its effects; fewer if one fails
   */
  List<Measured> measure(List<Statement> statements) throws SQLException;

  /**
   * What one statement did.
   *
   * @param millis how long it took; 0 if it did not run itself
   * @param effects its locks and what it rewrote, each in words; none if others need not wait
   * @param whole the tables of which it reads or writes every row, as the database names them
   */
  record Measured(double millis, List<String> effects, List<String> whole) {
    public Measured {
      effects = List.copyOf(effects);
      whole = List.copyOf(whole);
    }
  }
}
