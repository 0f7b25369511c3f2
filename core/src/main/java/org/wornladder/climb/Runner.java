package org.wornladder.climb;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.wornladder.climb.Outcome.Done;
import org.wornladder.climb.Outcome.Result;
import org.wornladder.climb.Step.StandingAction;
import org.wornladder.engine.Ability;
import org.wornladder.engine.DatabaseErrors;
import org.wornladder.engine.Engine;
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
 * Runs a plan, step by step. A step and its entry commit together, unless it runs statement by
 * statement; then {@link StatementWise} does it.
 */
public final class Runner {
  /** The note on a way down that began on a rung which had come up half way. */
  static final String HALF_WAY = "it had come up half way";

  private final Engine engine;
  private final Session session;
  private final Journal journal;
  private final Plan plan;
  private final Listener listener;
  private final Failures failures;
  private final Patience patience;
  private final Entries entries;
  private final List<Done> done = new ArrayList<>();

  /**
   * @param retries how often a step is tried again that could not get what somebody else held
   */
  public Runner(
      Engine engine, Session session, Journal journal, Plan plan, Listener listener, int retries) {
    this.engine = engine;
    failures = new Failures(session, plan);
    patience = new Patience(retries, listener);
    entries = new Entries(session, journal);
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
    if (!plan.isEmpty() && !undoesStructure()) {
      createJournal();
    }
    if (plan.together()) {
      runTogether();
    } else {
      for (int i = 0; i < plan.steps().size() && !listener.wantsStop(); i++) {
        Step step = plan.steps().get(i);
        listener.stepStarted(step, i + 1);
        Done result = run(step);
        done.add(result);
        listener.stepDone(result, i + 1);
      }
    }
    return List.copyOf(done);
  }

  private boolean undoesStructure() {
    return engine.abilities().contains(Ability.TRANSACTIONAL_DDL);
  }

  /** Where making a table ends a transaction, the journal must be there before the first entry. */
  private void createJournal() {
    try {
      journal.create();
    } catch (SQLException e) {
      throw DatabaseErrors.translate(session, plan.environment(), "making the journal", e);
    }
  }

  private Done run(Step step) {
    if (step instanceof Step.OfStanding standing && !undoesStructure()) {
      return standingWise(standing);
    }
    return isStatementWise(step) ? statementWise((Step.OfRung) step) : inTransaction(step);
  }

  private Done standingWise(Step.OfStanding step) {
    long start = System.nanoTime();
    StandingWise run =
        new StandingWise(
            engine, session, entries, statement -> listener.statementStarted(step, statement));
    try {
      for (StandingAction action : step.actions()) {
        session.reset();
        run.run(action, action.recorded());
      }
      return done(step).since(start);
    } catch (SQLException e) {
      throw failed(step, e);
    }
  }

  private static boolean isStatementWise(Step step) {
    return step instanceof Step.OfRung rung
        && rung.statementWise()
        && !(rung.decision() instanceof Decision.PassOver);
  }

  private Done statementWise(Step.OfRung rung) {
    StatementWise run = new StatementWise(engine, session, entries, listener, failures, patience);
    try {
      session.reset();
      if (rung.done() == 0 && rung.doubt().isEmpty()) {
        Optional<String> reason = reasonToPass(rung);
        if (reason.isPresent()) {
          return inTransaction(rung.passedOver(reason.get()));
        }
      }
      return run.run(rung, done.size());
    } catch (SQLException e) {
      throw DatabaseErrors.translate(session, plan.environment(), "running " + rung.label(), e);
    }
  }

  private interface Work {
    Done run() throws SQLException;
  }

  private void runTogether() {
    List<Done> results = new ArrayList<>();
    Step[] running = new Step[1];
    atomically(
        () -> {
          results.clear();
          for (int i = 0; i < plan.steps().size(); i++) {
            running[0] = plan.steps().get(i);
            listener.stepStarted(running[0], i + 1);
            results.add(measured(running[0]));
            listener.stepDone(results.get(i), i + 1);
          }
          return new Done(new Step.OfStanding(List.of()), Result.APPLIED, "", 0);
        },
        () -> running[0]);
    done.addAll(results);
  }

  /** A step as a part of a run; it has reached the database when this returns. */
  private Done measured(Step step) throws SQLException {
    long start = System.nanoTime();
    Done result = perform(step);
    session.flush();
    return result.since(start);
  }

  private Done inTransaction(Step step) {
    long start = System.nanoTime();
    return atomically(() -> perform(step), () -> step).since(start);
  }

  private interface Running {
    Step step();
  }

  /**
   * Runs work in one transaction: all of it is there afterwards, or nothing and an entry that says
   * so.
   */
  private Done atomically(Work work, Running running) {
    for (int attempt = 1; ; attempt++) {
      Journal.Mark mark = journal.mark();
      try {
        session.reset();
        session.begin();
        Done result = work.run();
        session.commit();
        return result;
      } catch (SQLException e) {
        entries.undo(mark, e);
        if (!patience.again(failures.fault(e), running.step(), attempt)) {
          throw failed(running.step(), e);
        }
      } catch (RuntimeException e) {
        entries.undo(mark, e);
        throw e;
      }
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
    return new Done(rung, up ? Result.APPLIED : Result.ROLLED_BACK, "", 0);
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
    for (StandingAction action : step.actions()) {
      standing(step, action);
    }
    return done(step);
  }

  private static Done done(Step.OfStanding step) {
    boolean any = step.actions().stream().anyMatch(action -> action.direction() == Direction.UP);
    Result result = any ? Result.STANDING_RUN : Result.STANDING_TAKEN_DOWN;
    return new Done(step, result, "", 0);
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
    listener.statementStarted(step, statement);
    session.execute(statement);
  }

  /** Journals a failure, which left nothing, and says so. */
  private LadderException failed(Step step, SQLException e) {
    Optional<Statement> unfinished = session.unfinished();
    boolean gone =
        switch (failures.fault(e).kind()) {
          case CUT, STRANDED -> true;
          default -> false;
        };
    if (!gone) {
      try {
        session.reset();
        entries.write(failedEvent(step), subjectOf(step), Note.of(failures.words(e)));
      } catch (SQLException second) {
        e.addSuppressed(second);
      }
    }
    return failures.of(step, unfinished, leftAfterUndo(), done.size(), e);
  }

  private String leftAfterUndo() {
    if (plan.together() || done.isEmpty()) {
      return plan.together() ? "nothing of this run" : "nothing of it";
    }
    boolean one = done.size() == 1;
    String before = one ? "the step before it is" : "the " + done.size() + " steps before it are";
    return "nothing of it; " + before + (plan.direction() == Direction.UP ? " in place" : " done");
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
}
