package org.wornladder.execution;

import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.IntStream;
import org.wornladder.Advice;
import org.wornladder.LadderException;
import org.wornladder.RefusedException;
import org.wornladder.RunListener;
import org.wornladder.RunResult.Done;
import org.wornladder.RunResult.Result;
import org.wornladder.engine.Engine;
import org.wornladder.engine.Fault;
import org.wornladder.engine.Session;
import org.wornladder.engine.SessionStatements;
import org.wornladder.engine.StatementTarget;
import org.wornladder.engine.StatementTargets;
import org.wornladder.execution.Step.StandingAction;
import org.wornladder.execution.Step.Transactions;
import org.wornladder.journal.EntryDetails;
import org.wornladder.journal.EntrySubject;
import org.wornladder.journal.Event;
import org.wornladder.project.Direction;
import org.wornladder.project.Secrets;
import org.wornladder.sql.Place;
import org.wornladder.sql.Statement;

/**
 * Runs a way statement by statement, each on the record. A statement that can be part of a
 * transaction commits together with its closing entry, so it is never in doubt; before any other
 * one an entry says what was there, and another one after it says that it is done.
 */
final class NonTransactionalRunner {
  private final Engine engine;
  private final Session session;
  private final EntryWriter entries;
  private final RunListener listener;
  private final FailureReport failures;
  private final RetryPolicy retryPolicy;
  private final Secrets secrets;
  private final AroundRung around;

  NonTransactionalRunner(
      Engine engine,
      Session session,
      EntryWriter entries,
      RunListener listener,
      FailureReport failures,
      RetryPolicy retryPolicy,
      Secrets secrets,
      AroundRung around) {
    this.around = around;
    this.engine = engine;
    this.secrets = secrets;
    this.session = session;
    this.entries = entries;
    this.listener = listener;
    this.failures = failures;
    this.retryPolicy = retryPolicy;
  }

  /**
   * @param stepsDone how many steps were done before
   * @throws SQLException if the journal cannot be written
   */
  Done run(Step.OfRung rung, int stepsDone) throws SQLException {
    long start = System.nanoTime();
    boolean up = rung.direction() == Direction.UP;
    refuseLost(rung, rung.done());
    if (rung.doubt().isPresent()) {
      settle(rung, rung.doubt().get(), stepsDone);
    } else if (rung.done().isEmpty()) {
      EntryDetails note =
          rung.skipsMissing() ? EntryDetails.of(Runner.HALF_WAY) : EntryDetails.NONE;
      entry(rung, up ? Event.UP_STARTED : Event.DOWN_STARTED, note);
    }
    NonTransactionalStandingRunner standing =
        new NonTransactionalStandingRunner(
            engine, session, entries, statement -> listener.statementStarted(rung, statement));
    for (StandingAction action : rung.liftedBefore()) {
      boolean stays =
          rung.putBackAfter().stream().noneMatch(back -> back.name().equals(action.name()));
      standing.run(action, stays);
    }
    if (rung.done().isEmpty() && rung.doubt().isEmpty()) {
      inTransaction(() -> around.before(rung));
    }
    for (int number = 1; number <= rung.statements().size(); number++) {
      if (rung.done().contains(number)) {
        setUp(rung.statements().get(number - 1));
      } else {
        statement(rung, number, stepsDone);
      }
    }
    session.reset();
    inTransaction(() -> around.after(rung));
    long elapsed = millisecondsSince(start);
    entry(rung, up ? Event.APPLIED : Event.ROLLED_BACK, EntryDetails.elapsed(elapsed));
    for (StandingAction action : rung.putBackAfter()) {
      standing.run(action, true);
    }
    return new Done(rung, up ? Result.APPLIED : Result.ROLLED_BACK, "", elapsed);
  }

  private interface Work {
    void run() throws SQLException;
  }

  /** Beside a rung's statements, where there is anything to do. */
  private void inTransaction(Work work) throws SQLException {
    if (around == AroundRung.NOTHING) {
      return;
    }
    session.begin();
    work.run();
    session.commit();
  }

