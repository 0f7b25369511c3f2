package org.wornladder.execution;

import java.sql.SQLException;
import java.util.Optional;
import java.util.function.Consumer;
import org.wornladder.engine.Engine;
import org.wornladder.engine.Session;
import org.wornladder.engine.StatementTarget;
import org.wornladder.engine.StatementTargets;
import org.wornladder.execution.Step.StandingAction;
import org.wornladder.journal.EntryDetails;
import org.wornladder.journal.Event;
import org.wornladder.project.Direction;
import org.wornladder.sql.Statement;

/**
 * Runs a standing script where the engine cannot undo it. An entry ahead says that it begins; if no
 * other one follows, the next run takes down what is there of it and runs it again.
 */
final class NonTransactionalStandingRunner {
  private final Engine engine;
  private final Session session;
  private final EntryWriter entries;
  private final Consumer<Statement> onStatement;

  /**
   * @param onStatement receives each statement before it runs
   */
  NonTransactionalStandingRunner(
      Engine engine, Session session, EntryWriter entries, Consumer<Statement> onStatement) {
    this.engine = engine;
    this.session = session;
    this.entries = entries;
    this.onStatement = onStatement;
  }

  /**
   * @param recorded whether an entry says that it is done; otherwise another run of it follows
   */
  void run(StandingAction action, boolean recorded) throws SQLException {
    boolean down = action.direction() == Direction.DOWN;
    long start = System.nanoTime();
    entries.write(Event.STANDING_STARTED, action.subject(), EntryDetails.of(action.reason()));
    for (Statement statement : action.statements()) {
      if (!down || !isMissing(statement)) {
        onStatement.accept(statement);
        session.execute(statement);
      }
    }
    if (recorded) {
      long elapsed = (System.nanoTime() - start) / 1_000_000;
      entries.write(
          down ? Event.STANDING_REMOVED : Event.STANDING_RUN,
          action.subject(),
          new EntryDetails(0, elapsed, action.reason()));
    }
  }

  private boolean isMissing(Statement statement) throws SQLException {
    Optional<StatementTarget> object = StatementTargets.of(statement);
    return object.isPresent()
        && session.state(object.get()).filter(StatementTarget.MISSING::equals).isPresent();
  }
}
