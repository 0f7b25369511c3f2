package org.wornladder.service;

import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import org.wornladder.Advice;
import org.wornladder.RefusedException;
import org.wornladder.engine.DatabaseErrors;
import org.wornladder.execution.DerivedWays;
import org.wornladder.execution.EnvironmentContext;
import org.wornladder.execution.ProjectContext;
import org.wornladder.journal.History;
import org.wornladder.journal.RungRecord;
import org.wornladder.journal.Snapshots.AroundRun;
import org.wornladder.project.RungDraft;
import org.wornladder.project.Script;
import org.wornladder.project.ScriptParser;
import org.wornladder.scratch.ScratchRunner;

/**
 * Works out ways down that nobody wrote: from the structures that the journal keeps, where the run
 * was of that rung alone, and from the ladder replayed in a scratch database otherwise.
 */
record DerivedWayDown(ProjectContext project, EnvironmentContext context, History history)
    implements DerivedWays {
  @Override
  public Optional<Script> of(RungRecord record) {
    WayDownPlan plan = plan(record);
    WayDownPlan.Proved proved = new ScratchRunner(project).in(context.environment(), plan::plan);
    String label = project.project().label(record.number());
    if (proved.notProved().isPresent()) {
      throw RefusedException.of(
          label
              + " has no way down, and the one worked out is not proved: "
              + proved.notProved().get(),
          "environment " + context.environment().name(),
          "write a new rung that undoes it, or restore a backup");
    }
    RungDraft draft =
        new RungDraft(List.of(), RungDraft.lines(proved.script().statements()), Optional.empty());
    draft.refuseSecrets(context.environment().definitionSecrets());
    return Optional.of(ScriptParser.parseJournalled(label + ", worked out", draft.wayDownText()));
  }

  private WayDownPlan plan(RungRecord record) {
    Optional<AroundRun> kept = keptAround(record);
    if (kept.isPresent()) {
      return new WayDownPlan(
          project, kept.get().before().withoutRights(), kept.get().after().withoutRights());
    }
    boolean replays =
        project
            .project()
            .rung(record.number())
            .filter(file -> record.up().isSame(file.script()))
            .isPresent();
    if (!replays) {
      String label = project.project().label(record.number());
      throw RefusedException.of(
          label
              + " has no way down, and none can be worked out: it did not run alone, and its file"
              + " is not the one that ran",
          "environment " + context.environment().name(),
          Advice.hint("get the file that ran from version control"));
    }
    ScratchRunner scratch = new ScratchRunner(project);
    return new WayDownPlan(
        project,
        scratch
            .ofRungs(context.environment(), OptionalLong.of(record.number() - 1))
            .withoutRights(),
        scratch.ofRungs(context.environment(), OptionalLong.of(record.number())).withoutRights());
  }

  /** Where nothing but the rung ran between two structures that the journal keeps. */
  private Optional<AroundRun> keptAround(RungRecord record) {
    try {
      return context
          .snapshots()
          .around(history.began(record))
          .filter(
              around ->
                  history.entries().stream()
                      .filter(entry -> entry.number() > around.from())
                      .filter(entry -> entry.number() <= around.to())
                      .allMatch(entry -> entry.subject().rung() == record.number()));
    } catch (SQLException e) {
      throw DatabaseErrors.translate(
          context.session(), context.environment().name(), "reading snapshots", e);
    }
  }
}