  /** Sets the session up as a statement that is done had left it. */
  private void setUp(Statement statement) throws SQLException {
    if (SessionStatements.setsUp(statement)) {
      session.execute(statement);
    }
  }

  /** What a statement that is done left in its session, and one to come asks for. */
  private Optional<String> lost(Step.OfRung rung, Set<Integer> done) {
    List<Statement> all = rung.statements();
    for (int number : new TreeSet<>(done)) {
      for (String name : SessionStatements.left(all.get(number - 1))) {
        for (int next = number + 1; next <= all.size(); next++) {
          if (!done.contains(next) && SessionStatements.names(all.get(next - 1), name)) {
            return Optional.of(name);
          }
        }
      }
    }
    return Optional.empty();
  }

  /** To go on without what is gone would write something else than the rung says. */
  private void refuseLost(Step.OfRung rung, Set<Integer> done) {
    lost(rung, done)
        .ifPresent(
            name -> {
              throw RefusedException.of(
                  rung.label()
                      + " cannot go on: what it had put into "
                      + name
                      + " went with the session that ran it",
                  rung.source(),
                  Advice.of(Advice.Code.ROLL_BACK_OR_ACCEPT_FILE, rung.label()));
            });
  }

  /** Writes down what the facts said, and clears away what a half-done statement left. */
  private void settle(Step.OfRung rung, UncertainStatement doubt, int stepsDone)
      throws SQLException {
    if (doubt.clearing().isPresent()) {
      clearPatiently(rung, clearing(rung, doubt.clearing().get()), stepsDone);
    }
    Event event =
        doubt.found() == UncertainStatement.Found.DONE
            ? Event.SETTLED_DONE
            : Event.SETTLED_NOT_DONE;
    entries.write(
        event,
        subject(rung, doubt.statement()),
        new EntryDetails(doubt.statement(), 0, "found: " + doubt.explanation()));
  }

  private void statement(Step.OfRung rung, int number, int stepsDone) throws SQLException {
    Statement statement = rung.statements().get(number - 1);
    boolean joins = rung.transactions() != Transactions.NONE && engine.joinsTransaction(statement);
    Optional<StatementTarget> object = joins ? Optional.empty() : StatementTargets.of(statement);
    Optional<String> before = object.isEmpty() ? Optional.empty() : session.state(object.get());
    if (rung.skipsMissing() && isMissing(statement)) {
      entries.write(
          Event.STATEMENT_DONE,
          subject(rung, number),
          new EntryDetails(number, 0, "left out: it is not there"));
      return;
    }
    for (int attempt = 1; ; attempt++) {
      try {
        if (joins) {
          together(rung, statement, number);
        } else {
          if (attempt > 1) {
            clear(rung, halfMade(object, before));
          }
          alone(rung, statement, number, before);
        }
        return;
      } catch (SQLException e) {
        Fault fault = failures.fault(e);
        if (fault.kind() != Fault.Kind.CUT && fault.kind() != Fault.Kind.STRANDED) {
          entryAfterFailure(rung, new EntryDetails(number, 0, failures.words(e)), e);
        }
        if (lost(rung, upTo(rung, number)).isPresent()
            || !retryPolicy.again(fault, rung, attempt)) {
          String left = left(number) + remains(rung, object, before, fault, e);
          throw failures.of(rung, Optional.of(statement), left, number > 1, stepsDone, e);
        }
        for (Statement earlier : rung.statements().subList(0, number - 1)) {
          setUp(earlier);
        }
      }
    }
  }

  /** What is done when a statement's turn comes. */
  private static Set<Integer> upTo(Step.OfRung rung, int number) {
    Set<Integer> done = new TreeSet<>(rung.done());
    IntStream.range(1, number).forEach(done::add);
    return done;
  }

  /** What clears away an object that an attempt made half, and that was not there before. */
  private Optional<String> halfMade(Optional<StatementTarget> object, Optional<String> before)
      throws SQLException {
    return object.isPresent() && before.filter(StatementTarget.MISSING::equals).isPresent()
        ? session.clearing(object.get())
        : Optional.empty();
  }

