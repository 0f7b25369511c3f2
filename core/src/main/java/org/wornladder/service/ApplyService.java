package org.wornladder.service;

import java.sql.SQLException;
import java.util.Map;
import java.util.Optional;
import org.wornladder.Advice;
import org.wornladder.ApplyOptions;
import org.wornladder.Approval;
import org.wornladder.Preview;
import org.wornladder.RefusedException;
import org.wornladder.RunListener;
import org.wornladder.RunResult;
import org.wornladder.engine.Access;
import org.wornladder.engine.DatabaseErrors;
import org.wornladder.execution.ApplyPlanner;
import org.wornladder.execution.EnvironmentContext;
import org.wornladder.execution.ErasureCheck;
import org.wornladder.execution.ExpectedState;
import org.wornladder.execution.Plan;
import org.wornladder.execution.PlanningContext;
import org.wornladder.execution.ProjectContext;
import org.wornladder.execution.UncertainStatement;
import org.wornladder.execution.UncertainStatementCheck;
import org.wornladder.journal.History;
import org.wornladder.journal.Journal.Depth;

/** Runs the waiting rungs and the standing scripts. */
public record ApplyService(ProjectContext project) {
  /**
   * What {@link #apply} would do.
   *
   * @param showRows whether keys of rows may be among the risks
   */
  public Preview preview(Optional<String> environment, ApplyOptions options, boolean showRows) {
    return project.in(
        environment,
        Access.READ,
        context -> {
          History history = context.provenHistory();
          Plan plan = plan(context, history, options);
          Preview preview =
              new PreviewRisks(project, context, history, showRows)
                  .of(plan, new Preview(plan, refusal(context, history, plan, options)));
          return preview.refusal().isPresent()
              ? preview
              : preview.refused(limits(context).refusal(preview));
        });
  }

  /** Why a plan would be refused even if it is confirmed; empty if it would not. */
  Optional<RefusedException> refusal(
      EnvironmentContext context, History history, Plan plan, ApplyOptions options)
      throws SQLException {
    Optional<RefusedException> erasure = new ErasureCheck(project.project()).refusal(plan);
    if (erasure.isPresent()) {
      return erasure;
    }
    boolean wanted = context.environment().settings().guarded() && options.despiteDrift().isEmpty();
    return !wanted || plan.isEmpty()
        ? Optional.empty()
        : PlannedRun.driftRefusal(
            context.environment().name(),
            ExpectedState.of(context, history).visibleDifferences(project.project()));
  }

  /**
   * @param approval asked once with the plan, if there is anything to do
   */
  public RunResult apply(
      Optional<String> environment, ApplyOptions options, Approval approval, RunListener listener) {
    return project.in(
        environment,
        Access.WRITE,
        context ->
            context.locked(
                project.settings(),
                listener::waiting,
                same -> applyLocked(same, options, approval, listener)));
  }

  private RiskLimitCheck limits(EnvironmentContext context) {
    return new RiskLimitCheck(project.project(), context.environment().settings());
  }

  /** Looks at risks before anybody is asked, where the environment limits them. */
  private Approval withinLimits(EnvironmentContext context, Approval approval) {
    if (context.environment().settings().risks().isEmpty()) {
      return approval;
    }
    return (plan, environment) -> {
      Preview preview = risks(context, plan);
      Optional<RefusedException> refusal = limits(context).refusal(preview);
      if (refusal.isPresent()) {
        throw refusal.get();
      }
      approval.check(plan, environment);
    };
  }

  private Preview risks(EnvironmentContext context, Plan plan) {
    try {
      return new PreviewRisks(project, context, context.provenHistory(), false)
          .of(plan, new Preview(plan, Optional.empty()));
    } catch (SQLException e) {
      throw DatabaseErrors.translate(
          context.session(), context.environment().name(), "counting rows", e);
    }
  }

  /** Asks whoever runs batches to end behind the one that is running; returns who that is. */
  public String askToStop(Optional<String> environment) {
    return project.in(
        environment,
        Access.WRITE,
        context -> {
          String name = context.environment().name();
          String holder =
              context
                  .session()
                  .lockHolder()
                  .orElseThrow(
                      () ->
                          RefusedException.of(
                              "no run is changing " + name,
                              "environment " + name,
                              Advice.of(Advice.Code.SHOW_STATUS, name)));
          context.snapshots().askStop("by " + context.session().user());
          return holder;
        });
  }

  /** The same for a caller that holds the lock already. */
  RunResult applyLocked(
      EnvironmentContext context, ApplyOptions options, Approval approval, RunListener listener)
      throws SQLException {
    FoldRecord.write(project.project(), context);
    return new PlannedRun(project.project(), project.settings())
        .run(
            context,
            withinLimits(context, approval),
            listener,
            options.despiteDrift(),
            (planning, uncertain) -> plan(planning, uncertain, options),
            (plan, history) -> new AtticDecision(context, options).of(plan));
  }

  Plan plan(EnvironmentContext context, History history, ApplyOptions options) throws SQLException {
    PlanningContext planning = context.planning(history);
    return plan(planning, new UncertainStatementCheck(planning).read(), options);
  }

  private Plan plan(
      PlanningContext planning, Map<Long, UncertainStatement> uncertain, ApplyOptions options) {
    Optional<History> promoted =
        planning.environment().settings().promotedFrom().map(this::historyOf);
    return new ApplyPlanner(planning, options, uncertain).plan(promoted);
  }

  private History historyOf(String environment) {
    return project.in(
        Optional.of(environment), Access.READ, other -> other.journal().read(Depth.GLANCE));
  }
}
