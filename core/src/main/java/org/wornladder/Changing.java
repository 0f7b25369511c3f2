package org.wornladder;

import java.sql.SQLException;
import java.util.Collections;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.wornladder.climb.ApplyOptions;
import org.wornladder.climb.ApplyPlanner;
import org.wornladder.climb.Approval;
import org.wornladder.climb.Doubt;
import org.wornladder.climb.Doubts;
import org.wornladder.climb.Listener;
import org.wornladder.climb.Outcome;
import org.wornladder.climb.Plan;
import org.wornladder.climb.PlanBasis;
import org.wornladder.climb.RefusedException;
import org.wornladder.climb.RollbackOptions;
import org.wornladder.climb.RollbackPlanner;
import org.wornladder.climb.Runner;
import org.wornladder.climb.Settlement;
import org.wornladder.climb.Step;
import org.wornladder.diff.Difference;
import org.wornladder.diff.StructureSummary;
import org.wornladder.engine.Access;
import org.wornladder.engine.DatabaseErrors;
import org.wornladder.fault.LadderException;
import org.wornladder.journal.History;
import org.wornladder.journal.Journal.Depth;
import org.wornladder.project.Direction;
import org.wornladder.project.Project;

/** Runs rungs and standing scripts, up or down, in an environment that is open. */
record Changing(Project project, LadderSettings settings, Visit visit) {
  Outcome apply(Site site, ApplyOptions options, Approval approval, Listener listener)
      throws SQLException {
    return site.locked(
        settings, listener::waiting, same -> applyLocked(same, options, approval, listener));
  }

  /** For who has the lock already. */
  Outcome applyLocked(Site site, ApplyOptions options, Approval approval, Listener listener)
      throws SQLException {
    return change(
        site,
        approval,
        listener,
        options.despiteDrift(),
        (basis, doubts) -> applyPlan(basis, doubts, options));
  }

  Outcome rollback(Site site, RollbackOptions options, Approval approval, Listener listener)
      throws SQLException {
    return site.locked(
        settings,
        listener::waiting,
        same ->
            change(
                same,
                approval,
                listener,
                Optional.of(""),
                (basis, doubts) -> new RollbackPlanner(basis, options, doubts).plan()));
  }

  Plan applyPlan(Site site, History history, ApplyOptions options) throws SQLException {
    PlanBasis basis = basis(site, history);
    return applyPlan(basis, new Doubts(basis).read(), options);
  }

  private Plan applyPlan(PlanBasis basis, Map<Long, Doubt> doubts, ApplyOptions options) {
    Optional<History> promoted =
        basis
            .environment()
            .settings()
            .promotedFrom()
            .map(from -> visit.in(from, Access.READ, other -> other.journal().read(Depth.GLANCE)));
    return new ApplyPlanner(basis, options, doubts).plan(promoted);
  }

  PlanBasis basis(Site site, History history) {
    return new PlanBasis(project, site.environment(), site.engine(), site.session(), history);
  }

  /** Plans from files and journal. */
  private interface Planning {
    Plan plan(PlanBasis basis, Map<Long, Doubt> doubts);
  }

  /** A plan, and what stands where it shall run; the latter is not read for a plan of nothing. */
  private record Prospect(Plan plan, Optional<ExpectedState> expectation) {}

  private Prospect prospect(Site site, History history, Planning planning) throws SQLException {
    PlanBasis basis = basis(site, history);
    Map<Long, Doubt> doubts = new Doubts(basis).read();
    Plan plan = planning.plan(basis, doubts);
    return new Prospect(
        plan, plan.isEmpty() ? Optional.empty() : Optional.of(ExpectedState.of(site, history)));
  }

  private Outcome change(
      Site site,
      Approval approval,
      Listener listener,
      Optional<String> despiteDrift,
      Planning planning)
      throws SQLException {
    History history = site.provenHistory();
    Prospect prospect = prospect(site, history, planning);
    Plan plan = prospect.plan();
    if (plan.isEmpty()) {
      listener.started(plan);
      return outcome(history, plan, List.of(), 0, new StructureSummary(List.of()));
    }
    ExpectedState expectation = prospect.expectation().orElseThrow();
    if (site.environment().settings().guarded() && despiteDrift.isEmpty()) {
      refuseDrift(site.environment().name(), expectation.visibleDifferences(project));
    }
    approval.check(plan, site.environment());
    despiteDrift
        .filter(reason -> !reason.isEmpty())
        .ifPresent(reason -> recordDrift(site, reason, expectation.visibleDifferences(project)));
    expectation.saveBefore();
    long start = System.nanoTime();
    Runner runner =
        new Runner(
            site.engine(),
            site.session(),
            site.journal(),
            plan,
            listener,
            settings.retries(),
            !site.environment().settings().guarded());
    PreCommitCheck check = new PreCommitCheck(site, expectation);
    List<Outcome.Done> done = run(runner, check, site, expectation);
    long elapsed = (System.nanoTime() - start) / 1_000_000 - check.millis();
    return outcome(history, plan, done, elapsed, check.save());
  }

  /**
   * A run that fails has changed something too: what is expected follows it. One that left a rung
   * half way has not ended: what a person does to end it counts as its work.
   */
  private static List<Outcome.Done> run(
      Runner runner, PreCommitCheck check, Site site, ExpectedState expectation) {
    try {
      return runner.run(check);
    } catch (LadderException e) {
      try {
        if (site.journal().read(Depth.GLANCE).stuck().isEmpty()) {
          expectation.saveAfter();
        }
      } catch (SQLException | LadderException second) {
        // The next run finds that this one did not come to its end, and makes up for it.
        e.addSuppressed(second);
      }
      throw e;
    }
  }

  private static Outcome outcome(
      History before,
      Plan plan,
      List<Outcome.Done> done,
      long elapsed,
      StructureSummary structure) {
    return new Outcome(
        plan,
        done,
        highest(before, plan, done),
        elapsed,
        structure,
        done.size() < plan.steps().size());
  }

  /** The highest number in place after a run; 0 if none is. */
  private static long highest(History before, Plan plan, List<Outcome.Done> done) {
    Set<Long> inPlace = new HashSet<>();
    before.inPlaceNewestFirst().forEach(rung -> inPlace.add(rung.number()));
    for (Outcome.Done step : done) {
      if (step.step() instanceof Step.OfRung rung) {
        if (plan.direction() == Direction.UP) {
          inPlace.add(rung.number());
        } else {
          inPlace.remove(rung.number());
        }
      }
    }
    return inPlace.isEmpty() ? 0 : Collections.max(inPlace);
  }

  private static void refuseDrift(String environment, List<Difference> drift) {
    if (!drift.isEmpty()) {
      Difference first = drift.get(0);
      String more = drift.size() == 1 ? "" : " and " + (drift.size() - 1) + " more";
      throw RefusedException.of(
          environment + " is not what its history says: " + first.words() + more,
          "environment " + environment,
          "ladder drift "
              + environment
              + " shows all; --despite-drift REASON goes on, on the record");
    }
  }

  private void recordDrift(Site site, String reason, List<Difference> drift) {
    try {
      new Settlement(project, site.environment(), site.session(), site.journal())
          .goOnDespite(drift.size(), reason);
    } catch (SQLException e) {
      throw DatabaseErrors.translate(
          site.session(), site.environment().name(), "writing the reason down", e);
    }
  }
}
