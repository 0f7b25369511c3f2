package org.wornladder.service;

import java.util.Optional;
import org.wornladder.JournalReport;
import org.wornladder.Status;
import org.wornladder.engine.Access;
import org.wornladder.execution.EnvironmentContext;
import org.wornladder.execution.ProjectContext;
import org.wornladder.journal.History;
import org.wornladder.journal.Journal.Depth;

/** The state of a ladder in one environment, and its history. */
public record StatusService(ProjectContext project) {
  /** The ladder, rung by rung. */
  public Status status(Optional<String> environment) {
    return project.in(
        environment,
        Access.READ,
        context -> reader(context, context.journal().read(Depth.GLANCE)).read(context.session()));
  }

  /** The journal, its hash chain checked. */
  public JournalReport history(Optional<String> environment) {
    return project.in(
        environment,
        Access.READ,
        context -> {
          History history = context.journal().read(Depth.WHOLE);
          return new JournalReport(
              context.environment().name(),
              context.session().address(),
              context.session().isThere(),
              context.session().isThere() ? context.session().lockHolder() : Optional.empty(),
              history,
              context.journal().head());
        });
  }

  static StatusReader reader(EnvironmentContext context, History history) {
    return new StatusReader(context.project(), context.environment(), context.engine(), history);
  }
}
