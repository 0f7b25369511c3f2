package org.wornladder.execution;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.SortedMap;
import java.util.function.Consumer;
import org.wornladder.RunListener;
import org.wornladder.RunResult.Done;
import org.wornladder.engine.Pipeline;
import org.wornladder.engine.Pipeline.Timing;
import org.wornladder.engine.Session;
import org.wornladder.journal.EntryDetails;
import org.wornladder.journal.Journal;
import org.wornladder.sql.Statement;

/**
 * Runs rungs of one statement each in batches: many in one message to the database, each with its
 * entry. For environments where nobody needs to see which rung is running just now.
 */
final class StatementBatcher {
  private static final int FIRST_SIZE = 4;
  private static final int LARGEST_SIZE = 128;

  /** A batch should take no longer, since a run can only be stopped between two. */
  private static final long TARGET_NANOS = 100_000_000;

  /** How much larger than the last one a batch may be: one says little about the next. */
  private static final int GROWTH = 4;

  private final Session session;
  private final Pipeline pipeline;
  private final Journal journal;
  private final RunListener listener;
  private int size = FIRST_SIZE;

  StatementBatcher(Session session, Pipeline pipeline, Journal journal, RunListener listener) {
    this.session = session;
    this.pipeline = pipeline;
    this.journal = journal;
    this.listener = listener;
  }

  /**
   * Why a run of batches ended early, and how many steps were done; nothing of the next is left.
   */
  record Stop(SQLException cause, int done) {}

  /**
   * The number of steps, from one on, that may be run in batches; 0 if the first may not.
   *
   * @param from its index
   */
  int reach(List<Step> steps, int from) {
    int end = from;
    while (journal.isThere() && end < steps.size() && accepts(steps.get(end))) {
      end++;
    }
    return end - from;
  }

  private boolean accepts(Step step) {
    return step instanceof Step.OfRung rung
        && !rung.statementWise()
        && rung.decision() instanceof Decision.Run
        && rung.statements().size() == 1
        && rung.liftedBefore().isEmpty()
        && rung.putBackAfter().isEmpty()
        && pipeline.accepts(rung.statements().get(0));
  }

  /**
   * Runs steps, each in a transaction of its own, until all are done, one fails or the listener
   * wants to stop.
   *
   * @param onDone receives each step that is done, in order
   */
  Optional<Stop> runInOwnTransactions(List<Step> steps, Consumer<Done> onDone) throws SQLException {
    int next = 0;
    while (next < steps.size() && !listener.wantsStop()) {
      List<Step> batch = steps.subList(next, Math.min(steps.size(), next + size));
      List<Journal.Mark> marks = collectTransactions(batch);
      try {
        send(batch.size());
        report(batch, marks, onDone);
      } catch (SQLException e) {
        return Optional.of(stop(batch, marks, e, next, onDone));
      }
      next += batch.size();
    }
    return Optional.empty();
  }

  /** Reports steps that are committed, with the times that the database measured. */
  private void report(List<Step> steps, List<Journal.Mark> marks, Consumer<Done> onDone)
      throws SQLException {
    SortedMap<Long, Long> elapsed = journal.elapsedSince(marks.get(0));
    for (int i = 0; i < steps.size(); i++) {
      onDone.accept(done(steps.get(i), elapsed.getOrDefault(marks.get(i + 1).number(), 0L)));
    }
  }

  /**
   * Runs steps in the transaction that is open. The entries of a batch are sent with the next one,
   * or with what comes after the last.
   *
   * @throws SQLException if one fails; which one is not known
   */
  void runInOpenTransaction(List<Step> steps, Consumer<Done> onDone) throws SQLException {
    for (int next = 0; next < steps.size(); ) {
      List<Step> batch = steps.subList(next, Math.min(steps.size(), next + size));
      collectMarked(batch);
      Timing timing = send(batch.size());
      for (int i = 0; i < batch.size(); i++) {
        Step.OfRung rung = (Step.OfRung) batch.get(i);
        journal.append(
            Runner.eventOf(rung), rung.subject(), EntryDetails.elapsed(timing.millis(i)));
        onDone.accept(done(rung, timing.millis(i)));
      }
      next += batch.size();
    }
  }

  /** Collects each step as a transaction; returns where the journal is before and after each. */
  private List<Journal.Mark> collectTransactions(List<Step> steps) throws SQLException {
    List<Journal.Mark> marks = new ArrayList<>();
    marks.add(journal.mark());
    pipeline.start();
    for (Step step : steps) {
      Step.OfRung rung = (Step.OfRung) step;
      session.begin();
      session.execute(statementOf(step));
      journal.append(Runner.eventOf(rung), rung.subject(), EntryDetails.elapsed(0));
      session.commit();
      marks.add(journal.mark());
    }
    return marks;
  }

  private void collectMarked(List<Step> steps) throws SQLException {
    pipeline.start();
    pipeline.mark();
    for (Step step : steps) {
      session.execute(statementOf(step));
      pipeline.mark();
    }
  }

  private static Statement statementOf(Step step) {
    return ((Step.OfRung) step).statements().get(0);
  }

  private static Done done(Step step, long millis) {
    Step.OfRung rung = (Step.OfRung) step;
    return new Done(rung, Runner.resultOf(rung), "", millis);
  }

  /** Sends a batch, and chooses the size of the next by the time it took. */
  private Timing send(int steps) throws SQLException {
    Timing timing = pipeline.send();
    long fitting = TARGET_NANOS * steps / Math.max(1, timing.nanos());
    long largest = Math.min(LARGEST_SIZE, (long) GROWTH * steps);
    size = (int) Math.max(1, Math.min(fitting, largest));
    return timing;
  }

  /** The journal itself says how many steps of a failed batch were committed before the failure. */
  private Stop stop(
      List<Step> batch,
      List<Journal.Mark> marks,
      SQLException cause,
      int doneBefore,
      Consumer<Done> onDone) {
    int committed = 0;
    Journal.Mark before = marks.get(0);
    journal.forgetUncommitted(before);
    try {
      session.rollback();
      committed = (int) (journal.lastInDatabase() - before.number());
    } catch (SQLException e) {
      // The connection is gone: the next run reads the journal.
      cause.addSuppressed(e);
    }
    journal.forgetUncommitted(marks.get(committed));
    List<Step> done = batch.subList(0, committed);
    try {
      report(done, marks, onDone);
    } catch (SQLException e) {
      cause.addSuppressed(e);
      done.forEach(step -> onDone.accept(done(step, 0)));
    }
    return new Stop(cause, doneBefore + committed);
  }
}
