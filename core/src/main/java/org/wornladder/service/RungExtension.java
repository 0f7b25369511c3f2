package org.wornladder.service;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.wornladder.Advice;
import org.wornladder.ApplyOptions;
import org.wornladder.Approval;
import org.wornladder.ExtensionApproval;
import org.wornladder.LadderException;
import org.wornladder.RefusedException;
import org.wornladder.RollbackOptions;
import org.wornladder.RunListener;
import org.wornladder.engine.Engines;
import org.wornladder.execution.ProjectContext;
import org.wornladder.journal.RungRecord;
import org.wornladder.project.Project;
import org.wornladder.project.ProjectReader;
import org.wornladder.project.ProjectWriter;
import org.wornladder.project.Rung;
import org.wornladder.project.RungDraft;
import org.wornladder.project.RungText;

/** Puts more statements into the newest rung, while no guarded environment has it. */
record RungExtension(ProjectContext context, Rung rung) {
  private static final Approval YES = Approval.given(Optional.empty(), true);

  /**
   * The newest rung of a project.
   *
   * @throws RefusedException if there is none
   */
  static RungExtension ofNewest(ProjectContext context) {
    List<Rung> rungs = context.project().rungs();
    if (rungs.isEmpty()) {
      throw RefusedException.of(
          "there is no rung that could be extended",
          ProjectReader.RUNGS + "/",
          Advice.of(Advice.Code.DRAFT_RUNG_OF_ITS_OWN));
    }
    return new RungExtension(context, rungs.get(rungs.size() - 1));
  }

  /**
   * Takes the rung back in the default environment if it is there, writes the file, and applies it
   * again.
   *
   * @return the file
   */
  String write(RungDraft more, ExtensionApproval approval, RunListener listener) {
    String text = RungText.extended(rung, more);
    List<String> others = new ArrayList<>(environmentsWithIt());
    String first = project().settings().defaultEnvironment();
    Optional<String> takenBack = others.remove(first) ? Optional.of(first) : Optional.empty();
    approval.check(rung.file(), takenBack, others);
    if (takenBack.isPresent()) {
      new RollbackService(context)
          .rollback(
              takenBack, RollbackOptions.builder().to(rung.number() - 1).build(), YES, listener);
    }
    ProjectWriter.rewrite(project(), rung, text);
    if (takenBack.isPresent()) {
      ProjectContext edited =
          new ProjectContext(
              ProjectReader.read(project().root(), Engines::isOther), context.settings());
      new ApplyService(edited)
          .apply(takenBack, ApplyOptions.builder().to(rung.number()).build(), YES, listener);
    }
    return rung.file();
  }

  private Project project() {
    return context.project();
  }

  /** The environments that have it; a guarded one must not, and must be known not to. */
  private List<String> environmentsWithIt() {
    List<String> having = new ArrayList<>();
    for (String name : project().settings().environmentNames()) {
      boolean guarded = project().settings().environments().get(name).guarded();
      if (has(name, guarded)) {
        if (guarded) {
          throw RefusedException.of(
              rung.label() + " is in place on " + name + ", which is guarded",
              "environment " + name,
              Advice.of(Advice.Code.DRAFT_RUNG_OF_ITS_OWN));
        }
        having.add(name);
      }
    }
    return having;
  }

  private boolean has(String environment, boolean guarded) {
    try {
      return new StatusService(context)
          .history(Optional.of(environment))
          .history()
          .rung(rung.number())
          .filter(one -> one.isInPlace() || one.state() == RungRecord.State.STUCK)
          .isPresent();
    } catch (LadderException e) {
      if (guarded) {
        throw RefusedException.of(
            environment + " cannot be asked whether it has " + rung.label() + ": " + e.what(),
            "environment " + environment,
            Advice.of(Advice.Code.DRAFT_RUNG_OF_ITS_OWN));
      }
      return false;
    }
  }
}
