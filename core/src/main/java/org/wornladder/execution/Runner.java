package org.wornladder.execution;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.wornladder.Advice;
import org.wornladder.LadderException;
import org.wornladder.RefusedException;
import org.wornladder.RunListener;
import org.wornladder.RunResult.Done;
import org.wornladder.RunResult.Result;
import org.wornladder.StatementFailedException;
import org.wornladder.engine.Ability;
import org.wornladder.engine.DatabaseErrors;
import org.wornladder.engine.Engine;
import org.wornladder.engine.Session;
import org.wornladder.execution.Step.StandingAction;
import org.wornladder.journal.EntryDetails;
import org.wornladder.journal.EntrySubject;
import org.wornladder.journal.Event;
import org.wornladder.journal.Journal;
import org.wornladder.project.Condition;
import org.wornladder.project.Direction;
import org.wornladder.sql.Statement;

/**
 * Runs a plan, step by step. A step and its entry commit together, unless it runs statement by
 * statement; then {@link NonTransactionalRunner} does it.
 */
public final class Runner {
  /** The note on a way down that began on a rung which had come up half way. */
  static final String HALF_WAY = "it had come up half way";

  private final EnvironmentContext context;
  private final Engine engine;
  private final Session session;
  private final Journal journal;
  private final Plan plan;
  private final RunListener listener;
  private final FailureReport failures;
  private final RetryPolicy retryPolicy;
  private final EntryWriter entries;
  private final AroundRung around;
  private final Optional<StatementBatcher> batcher;
  private final List<Done> done = new ArrayList<>();
  private boolean stopped;

  /**
   * @param retries how often a step is tried again that could not get what somebody else held
   * @param batched whether steps may reach the database several at a time, if the engine can do
   *     that; not where a person must see which one runs just now
   * @param around what is done beside each rung
   */
  public Runner(
      EnvironmentContext context,
      Plan plan,
      RunListener listener,
      int retries,
      boolean batched,
      AroundRung around) {
    this.around = around;
    this.context = context;
    engine = context.engine();
    session = context.session();
    journal = context.journal();
    failures = new FailureReport(session, plan);
    retryPolicy = new RetryPolicy(retries, listener);
    entries = new EntryWriter(session, journal);
    batcher =
        batched
            ? session
                .pipeline()
                .map(pipeline -> new StatementBatcher(session, pipeline, journal, listener))
            : Optional.empty();
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
    return run(() -> {});
  }

  /**
   * The same.
   *
   * @param beforeCommit called in a run of all or nothing when all is done and not committed yet
   */
  public List<Done> run(Runnable beforeCommit) {
    listener.started(plan);
    if (!plan.isEmpty()) {
      createJournal();
    }
    if (plan.together()) {
      runTogether(beforeCommit);
    } else {
      while (done.size() < plan.steps().size() && !stopped && !listener.wantsStop()) {
        List<Step> batchable = batchable(done.size());
        if (batchable.size() > 1) {
          runBatched(batchable);
        } else {
          runNext(1);
        }
      }
    }
    return List.copyOf(done);
  }

  /** The steps from one on that may be run in batches. */
  private List<Step> batchable(int from) {
    int reach = batcher.isPresent() ? batcher.get().reach(plan.steps(), from) : 0;
    return plan.steps().subList(from, from + reach);
  }

  private void runNext(int attempt) {
    int index = done.size();
    Step step = plan.steps().get(index);
    if (isBatched(step)) {
      runBatches((Step.OfRung) step);
      return;
    }
    listener.stepStarted(step, index + 1);
    Done result = run(step, attempt);
    done.add(result);
    listener.stepDone(result, index + 1);
  }

  private void runBatched(List<Step> steps) {
    Optional<StatementBatcher.Stop> stop;
    try {
      session.reset();
      stop = batcher.orElseThrow().runInOwnTransactions(steps, result -> report(result, done));
    } catch (SQLException e) {
      throw DatabaseErrors.translate(session, plan.environment(), "running rungs", e);
    }
    if (stop.isPresent()) {
      Step step = steps.get(stop.get().done());
      SQLException cause = stop.get().cause();
      if (!retryPolicy.again(failures.fault(cause), step, 1)) {
        throw failed(step, Optional.of(step.statements().get(0)), cause);
      }
      runNext(2);
    }
  }

  private void report(Done result, List<Done> results) {
    results.add(result);
    listener.stepStarted(result.step(), results.size());
    listener.stepDone(result, results.size());
  }

  private boolean undoesStructure() {
    return engine.abilities().contains(Ability.TRANSACTIONAL_DDL);
  }

