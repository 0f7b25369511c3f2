package org.wornladder.climb;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.wornladder.climb.Outcome.Done;
import org.wornladder.climb.Outcome.Result;
import org.wornladder.climb.StatementFailedException.Failure;
import org.wornladder.climb.Step.StandingAction;
import org.wornladder.engine.DatabaseErrors;
import org.wornladder.engine.Fault;
import org.wornladder.engine.Session;
import org.wornladder.fault.LadderException;
import org.wornladder.journal.Event;
import org.wornladder.journal.Journal;
import org.wornladder.journal.Note;
import org.wornladder.journal.Subject;
import org.wornladder.project.Condition;
import org.wornladder.project.Direction;
import org.wornladder.sql.Statement;

/**
 * Runs a plan, step by step. A step and its entry commit together, unless it asks to run outside a
 * transaction; then an entry stands before and after each of its statements.
 */
public final class Runner {
  private final Session session;
  private final Journal journal;
  private final Plan plan;
  private final Listener listener;
  private final List<Done> done = new ArrayList<>();

  /** The statement that is running, for the message if it fails. */
  private Optional<Statement> current = Optional.empty();

  public Runner(Session session, Journal journal, Plan plan, Listener listener) {
    this.session = session;
    this.journal = journal;
    this.plan = plan;
    this.listener = listener;
  }

  /**
   * Runs the steps until all are done, one fails, or the listener wants to stop.
   *
   * @return the steps done, in order
   * @throws StatementFailedException if the database refuses a statement
   * @throws RefusedException if a condition that must hold does not
   */
  public List<Done> run() {
    listener.started(plan);
    if (plan.together()) {
      runTogether();
    } else {
      for (int i = 0; i < plan.steps().size() && !listener.wantsStop(); i++) {
        Step step = plan.steps().get(i);
        listener.stepStarted(step, i + 1);
        Done result = isOutside(step) ? outside((Step.OfRung) step) : inTransaction(step);
        done.add(result);
        listener.stepDone(result, i + 1);
      }
    }
    return List.copyOf(done);
  }

  private static boolean isOutside(Step step) {
    return step instanceof Step.OfRung rung
        && rung.outsideTransaction()
        && !(rung.decision() instanceof Decision.PassOver);
  }

  private interface Work {
    Done run() throws SQLException;
  }

  private void runTogether() {
    List<Done> results = new ArrayList<>();
    Step[] running = new Step[1];
    atomically(
        () -> {
          for (int i = 0; i < plan.steps().size(); i++) {
            running[0] = plan.steps().get(i);
            listener.stepStarted(running[0], i + 1);
            results.add(perform(running[0]));
            listener.stepDone(results.get(i), i + 1);
          }
          return new Done(new Step.OfStanding(List.of()), Result.APPLIED, "", 0);
        },
        () -> running[0]);
    done.addAll(results);
  }

  private Done inTransaction(Step step) {
    return atomically(() -> perform(step), () -> step);
  }

  private interface Running {
    Step step();
  }

  /**
   * Runs work in one transaction: all of it is there afterwards, or nothing and an entry that says
   * so.
   */
  private Done atomically(Work work, Running running) {
    Journal.Mark mark = journal.mark();
    try {
      session.begin();
    } catch (SQLException e) {
      throw DatabaseErrors.translate(session, plan.environment(), "beginning a transaction", e);
    }
    try {
      Done result = work.run();
      current = Optional.empty();
      session.commit();
      return result;
    } catch (SQLException e) {
      undo(mark, e);
      throw failed(running.step(), e);
    } catch (RuntimeException e) {
      undo(mark, e);
      throw e;
    }
  }

  private void undo(Journal.Mark mark, Exception cause) {
    journal.forgetUncommitted(mark);
    try {
      session.rollback();
    } catch (SQLException e) {
      cause.addSuppressed(e);
    }
  }

  private Done perform(Step step) throws SQLException {
    return step instanceof Step.OfRung rung ? rung(rung) : standing((Step.OfStanding) step);
  }

