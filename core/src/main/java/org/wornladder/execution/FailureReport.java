package org.wornladder.execution;

import java.sql.SQLException;
import java.util.Optional;
import java.util.OptionalInt;
import org.wornladder.Advice;
import org.wornladder.LadderException;
import org.wornladder.StatementFailedException;
import org.wornladder.StatementFailedException.Failure;
import org.wornladder.engine.DatabaseErrors;
import org.wornladder.engine.Fault;
import org.wornladder.engine.Session;
import org.wornladder.project.Direction;
import org.wornladder.sql.Place;
import org.wornladder.sql.Statement;

/** Says what failed, where, what is left of it and what to do next; secrets masked. */
final class FailureReport {
  private final Session session;
  private final Plan plan;

  FailureReport(Session session, Plan plan) {
    this.session = session;
    this.plan = plan;
  }

  Fault fault(SQLException e) {
    return session.fault(e);
  }

  /** The database's words. */
  String words(SQLException e) {
    return plan.secrets().mask(session.fault(e).message());
  }

  /**
   * @param current the statement that ran; empty if it was none of the script's
   * @param left what is left of the step
   * @param stuck whether it goes on behind a statement that is done
   * @param stepsDone how many steps were done before
   */
  LadderException of(
      Step step,
      Optional<Statement> current,
      String left,
      boolean stuck,
      int stepsDone,
      SQLException e) {
    Fault fault = session.fault(e);
    boolean ofTheScript =
        switch (fault.kind()) {
          case CUT, STRANDED -> false;
          default -> true;
        };
    if (!ofTheScript) {
      return DatabaseErrors.translate(session, plan.environment(), "running " + step.label(), e);
    }
    String label = step instanceof Step.OfRung rung ? rung.label() : "standing script";
    String place =
        current
            .map(statement -> place(statement, e).toString())
            .orElseGet(() -> step instanceof Step.OfRung rung ? rung.source() : "standing/");
    Optional<String> text = current.map(statement -> plan.secrets().mask(statement.text()));
    return new StatementFailedException(
        new Failure(
            plan.environment(),
            label,
            place,
            text,
            words(e),
            fault.values().map(plan.secrets()::mask),
            left,
            stepsDone),
        advice(fault, stuck ? label : ""),
        masked(e));
  }

  private Place place(Statement statement, SQLException e) {
    OptionalInt offset = session.offset(statement, e);
    return offset.isPresent()
        ? statement.place().plus(statement.text(), offset.getAsInt())
        : statement.place();
  }

  /**
   * @param stuck the rung's label if it is; empty if not
   */
  private Advice advice(Fault fault, String stuck) {
    boolean up = plan.direction() == Direction.UP;
    String environment = plan.environment();
    return switch (fault.kind()) {
      case FULL -> Advice.hint("make room on the disk, then run it again");
      case BUSY -> Advice.of(Advice.Code.RETRY);
      case TIMEOUT ->
          Advice.of(
              up ? Advice.Code.TIMEOUT_APPLY_AGAIN : Advice.Code.TIMEOUT_ROLL_BACK_AGAIN,
              environment);
      case DENIED ->
          Advice.of(
              up ? Advice.Code.GRANT_THEN_APPLY : Advice.Code.GRANT_THEN_ROLL_BACK, environment);
      default ->
          !up
              ? Advice.of(Advice.Code.CORRECT_WAY_DOWN, environment)
              : stuck.isEmpty()
                  ? Advice.of(Advice.Code.CORRECT_STATEMENT, environment)
                  : Advice.of(Advice.Code.CORRECT_AND_GO_ON, environment, stuck);
    };
  }

  /** The cause as it may be shown: a database repeats what it was given. */
  private SQLException masked(SQLException e) {
    String message = words(e);
    SQLException shown = new SQLException(message, e.getSQLState(), e.getErrorCode());
    shown.setStackTrace(e.getStackTrace());
    for (Throwable second : e.getSuppressed()) {
      shown.addSuppressed(second instanceof SQLException failure ? masked(failure) : second);
    }
    return shown;
  }
}
