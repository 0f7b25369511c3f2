package org.wornladder.service;

import java.sql.SQLException;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.wornladder.Approval;
import org.wornladder.RollbackOptions;
import org.wornladder.RunListener;
import org.wornladder.RunResult;
import org.wornladder.attic.KeptItem;
import org.wornladder.engine.Access;
import org.wornladder.execution.AroundRung;
import org.wornladder.execution.AtticReturn;
import org.wornladder.execution.DerivedWays;
import org.wornladder.execution.EnvironmentContext;
import org.wornladder.execution.Plan;
import org.wornladder.execution.PlanningContext;
import org.wornladder.execution.ProjectContext;
import org.wornladder.execution.RollbackPlanner;
import org.wornladder.execution.UncertainStatement;
import org.wornladder.execution.UncertainStatementCheck;
import org.wornladder.journal.History;

/** Runs ways down. */
public record RollbackService(ProjectContext project) {
  /** A roll-back is not refused because of drift: it may be the way out of it. */
  private static final Optional<String> DESPITE_DRIFT = Optional.of("");

  /** What a roll-back would do. Needs only the right to read. */
  public Plan preview(Optional<String> environment, RollbackOptions options) {
    return project.in(
        environment, Access.READ, context -> plan(context, context.provenHistory(), options));
  }

  /** The plan for a session that is open. */
  Plan plan(EnvironmentContext context, History history, RollbackOptions options)
      throws SQLException {
    PlanningContext planning = context.planning(history);
    return plan(context, planning, new UncertainStatementCheck(planning).read(), options);
  }

  private Plan plan(
      EnvironmentContext context,
      PlanningContext planning,
      Map<Long, UncertainStatement> uncertain,
      RollbackOptions options) {
    DerivedWays derived =
        options.derived()
            ? new DerivedWayDown(project, context, planning.history())
            : DerivedWays.NONE;
    return new RollbackPlanner(planning, options, uncertain, derived).plan();
  }

  private static AroundRung attic(
      EnvironmentContext context, History history, RunListener listener) {
    List<KeptItem> items = KeptItem.in(history);
    return items.isEmpty()
        ? AroundRung.NOTHING
        : new AtticReturn(context, context.attic(), items, listener::broughtBack);
  }

  /**
   * @param approval asked once with the plan, if there is anything to do
   */
  public RunResult rollback(
      Optional<String> environment,
      RollbackOptions options,
      Approval approval,
      RunListener listener) {
    PlannedRun run = new PlannedRun(project.project(), project.settings());
    return project.in(
        environment,
        Access.WRITE,
        context ->
            context.locked(
                project.settings(),
                listener::waiting,
                same ->
                    run.run(
                        same,
                        approval,
                        listener,
                        DESPITE_DRIFT,
                        (planning, uncertain) -> plan(same, planning, uncertain, options),
                        (plan, history) -> attic(same, history, listener))));
  }
}