  private Done rung(Step.OfRung rung) throws SQLException {
    long start = System.nanoTime();
    Optional<String> reason = reasonToPass(rung);
    if (reason.isPresent()) {
      Event event = rung.direction() == Direction.UP ? Event.PASSED_OVER : Event.ROLLED_BACK;
      journal.append(event, rung.subject(), Note.of(reason.get()));
      return new Done(rung, Result.PASSED_OVER, reason.get(), 0);
    }
    for (StandingAction action : rung.liftedBefore()) {
      standing(rung, action);
    }
    for (Statement statement : rung.statements()) {
      execute(rung, statement);
    }
    long elapsed = (System.nanoTime() - start) / 1_000_000;
    boolean up = rung.direction() == Direction.UP;
    journal.append(up ? Event.APPLIED : Event.ROLLED_BACK, rung.subject(), Note.elapsed(elapsed));
    // After the rung's entry: a roll-back takes down what stands behind it in the journal.
    for (StandingAction action : rung.putBackAfter()) {
      standing(rung, action);
    }
    return new Done(rung, up ? Result.APPLIED : Result.ROLLED_BACK, "", elapsed);
  }

  /** Why a rung is passed over; empty if it runs. */
  private Optional<String> reasonToPass(Step.OfRung rung) throws SQLException {
    if (rung.decision() instanceof Decision.PassOver pass) {
      return Optional.of(pass.reason());
    }
    if (rung.decision() instanceof Decision.AtItsTurn turn) {
      for (Condition condition : turn.conditions()) {
        if (!holds(condition)) {
          String reason = "its condition does not hold: " + condition.text();
          if (turn.passes()) {
            return Optional.of(reason);
          }
          throw RefusedException.of(
              rung.label() + " stops the run: " + reason,
              rung.source(),
              "see why with ladder show "
                  + plan.environment()
                  + "; --| otherwise: pass would pass it over");
        }
      }
    }
    return Optional.empty();
  }

  private boolean holds(Condition condition) throws SQLException {
    if (condition instanceof Condition.Presence presence) {
      return session.exists(presence) == presence.present();
    }
    return session.holds(((Condition.Query) condition).sql());
  }

  private Done standing(Step.OfStanding step) throws SQLException {
    long start = System.nanoTime();
    for (StandingAction action : step.actions()) {
      standing(step, action);
    }
    boolean any = step.actions().stream().anyMatch(action -> action.direction() == Direction.UP);
    Result result = any ? Result.STANDING_RUN : Result.STANDING_TAKEN_DOWN;
    return new Done(step, result, "", (System.nanoTime() - start) / 1_000_000);
  }

  private void standing(Step step, StandingAction action) throws SQLException {
    long start = System.nanoTime();
    for (Statement statement : action.statements()) {
      execute(step, statement);
    }
    // Taking down for a moment is no entry, unless nothing is put back in its place.
    boolean putBack = step instanceof Step.OfRung rung && isPutBack(rung, action.name());
    boolean lifted = step instanceof Step.OfRung && action.direction() == Direction.DOWN;
    if (action.recorded() || (lifted && !putBack)) {
      Event event =
          action.direction() == Direction.UP ? Event.STANDING_RUN : Event.STANDING_REMOVED;
      long elapsed = (System.nanoTime() - start) / 1_000_000;
      journal.append(event, action.subject(), new Note(0, elapsed, action.reason()));
    }
  }

  private static boolean isPutBack(Step.OfRung rung, String name) {
    return rung.putBackAfter().stream().anyMatch(action -> action.name().equals(name));
  }

  private void execute(Step step, Statement statement) throws SQLException {
    current = Optional.of(statement);
    listener.statementStarted(step, statement);
    session.execute(statement);
  }

  /** Journals a failure, which left nothing, and says so. */
  private StatementFailedException failed(Step step, SQLException e) {
    String words = words(e);
    try {
      session.begin();
      journal.append(failedEvent(step), subjectOf(step), Note.of(words));
      session.commit();
    } catch (SQLException second) {
      e.addSuppressed(second);
      undo(journal.mark(), e);
    }
    return exception(step, words, leftAfterUndo(), e);
  }

  private String leftAfterUndo() {
    if (plan.together() || done.isEmpty()) {
      return plan.together() ? "nothing of this run" : "nothing of it";
    }
    boolean one = done.size() == 1;
    String before = one ? "the step before it is" : "the " + done.size() + " steps before it are";
    return "nothing of it; " + before + (plan.direction() == Direction.UP ? " in place" : " done");
  }

  private static String count(int number, String word) {
    return number == 1 ? "1 " + word : number + " " + word + "s";
  }

