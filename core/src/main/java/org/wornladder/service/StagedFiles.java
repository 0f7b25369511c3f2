package org.wornladder.service;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import org.wornladder.Draft;
import org.wornladder.DraftOptions;
import org.wornladder.RehearsalReport;
import org.wornladder.change.Difference;
import org.wornladder.change.Differences;
import org.wornladder.change.IgnoreFilter;
import org.wornladder.change.RenameCandidate;
import org.wornladder.execution.EnvironmentContext;
import org.wornladder.execution.ProjectContext;
import org.wornladder.project.Environment;
import org.wornladder.project.Project;
import org.wornladder.project.ProjectWriter;
import org.wornladder.project.Rung;
import org.wornladder.project.RungDraft;
import org.wornladder.schema.Snapshot;
import org.wornladder.scratch.RungRehearsal;
import org.wornladder.scratch.ScratchRunner;

/** Proves the rungs of a staged change as their files will be, and writes them. */
record StagedFiles(
    ProjectContext project,
    Environment like,
    DraftOptions options,
    List<RenameCandidate> unanswered,
    List<StagedDraft.Stage> stages) {
  /**
   * @param wanted the structure that all of them lead to
   */
  List<Draft> write(Snapshot wanted) {
    List<Rung> rungs = rungs();
    Optional<String> fault = stages.isEmpty() ? Optional.empty() : fault(rungs, wanted);
    List<Draft> drafts = new ArrayList<>();
    for (int i = 0; i < stages.size(); i++) {
      RungDraft rung = stages.get(i).rung();
      rung.refuseSecrets(like.definitionSecrets());
      if (options.write()) {
        ProjectWriter.write(project.project(), rungs.get(i));
      }
      drafts.add(draft(rungs.get(i), fault));
    }
    return drafts;
  }

  private Draft draft(Rung rung, Optional<String> fault) {
    return new Draft(
        like.name(),
        options.write() ? Optional.of(rung.file()) : Optional.empty(),
        rung.script().source(),
        List.of(),
        List.of(),
        List.of(),
        List.of(),
        unanswered,
        List.of(),
        List.of(),
        List.of(),
        fault);
  }

  private List<Rung> rungs() {
    List<Rung> rungs = new ArrayList<>();
    Project longer = project.project();
    for (StagedDraft.Stage stage : stages) {
      Rung rung =
          ProjectWriter.next(
              longer,
              options.words() + " " + stage.words(),
              stage.rung(),
              project.settings().timestamp());
      rungs.add(rung);
      longer = longer.and(rung);
    }
    return rungs;
  }

  /** Each goes up, down and up again behind the ladder; together they lead to what is wanted. */
  private Optional<String> fault(List<Rung> rungs, Snapshot wanted) {
    Project longer = project.project();
    for (Rung rung : rungs) {
      longer = longer.and(rung);
    }
    ProjectContext context = new ProjectContext(longer, project.settings(), project.environments());
    ScratchRunner runner = new ScratchRunner(context);
    return runner.in(like, scratch -> fault(runner, scratch, rungs, wanted));
  }

  private Optional<String> fault(
      ScratchRunner runner, EnvironmentContext scratch, List<Rung> rungs, Snapshot wanted)
      throws SQLException {
    IgnoreFilter ignored = new IgnoreFilter(project.project().settings().ignore());
    long last = project.project().rungs().stream().mapToLong(Rung::number).max().orElse(0);
    if (last > 0) {
      runner.run(scratch, OptionalLong.of(last));
    } else {
      runner.createMissingSchemas(scratch);
    }
    RungRehearsal rehearsal =
        new RungRehearsal(scratch, runner.ladder(scratch), ignored, List.of(), false, false);
    for (Rung rung : rungs) {
      RehearsalReport.OfRung proof = rehearsal.rehearse(rung);
      if (!proof.isProved()) {
        return Optional.of(rung.label() + ": " + String.join("; ", proof.faults()));
      }
    }
    // Columns come behind those that go: their order is another one.
    List<Difference> left =
        Differences.butForOrder(
            new DraftSelection(project, like, options)
                .of(scratch.structure().snapshot().withoutRights(), wanted)
                .differences());
    return left.isEmpty()
        ? Optional.empty()
        : Optional.of(left.get(0).description() + " is not as it should be in the end");
  }
}
