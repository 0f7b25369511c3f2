package org.wornladder.scratch;

import java.sql.SQLException;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import org.wornladder.ApplyOptions;
import org.wornladder.LadderException;
import org.wornladder.RollbackOptions;
import org.wornladder.RunListener;
import org.wornladder.execution.ApplyPlanner;
import org.wornladder.execution.AroundRung;
import org.wornladder.execution.DerivedWays;
import org.wornladder.execution.EnvironmentContext;
import org.wornladder.execution.Plan;
import org.wornladder.execution.RollbackPlanner;
import org.wornladder.execution.Runner;
import org.wornladder.execution.Step;

/** Runs a ladder's rungs one by one, up and down, in a scratch database. */
public final class ScratchLadder {
  private final EnvironmentContext context;
  private final ScratchGuard reach;

  /**
   * @param context of a scratch database
   * @param ownServer whether statements may reach out of it
   */
  public ScratchLadder(EnvironmentContext context, boolean ownServer) {
    this.context = context;
    reach = new ScratchGuard(context.engine(), ownServer);
  }

  /** The way up of one waiting rung. */
  public Plan up(long number) throws SQLException {
    return planned(OptionalLong.of(number)).withRungsAlone();
  }

  /** What is left when all rungs are in place: standing scripts. */
  public Plan rest() throws SQLException {
    return planned(OptionalLong.empty());
  }

  private Plan planned(OptionalLong upTo) throws SQLException {
    ApplyOptions options = new ApplyOptions(upTo, false, Optional.empty());
    return checked(
        new ApplyPlanner(context.planning(context.journal().readOn()), options, Map.of())
            .plan(Optional.empty()));
  }

  /** The same steps as a plan for the database of which this one is the like. */
  public Plan limited(Plan plan) throws SQLException {
    OptionalLong last =
        plan.rungs().isEmpty() || plan.steps().size() > plan.rungs().size()
            ? OptionalLong.empty()
            : OptionalLong.of(plan.rungs().get(plan.rungs().size() - 1).number());
    return planned(last);
  }

  /** The way down of the rung that ran last. */
  public Plan down() throws SQLException {
    return down(RollbackOptions.builder().last(1).build());
  }

  /** The way down of several. */
  public Plan down(RollbackOptions options) throws SQLException {
    return checked(
        new RollbackPlanner(
                context.planning(context.journal().readOn()), options, Map.of(), DerivedWays.NONE)
            .plan());
  }

  private Plan checked(Plan plan) {
    for (Step step : plan.steps()) {
      reach.check(step.statements());
    }
    return plan;
  }

  /**
   * Runs a plan that was just made: the journal stands where it stood then.
   *
   * @return milliseconds, of its statements alone where the journal says so
   * @throws LadderException if a statement fails
   */
  public long run(Plan plan) throws SQLException {
    return run(plan, RunListener.SILENT);
  }

  /** The same with a listener for its progress. */
  public long run(Plan plan, RunListener listener) throws SQLException {
    long start = System.nanoTime();
    new Runner(context, plan, listener, 0, false, AroundRung.NOTHING).run();
    context.session().reset();
    return (System.nanoTime() - start) / 1_000_000;
  }
}