  private StatementFailedException exception(
      Step step, String words, String left, SQLException cause) {
    String label = step instanceof Step.OfRung rung ? rung.label() : "standing script";
    String place =
        current
            .map(statement -> statement.place().toString())
            .orElseGet(() -> step instanceof Step.OfRung rung ? rung.source() : "standing/");
    Optional<String> text = current.map(statement -> plan.secrets().mask(statement.text()));
    boolean up = plan.direction() == Direction.UP;
    String next =
        up
            ? "mend the statement, then ladder apply " + plan.environment()
            : "mend the way down, then ladder rollback " + plan.environment();
    Fault fault = session.fault(cause);
    String advice =
        switch (fault.kind()) {
          case FULL -> "make room on the disk, then run it again";
          case BUSY -> "another program holds the database: wait for it, then run it again";
          default -> next;
        };
    return new StatementFailedException(
        new Failure(plan.environment(), label, place, text, words, left, done.size()),
        advice,
        masked(cause));
  }

  /** The cause as it may be shown: a database repeats what it was given. */
  private SQLException masked(SQLException e) {
    String message = plan.secrets().mask(String.valueOf(e.getMessage()));
    SQLException shown = new SQLException(message, e.getSQLState(), e.getErrorCode());
    shown.setStackTrace(e.getStackTrace());
    for (Throwable second : e.getSuppressed()) {
      shown.addSuppressed(second instanceof SQLException failure ? masked(failure) : second);
    }
    return shown;
  }

  private String words(SQLException e) {
    return plan.secrets().mask(session.fault(e).words());
  }

  private Event failedEvent(Step step) {
    if (step instanceof Step.OfStanding) {
      return Event.STANDING_FAILED;
    }
    return plan.direction() == Direction.UP ? Event.FAILED : Event.ROLLBACK_FAILED;
  }

  private static Subject subjectOf(Step step) {
    return step instanceof Step.OfRung rung
        ? rung.subject()
        : Subject.standing(step.about(), "", "", "");
  }

  /** A way that runs outside a transaction: an entry before and after each statement. */
  private Done outside(Step.OfRung rung) {
    long start = System.nanoTime();
    boolean up = rung.direction() == Direction.UP;
    try {
      if (rung.done() == 0) {
        Optional<String> reason = reasonToPass(rung);
        if (reason.isPresent()) {
          return inTransaction(passedOver(rung, reason.get()));
        }
        entry(rung, up ? Event.UP_STARTED : Event.DOWN_STARTED, Note.NONE);
      }
      for (int i = rung.done(); i < rung.statements().size(); i++) {
        statementOutside(rung, i + 1);
      }
      session.reset();
      long elapsed = (System.nanoTime() - start) / 1_000_000;
      entry(rung, up ? Event.APPLIED : Event.ROLLED_BACK, Note.elapsed(elapsed));
      return new Done(rung, up ? Result.APPLIED : Result.ROLLED_BACK, "", elapsed);
    } catch (SQLException e) {
      throw DatabaseErrors.translate(session, plan.environment(), "running " + rung.label(), e);
    }
  }

  private static Step.OfRung passedOver(Step.OfRung rung, String reason) {
    return new Step.OfRung(
        rung.direction(),
        rung.number(),
        rung.label(),
        rung.about(),
        rung.subject(),
        rung.source(),
        false,
        List.of(),
        0,
        new Decision.PassOver(reason),
        List.of(),
        List.of(),
        rung.oneWay());
  }

  private void statementOutside(Step.OfRung rung, int number) throws SQLException {
    Statement statement = rung.statements().get(number - 1);
    entry(rung, Event.STATEMENT_STARTED, new Note(number, 0, ""));
    long start = System.nanoTime();
    try {
      execute(rung, statement);
    } catch (SQLException e) {
      String words = words(e);
      entryAfterFailure(rung, new Note(number, 0, words), e);
      String left =
          number == 1
              ? "no statement of it was done"
              : count(number - 1, "statement")
                  + " of it "
                  + (number == 2 ? "is" : "are")
                  + " done; it is stuck until it is gone on with";
      throw exception(rung, words, left, e);
    }
    long elapsed = (System.nanoTime() - start) / 1_000_000;
    entry(rung, Event.STATEMENT_DONE, new Note(number, elapsed, ""));
  }

  private void entryAfterFailure(Step.OfRung rung, Note note, SQLException cause) {
    try {
      session.reset();
      entry(rung, Event.STATEMENT_FAILED, note);
    } catch (SQLException | LadderException e) {
      cause.addSuppressed(e);
    }
  }

  private void entry(Step.OfRung rung, Event event, Note note) throws SQLException {
    Journal.Mark mark = journal.mark();
    session.begin();
    try {
      journal.append(event, rung.subject(), note);
      session.commit();
    } catch (SQLException e) {
      undo(mark, e);
      throw e;
    }
  }
}