  /**
   * The journal is there before the first rung: making a table ends a transaction in some engines,
   * and a rung that makes it cannot travel with others.
   */
  private void createJournal() {
    try {
      journal.create();
    } catch (SQLException e) {
      throw DatabaseErrors.translate(session, plan.environment(), "making the journal", e);
    }
  }

  /** Runs a statement in batches; stops the run if it was stopped. */
  private void runBatches(Step.OfRung rung) {
    int index = done.size();
    listener.stepStarted(rung, index + 1);
    BatchRunner batches =
        new BatchRunner(
            engine, session, entries, listener, failures, retryPolicy, context.snapshots());
    try {
      session.reset();
      Optional<Done> result =
          batches.run(rung, rung.batching().orElseThrow(), context.structure(), index);
      stopped = result.isEmpty();
      result.ifPresent(
          one -> {
            done.add(one);
            listener.stepDone(one, index + 1);
          });
    } catch (SQLException e) {
      throw DatabaseErrors.translate(session, plan.environment(), "running " + rung.label(), e);
    }
  }

  private static boolean isBatched(Step step) {
    return step instanceof Step.OfRung rung
        && rung.batching().isPresent()
        && rung.decision() instanceof Decision.Run;
  }

  private Done run(Step step, int attempt) {
    if (step instanceof Step.OfStanding standing && !undoesStructure()) {
      return standingWise(standing);
    }
    return isStatementWise(step) ? statementWise((Step.OfRung) step) : inTransaction(step, attempt);
  }