  private Statement clearing(Step.OfRung rung, String sql) {
    return new Statement(sql, Place.of(rung.source()), engine.dialect());
  }

  private void clear(Step.OfRung rung, Optional<String> clearing) throws SQLException {
    if (clearing.isPresent()) {
      session.execute(clearing(rung, clearing.get()));
    }
  }

  private void clearPatiently(Step.OfRung rung, Statement clearing, int stepsDone) {
    for (int attempt = 1; ; attempt++) {
      try {
        session.execute(clearing);
        return;
      } catch (SQLException e) {
        if (!retryPolicy.again(failures.fault(e), rung, attempt)) {
          String left = "what an attempt before this one made half";
          throw failures.of(
              rung, Optional.of(clearing), left, !rung.done().isEmpty(), stepsDone, e);
        }
      }
    }
  }

  /** Clears away what the last attempt made half, and says what became of it. */
  private String remains(
      Step.OfRung rung,
      Optional<StatementTarget> object,
      Optional<String> before,
      Fault fault,
      SQLException cause) {
    if (fault.kind() == Fault.Kind.CUT || fault.kind() == Fault.Kind.STRANDED) {
      return "";
    }
    try {
      Optional<String> clearing = halfMade(object, before);
      clear(rung, clearing);
      return clearing.isPresent() ? "; " + object.get().shown() + ", half made, was dropped" : "";
    } catch (SQLException e) {
      cause.addSuppressed(e);
      return "; " + object.get().shown() + " is there half made, and the next run drops it first";
    }
  }

  private boolean isMissing(Statement statement) throws SQLException {
    Optional<StatementTarget> object = StatementTargets.of(statement);
    return object.isPresent() && session.isMissing(object.get());
  }

  private void together(Step.OfRung rung, Statement statement, int number) throws SQLException {
    entries.together(
        Event.STATEMENT_DONE,
        subject(rung, number),
        () -> {
          long start = System.nanoTime();
          execute(rung, statement);
          return new EntryDetails(number, millisecondsSince(start), "");
        });
  }

  private void alone(Step.OfRung rung, Statement statement, int number, Optional<String> before)
      throws SQLException {
    String note = before.map(state -> UncertainStatementCheck.BEFORE + state).orElse("");
    entries.write(
        Event.STATEMENT_STARTED, subject(rung, number), new EntryDetails(number, 0, note));
    long start = System.nanoTime();
    execute(rung, statement);
    entries.write(
        Event.STATEMENT_DONE,
        subject(rung, number),
        new EntryDetails(number, millisecondsSince(start), ""));
  }

  private void execute(Step.OfRung rung, Statement statement) throws SQLException {
    listener.statementStarted(rung, statement);
    session.execute(statement);
  }

  private static String left(int number) {
    return switch (number) {
      case 1 -> "no statement of it was done";
      case 2 -> "1 statement of it is done; it is stuck until it is gone on with";
      default -> (number - 1) + " statements of it are done; it is stuck until it is gone on with";
    };
  }

  private void entryAfterFailure(Step.OfRung rung, EntryDetails note, SQLException cause) {
    try {
      session.reset();
      entries.write(Event.STATEMENT_FAILED, subject(rung, note.statement()), note);
    } catch (SQLException | LadderException e) {
      cause.addSuppressed(e);
    }
  }

  /** The rung, with a mark of the statement in the place of its way down. */
  private EntrySubject subject(Step.OfRung rung, int number) {
    Statement statement = rung.statements().get(number - 1);
    return rung.subject().withScript(StatementMark.of(statement, secrets).text());
  }

  private void entry(Step.OfRung rung, Event event, EntryDetails note) throws SQLException {
    entries.write(event, rung.subject(), note);
  }

  private static long millisecondsSince(long start) {
    return (System.nanoTime() - start) / 1_000_000;
  }
}
