package org.wornladder.climb;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import org.wornladder.climb.Outcome.Done;
import org.wornladder.engine.Session;
import org.wornladder.engine.Session.Sending;
import org.wornladder.engine.Session.Took;
import org.wornladder.journal.Journal;
import org.wornladder.journal.Note;
import org.wornladder.sql.Statement;

/**
 * Runs rungs of one statement each in bundles: many in one message to the database, each with its
 * entry, and the next bundle is made ready while the database works on one. For environments where
 * nobody needs to see which rung it is that runs just now.
 */
final class Bundles {
  private static final int FIRST_SIZE = 4;
  private static final int MOST = 128;

  /** As many as the last bundle shows to take so long: a run can be stopped between two. */
  private static final long LONG_NANOS = 100_000_000;

  /** One bundle tells little of the next. */
  private static final int GROWTH = 4;

  private final Session session;
  private final Journal journal;
  private final Listener listener;
  private int size = FIRST_SIZE;

  Bundles(Session session, Journal journal, Listener listener) {
    this.session = session;
    this.journal = journal;
    this.listener = listener;
  }

  /** Why it ended early, and what was done before; nothing of the step behind it is left. */
  record Stop(SQLException cause, int done) {}

  /**
   * How many of the steps from one on may travel together; 0 if the first may not.
   *
   * @param from its index
   */
  int reach(List<Step> steps, int from) {
    int end = from;
    while (journal.isThere() && end < steps.size() && mayTravel(steps.get(end))) {
      end++;
    }
    return end - from;
  }

  private boolean mayTravel(Step step) {
    return step instanceof Step.OfRung rung
        && !rung.statementWise()
        && rung.decision() instanceof Decision.Run
        && rung.statements().size() == 1
        && rung.liftedBefore().isEmpty()
        && rung.putBackAfter().isEmpty()
        && session.mayTravel(rung.statements().get(0));
  }

  /** Steps on their way, and where the journal stands before and after each of them. */
  private record Bundle(List<Step> steps, List<Journal.Mark> marks, Sending sending) {}

  /**
   * Runs steps that may travel, each in a transaction of its own, until all are done, one fails or
   * the listener wants to stop.
   *
   * @param onDone told of each step that is done, in order
   */
  Optional<Stop> each(List<Step> steps, Consumer<Done> onDone) throws SQLException {
    int done = 0;
    Optional<Bundle> onItsWay = Optional.empty();
    for (int next = 0; ; ) {
      List<Step> taken =
          listener.wantsStop()
              ? List.of()
              : steps.subList(next, Math.min(steps.size(), next + size));
      List<Journal.Mark> marks = gather(taken);
      next += taken.size();
      Optional<Bundle> before = onItsWay;
      long nanos = 0;
      if (before.isPresent()) {
        try {
          nanos = await(before.get()).nanos();
        } catch (SQLException e) {
          return Optional.of(stop(before.get(), e, done, onDone));
        }
        done += before.get().steps().size();
      }
      onItsWay = sent(taken, marks);
      tell(before, nanos, onDone);
      if (taken.isEmpty()) {
        return Optional.empty();
      }
    }
  }

  /**
   * Runs steps that may travel in the transaction that is open. The entries of a bundle follow with
   * the next one, or with what comes after the last.
   *
   * @throws SQLException if one fails; which one is not known
   */
  void inside(List<Step> steps, Consumer<Done> onDone) throws SQLException {
    Optional<Bundle> onItsWay = Optional.empty();
    for (int next = 0; next < steps.size() || onItsWay.isPresent(); ) {
      List<Step> taken = steps.subList(next, Math.min(steps.size(), next + size));
      gatherMarked(taken);
      next += taken.size();
      Optional<Bundle> before = onItsWay;
      Optional<Took> took =
          before.isPresent() ? Optional.of(await(before.get())) : Optional.empty();
      onItsWay = sent(taken, List.of());
      if (took.isPresent()) {
        enter(before.get().steps(), took.get(), onDone);
      }
    }
  }

  private Optional<Bundle> sent(List<Step> steps, List<Journal.Mark> marks) throws SQLException {
    return steps.isEmpty()
        ? Optional.empty()
        : Optional.of(new Bundle(steps, marks, session.send()));
  }

  private static Statement statementOf(Step step) {
    return ((Step.OfRung) step).statements().get(0);
  }

  private List<Journal.Mark> gather(List<Step> steps) throws SQLException {
    List<Journal.Mark> marks = new ArrayList<>();
    marks.add(journal.mark());
    if (!steps.isEmpty()) {
      session.gather();
    }
    for (Step step : steps) {
      Step.OfRung rung = (Step.OfRung) step;
      session.begin();
      session.execute(statementOf(step));
      journal.append(Runner.eventOf(rung), rung.subject(), Note.elapsed(0));
      session.commit();
      marks.add(journal.mark());
    }
    return marks;
  }

  private void gatherMarked(List<Step> steps) throws SQLException {
    if (steps.isEmpty()) {
      return;
    }
    session.gather();
    session.mark();
    for (Step step : steps) {
      session.execute(statementOf(step));
      session.mark();
    }
  }

  /** Journals a bundle that is done, and tells of it, while the database works on the next. */
  private void enter(List<Step> steps, Took took, Consumer<Done> onDone) throws SQLException {
    for (int i = 0; i < steps.size(); i++) {
      Step.OfRung rung = (Step.OfRung) steps.get(i);
      journal.append(Runner.eventOf(rung), rung.subject(), Note.elapsed(took.millis(i)));
      onDone.accept(new Done(rung, Runner.resultOf(rung), "", took.millis(i)));
    }
  }

  /** Waits for the end of a bundle, and says how long it took. */
  private Took await(Bundle bundle) throws SQLException {
    Took took = bundle.sending().await();
    int steps = bundle.steps().size();
    long fitting = LONG_NANOS * steps / Math.max(1, took.nanos());
    size = (int) Math.max(1, Math.min(fitting, Math.min(MOST, GROWTH * steps)));
    return took;
  }

  /** Tells of a bundle that is done, while the database works on the next. */
  private static void tell(Optional<Bundle> bundle, long nanos, Consumer<Done> onDone) {
    bundle.ifPresent(done -> tell(done.steps(), nanos, onDone));
  }

  private static void tell(List<Step> steps, long nanos, Consumer<Done> onDone) {
    for (Step step : steps) {
      Step.OfRung rung = (Step.OfRung) step;
      onDone.accept(new Done(rung, Runner.resultOf(rung), "", nanos / steps.size() / 1_000_000));
    }
  }

  /** The journal itself tells how many of a failed bundle's steps were committed before. */
  private Stop stop(Bundle bundle, SQLException cause, int done, Consumer<Done> onDone) {
    int committed = 0;
    Journal.Mark before = bundle.marks().get(0);
    journal.forgetUncommitted(before);
    try {
      session.rollback();
      committed = (int) (journal.lastInDatabase() - before.number());
    } catch (SQLException e) {
      // The connection is gone: the next run reads the journal.
      cause.addSuppressed(e);
    }
    journal.forgetUncommitted(bundle.marks().get(committed));
    tell(bundle.steps().subList(0, committed), 0, onDone);
    return new Stop(cause, done + committed);
  }
}