  private Done standingWise(Step.OfStanding step) {
    Journal.Mark before = journal.mark();
    NonTransactionalStandingRunner run =
        new NonTransactionalStandingRunner(
            engine, session, entries, statement -> listener.statementStarted(step, statement));
    try {
      for (StandingAction action : step.actions()) {
        session.reset();
        run.run(action, action.recorded());
      }
      return done(step).took(elapsedSince(before));
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
    NonTransactionalRunner run =
        new NonTransactionalRunner(
            engine, session, entries, listener, failures, retryPolicy, plan.secrets(), around);
    try {
      session.reset();
      if (rung.done().isEmpty() && rung.doubt().isEmpty()) {
        Optional<String> reason = reasonToPass(rung);
        if (reason.isPresent()) {
          return inTransaction(rung.passedOver(reason.get()), 1);
        }
      }
      return run.run(rung, done.size());
    } catch (SQLException e) {
      throw DatabaseErrors.translate(session, plan.environment(), "running " + rung.label(), e);
    }
  }

  /** What is done in one transaction. */
  private interface Work {
    void run() throws SQLException;

    /** The step that runs, or failed. */
    Step step();

    /** All statements that may run in it. */
    List<Statement> statements();

    /** Whether what failed is to be tried once more, in smaller pieces, to see which one it is. */
    default boolean isTriedInSmallerPieces() {
      return false;
    }
  }

  private void runTogether(Runnable beforeCommit) {
    Together together = new Together(beforeCommit);
    atomically(together, 1);
    done.addAll(together.results);
  }

  /** All steps of the plan, in the transaction that is open. */
  private final class Together implements Work {
    private final List<Done> results = new ArrayList<>();
    private boolean inBatches = batcher.isPresent();
    private boolean batchRuns;
    private final Runnable beforeCommit;

    private Together(Runnable beforeCommit) {
      this.beforeCommit = beforeCommit;
    }

    @Override
    public void run() throws SQLException {
      results.clear();
      while (results.size() < plan.steps().size()) {
        session.reset();
        List<Step> batchable = inBatches ? batchable(results.size()) : List.of();
        if (batchable.size() > 1) {
          batchRuns = true;
          batcher.orElseThrow().runInOpenTransaction(batchable, result -> report(result, results));
          batchRuns = false;
        } else {
          Step step = step();
          listener.stepStarted(step, results.size() + 1);
          results.add(measured(step));
          listener.stepDone(results.get(results.size() - 1), results.size());
        }
      }
      beforeCommit.run();
    }

    @Override
    public Step step() {
      return plan.steps().get(Math.min(results.size(), plan.steps().size() - 1));
    }

    @Override
    public List<Statement> statements() {
      return plan.steps().stream().flatMap(step -> step.statements().stream()).toList();
    }

    /** Which step of a batch failed shows when they run one by one; nothing of them is left. */
    @Override
    public boolean isTriedInSmallerPieces() {
      boolean again = batchRuns;
      batchRuns = false;
      inBatches &= !again;
      return again;
    }
  }

  /** A step as a part of a run; it has reached the database when this returns. */
  private Done measured(Step step) throws SQLException {
    Journal.Mark before = journal.mark();
    Done result = perform(step);
    session.flush();
    return result.took(elapsedSince(before));
  }

  /**
   * What the journal has for a step: the rung's own entry comes first, before what it puts back.
   */
  private long elapsedSince(Journal.Mark before) throws SQLException {
    return journal.elapsedSince(before).values().stream().mapToLong(Long::longValue).sum();
  }

  private Done inTransaction(Step step, int attempt) {
    Journal.Mark before = journal.mark();
    Alone alone = new Alone(step);
    atomically(alone, attempt);
    try {
      return alone.result.orElseThrow().took(elapsedSince(before));
    } catch (SQLException e) {
      throw DatabaseErrors.translate(session, plan.environment(), "reading the journal", e);
    }
  }

  /** One step in a transaction of its own. */
  private final class Alone implements Work {
    private final Step step;
    private Optional<Done> result = Optional.empty();

    private Alone(Step step) {
      this.step = step;
    }

    @Override
    public void run() throws SQLException {
      result = Optional.of(perform(step));
    }

    @Override
    public Step step() {
      return step;
    }

    @Override
    public List<Statement> statements() {
      return step.statements();
    }
  }

  /**
   * Runs work in one transaction: all of it is there afterwards, or nothing and an entry that says
   * so.
   */
  private void atomically(Work work, int firstAttempt) {
    for (int attempt = firstAttempt; ; attempt++) {
      Journal.Mark mark = journal.mark();
      try {
        session.reset();
        session.begin(work.statements());
        work.run();
        session.commit();
        return;
      } catch (SQLException e) {
        entries.undo(mark, e);
        if (!work.isTriedInSmallerPieces()
            && !retryPolicy.again(failures.fault(e), work.step(), attempt)) {
          throw failed(work.step(), e);
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
      journal.append(event, rung.subject(), EntryDetails.of(reason.get()));
      return new Done(rung, Result.PASSED_OVER, reason.get(), 0);
    }
    for (StandingAction action : rung.liftedBefore()) {
      standing(rung, action);
    }
    around.before(rung);
    for (Statement statement : rung.statements()) {
      execute(rung, statement);
    }
    around.after(rung);
    long elapsed = (System.nanoTime() - start) / 1_000_000;
    journal.append(eventOf(rung), rung.subject(), EntryDetails.elapsed(elapsed));
    // After the rung's entry: a roll-back takes down what comes after it in the journal.
    for (StandingAction action : rung.putBackAfter()) {
      standing(rung, action);
    }
    return new Done(rung, resultOf(rung), "", 0);
  }

  /** What the journal says of a rung that ran. */
  static Event eventOf(Step.OfRung rung) {
    return rung.direction() == Direction.UP ? Event.APPLIED : Event.ROLLED_BACK;
  }

  static Result resultOf(Step.OfRung rung) {
    return rung.direction() == Direction.UP ? Result.APPLIED : Result.ROLLED_BACK;
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
              Advice.of(Advice.Code.SHOW_WHY_CONDITION_FAILS, plan.environment()));
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
    // Taking down for a moment is no entry, unless nothing is restored in its place.
    boolean putBack = step instanceof Step.OfRung rung && isPutBack(rung, action.name());
    boolean lifted = step instanceof Step.OfRung && action.direction() == Direction.DOWN;
    if (action.recorded() || (lifted && !putBack)) {
      Event event =
          action.direction() == Direction.UP ? Event.STANDING_RUN : Event.STANDING_REMOVED;
      long elapsed = (System.nanoTime() - start) / 1_000_000;
      journal.append(event, action.subject(), new EntryDetails(0, elapsed, action.reason()));
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
    return failed(step, session.unfinished(), e);
  }

  private LadderException failed(Step step, Optional<Statement> unfinished, SQLException e) {
    boolean gone =
        switch (failures.fault(e).kind()) {
          case CUT, STRANDED -> true;
          default -> false;
        };
    if (!gone) {
      try {
        session.reset();
        entries.write(failedEvent(step), subjectOf(step), EntryDetails.of(failures.words(e)));
      } catch (SQLException second) {
        e.addSuppressed(second);
      }
    }
    return failures.of(step, unfinished, leftAfterUndo(), false, done.size(), e);
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

  private static EntrySubject subjectOf(Step step) {
    return step instanceof Step.OfRung rung
        ? rung.subject()
        : EntrySubject.standing(step.about(), "", "", "");
  }
}
