package org.wornladder.service;

import java.util.Optional;
import org.wornladder.JournalReport;
import org.wornladder.RefusedException;
import org.wornladder.Status;
import org.wornladder.engine.Access;
import org.wornladder.execution.EnvironmentContext;
import org.wornladder.execution.ExpectedState;
import org.wornladder.execution.ProjectContext;
import org.wornladder.journal.History;
import org.wornladder.journal.Journal.Depth;
import org.wornladder.schema.Snapshot;

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
  /**
   * What an environment should have, as a text that a rehearsal can begin with where the
   * environment cannot be asked.
   *
   * @throws RefusedException if the structure holds the value of a variable
   */
  public String expected(Optional<String> environment) {
    return project.in(
        environment,
        Access.READ,
        context -> {
          History history = context.provenHistory();
          Snapshot structure = ExpectedState.of(context, history).expected().withoutRights();
          String text = ExpectedFile.of(context.environment().name(), history, structure).text();
          if (context.environment().definitionSecrets().isIn(text)) {
            throw RefusedException.of(
                "a definition holds the value of a variable, which would stand in the file in clear",
                "environment " + context.environment().name(),
                "rehearse where that environment can be asked");
          }
          return text;
        });
  }

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
