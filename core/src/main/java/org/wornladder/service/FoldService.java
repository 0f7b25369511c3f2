package org.wornladder.service;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.wornladder.Advice;
import org.wornladder.Fold;
import org.wornladder.FoldOptions;
import org.wornladder.FoldQuestions;
import org.wornladder.LadderException;
import org.wornladder.RefusedException;
import org.wornladder.RefusedException.Refusal;
import org.wornladder.change.LeftOut;
import org.wornladder.engine.Engines;
import org.wornladder.execution.FoldedHistory;
import org.wornladder.execution.ProjectContext;
import org.wornladder.journal.History;
import org.wornladder.journal.RungRecord;
import org.wornladder.project.Environment;
import org.wornladder.project.FoldText;
import org.wornladder.project.FoldedRange;
import org.wornladder.project.Project;
import org.wornladder.project.ProjectReader;
import org.wornladder.project.ProjectWriter;
import org.wornladder.project.Rung;
import org.wornladder.schema.ObjectId;
import org.wornladder.scratch.LadderResult;
import org.wornladder.scratch.ScratchRunner;

/** Makes one rung of many, for new databases. Proved in scratch databases before a file changes. */
public record FoldService(ProjectContext project) {
  /**
   * Folds rungs.
   *
   * @param questions asked for each table that has rows, before anything is written
   * @throws RefusedException if what the rungs build is not the same everywhere, an environment is
   *     in the midst of them, or the fold would not build the same
   */
  public Fold fold(FoldOptions options, FoldQuestions questions) {
    List<Rung> rungs = rungs(options.upTo());
    List<Refusal> refusals = new ArrayList<>();
    rungs.forEach(rung -> FoldLimits.refusal(project.project(), rung).ifPresent(refusals::add));
    List<String> unasked = new ArrayList<>();
    project
        .project()
        .settings()
        .environmentNames()
        .forEach(name -> ask(name, rungs, refusals, unasked));
    if (!refusals.isEmpty()) {
      throw new RefusedException(refusals);
    }
    Map<String, LadderResult> results = new LinkedHashMap<>();
    for (Environment like : oneOfEachEngine()) {
      results.put(
          Engines.of(like).name(),
          new ScratchRunner(project)
              .in(like, scratch -> LadderResult.of(project, scratch, options.upTo())));
    }
    List<Fold.Rows> rows = rows(results, questions);
    String text = text(options, rungs, results, left(rows));
    Rung fold = ProjectWriter.fold(options.words(), rungs, text);
    prove(fold, rungs, results, left(rows));
    if (options.write()) {
      ProjectWriter.replace(project.project(), rungs, fold, options.deletes());
    }
    return new Fold(
        fold.file(),
        text,
        rungs.stream().map(Rung::label).toList(),
        options.deletes() ? "" : ProjectWriter.FOLDED,
        rows,
        options.write(),
        unasked);
  }

  private List<Rung> rungs(long upTo) {
    if (project.project().rung(upTo).isEmpty()) {
      throw RefusedException.of(
          "there is no rung " + upTo, ProjectReader.RUNGS + "/", Advice.of(Advice.Code.LIST_RUNGS));
    }
    List<Rung> rungs =
        project.project().rungs().stream().filter(rung -> rung.number() <= upTo).toList();
    if (rungs.size() < 2) {
      throw RefusedException.of(
          "up to " + rungs.get(0).label() + " there is one rung alone: nothing can be folded",
          rungs.get(0).file(),
          Advice.of(Advice.Code.LIST_RUNGS));
    }
    return rungs;
  }

  /** An environment must have all of the rungs as they are, or none. */
  private void ask(
      String environment, List<Rung> rungs, List<Refusal> refusals, List<String> unasked) {
    History history;
    try {
      History raw = new StatusService(project).history(Optional.of(environment)).history();
      history = FoldedHistory.of(project.project(), raw).history();
    } catch (LadderException e) {
      unasked.add(environment + ": " + e.what());
      return;
    }
    long inPlace = rungs.stream().filter(rung -> history.isInPlace(rung.number())).count();
    boolean isMiddle = inPlace > 0 && inPlace < rungs.size();
    for (Rung rung : rungs) {
      history
          .rung(rung.number())
          .filter(record -> isUnsettled(record, rung))
          .ifPresent(record -> refusals.add(unsettled(environment, rung)));
    }
    if (isMiddle && refusals.isEmpty()) {
      refusals.add(
          new Refusal(
              environment + " has " + inPlace + " of these " + rungs.size() + " rungs alone",
              "environment " + environment,
              Advice.of(Advice.Code.APPLY_FIRST, environment)));
    }
  }

  private static boolean isUnsettled(RungRecord record, Rung rung) {
    return record.state() == RungRecord.State.STUCK
        || record.isInPlace() && !record.up().isSame(rung.script());
  }

  private static Refusal unsettled(String environment, Rung rung) {
    return new Refusal(
        rung.label() + " is worn or stuck on " + environment,
        rung.file(),
        Advice.of(Advice.Code.SHOW_STATUS, environment));
  }

  private List<Environment> oneOfEachEngine() {
    Map<String, Environment> found = new LinkedHashMap<>();
    List<String> names = new ArrayList<>();
    names.add(project.project().settings().defaultEnvironment());
    names.addAll(project.project().settings().environmentNames());
    for (String name : names) {
      try {
        Environment environment = project.environments().read(Optional.of(name));
        found.putIfAbsent(Engines.of(environment).name(), environment);
      } catch (LadderException e) {
        if (found.isEmpty()) {
          throw e;
        }
        // Its variables are not set here; an environment of its engine may have been read already.
      }
    }
    return List.copyOf(found.values());
  }

  private static List<Fold.Rows> rows(Map<String, LadderResult> results, FoldQuestions questions) {
    Map<String, Long> counts = new LinkedHashMap<>();
    results
        .values()
        .forEach(
            result ->
                result
                    .counts()
                    .forEach((id, count) -> counts.merge(id.displayName(), count, Math::max)));
    List<Fold.Rows> rows = new ArrayList<>();
    counts.forEach(
        (table, count) -> rows.add(new Fold.Rows(table, count, questions.keepsRows(table, count))));
    return rows;
  }

  private static Set<String> left(List<Fold.Rows> rows) {
    Set<String> left = new HashSet<>();
    rows.stream().filter(one -> !one.kept()).forEach(one -> left.add(one.table()));
    return left;
  }

  private static Set<ObjectId> ids(LadderResult result, Set<String> tables) {
    Set<ObjectId> ids = new HashSet<>(result.counts().keySet());
    ids.removeIf(id -> !tables.contains(id.displayName()));
    return ids;
  }

  private String text(
      FoldOptions options,
      List<Rung> rungs,
      Map<String, LadderResult> results,
      Set<String> without) {
    Map<String, List<String>> statements = new LinkedHashMap<>();
    results.forEach(
        (engine, result) -> {
          refuseLeftOut(result.leftOut());
          statements.put(engine, result.statements(ids(result, without)));
        });
    return FoldText.of(options.words(), FoldedRange.of(rungs), statements);
  }

  private static void refuseLeftOut(List<LeftOut> leftOut) {
    if (!leftOut.isEmpty()) {
      throw RefusedException.of(
          "this cannot be written: "
              + leftOut.get(0).difference().description()
              + ": "
              + leftOut.get(0).reason(),
          ProjectReader.RUNGS + "/",
          "fold up to a rung before it");
    }
  }

  /** Runs the fold in the place of the rungs: it must leave what they leave. */
  private void prove(
      Rung fold, List<Rung> rungs, Map<String, LadderResult> results, Set<String> without) {
    Project folded = project.project().with(rungs, fold);
    ProjectContext context = new ProjectContext(folded, project.settings(), project.environments());
    for (Environment like : oneOfEachEngine()) {
      LadderResult wanted = results.get(Engines.of(like).name());
      LadderResult found =
          new ScratchRunner(context)
              .in(like, scratch -> LadderResult.of(context, scratch, fold.number()));
      List<String> differences = wanted.differences(found, ids(wanted, without));
      if (!differences.isEmpty()) {
        throw RefusedException.of(
            "the fold would not build what the rungs build: " + String.join("; ", differences),
            ProjectReader.RUNGS + "/",
            "nothing was changed; fold up to a lower rung");
      }
    }
  }
}
