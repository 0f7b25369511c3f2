package org.wornladder.service;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import org.wornladder.Advice;
import org.wornladder.Draft;
import org.wornladder.DraftOptions;
import org.wornladder.DraftQuestions;
import org.wornladder.ExtensionApproval;
import org.wornladder.RefusedException;
import org.wornladder.RunListener;
import org.wornladder.change.Difference;
import org.wornladder.change.SchemaChange;
import org.wornladder.engine.Access;
import org.wornladder.execution.EnvironmentContext;
import org.wornladder.execution.ProjectContext;
import org.wornladder.journal.History;
import org.wornladder.journal.Journal.Depth;
import org.wornladder.journal.RungRecord;
import org.wornladder.project.Direction;
import org.wornladder.project.Environment;
import org.wornladder.project.ProjectReader;
import org.wornladder.project.ProjectWriter;
import org.wornladder.project.Rung;
import org.wornladder.project.RungDraft;
import org.wornladder.project.SchemaFiles;
import org.wornladder.schema.Snapshot;

/** Writes a rung from the difference between the ladder and the structure that is wanted. */
public record DraftService(ProjectContext project) {
  /**
   * Compares, asks what it cannot know, proves both ways in a scratch database, and writes the
   * rung.
   *
   * @throws RefusedException if nothing can be drafted, with the reason
   */
  public Draft draft(DraftOptions options, DraftQuestions questions) {
    return draft(options, questions, rung -> write(options, rung));
  }

  /**
   * The same for statements that go into the newest rung.
   *
   * @param approval asked before anything is changed
   * @throws RefusedException if a guarded environment has that rung
   */
  public Draft extend(
      DraftOptions options,
      DraftQuestions questions,
      ExtensionApproval approval,
      RunListener listener) {
    RungExtension newest = RungExtension.ofNewest(project);
    return draft(options, questions, rung -> newest.write(rung, approval, listener));
  }

  /**
   * Writes the difference as a series of rungs, between any two of which the programs of before and
   * after can be at work.
   *
   * @return one for each rung, in their order; none if nothing differs
   * @throws RefusedException if a table has another name, or a step cannot be proved
   */
  public List<Draft> staged(DraftOptions given, DraftQuestions questions) {
    Environment like = project.environments().read(given.from());
    Snapshot present = sources().scratch().ofRungs(like, OptionalLong.empty()).withoutRights();
    WantedStructure aim = wanted(given, like, present, questions);
    DraftOptions options = aim.options();
    Snapshot wanted = aim.structure();
    DraftSelection.Selected selected =
        new DraftSelection(project, like, options).of(present, wanted);
    Renames renames =
        Renames.named(options.renamed(), present, wanted)
            .asking(selected.differences(), present, wanted, questions);
    List<SchemaChange.RenameColumn> copies = new ArrayList<>();
    for (SchemaChange change : renames.changes()) {
      if (!(change instanceof SchemaChange.RenameColumn copy)) {
        throw RefusedException.of(
            "a table's new name cannot be staged: " + change.target().displayName(),
            SchemaFiles.FOLDER + "/",
            "draft the rename in a rung of its own, with a view of the old name");
      }
      copies.add(copy);
    }
    Map<String, String> fills =
        DraftPlanner.values(
            selected.differences().stream().filter(one -> !isCopied(one, copies)).toList(),
            options,
            questions);
    DraftPlanner.refuseUnused(options.fills(), fills.keySet());
    List<StagedDraft.Stage> stages =
        sources()
            .scratch()
            .in(
                like,
                scratch ->
                    new StagedDraft(
                            project,
                            like,
                            options,
                            present,
                            wanted,
                            selected.differences(),
                            copies,
                            fills,
                            scratch.session().ddl())
                        .stages());
    return new StagedFiles(project, like, options, renames.unanswered(), stages)
        .write(wanted).stream().map(draft -> draft.with(aim.unanswered(), aim.unmapped())).toList();
  }

  private static boolean isCopied(Difference difference, List<SchemaChange.RenameColumn> copies) {
    return copies.stream()
        .map(copy -> copy.target().displayName() + "." + copy.after())
        .anyMatch(difference.fullName()::equalsIgnoreCase);
  }

  /**
   * Writes the way down of a rung that has none, from the structures before and after it.
   *
   * @param write whether the file gets it
   * @throws RefusedException if there is no such rung, or it has a way down
   */
  public Draft wayDown(long number, boolean write) {
    Rung rung =
        project
            .project()
            .rung(number)
            .orElseThrow(
                () ->
                    RefusedException.of(
                        "there is no rung " + number,
                        ProjectReader.RUNGS + "/",
                        Advice.of(Advice.Code.LIST_RUNGS)));
    if (rung.script().noWayDown().isPresent()
        || rung.script().sections().stream().anyMatch(one -> one.direction() == Direction.DOWN)) {
      throw RefusedException.of(
          rung.label() + " has a way down, or a reason for none, already",
          rung.file(),
          Advice.hint("delete that section or line first, if another one is wanted"));
    }
    Environment like = project.environments().read(Optional.empty());
    Snapshot after = sources().scratch().ofRungs(like, OptionalLong.of(number)).withoutRights();
    Snapshot before =
        sources().scratch().ofRungs(like, OptionalLong.of(number - 1)).withoutRights();
    WayDownPlan plan = new WayDownPlan(project, before, after);
    return plan.draft(like, sources().scratch().in(like, plan::plan), rung, write);
  }

  /** Writes a draft somewhere. */
  private interface Target {
    String write(RungDraft rung);
  }

  private Draft draft(DraftOptions given, DraftQuestions questions, Target target) {
    Environment like = project.environments().read(given.from());
    Snapshot present = sources().scratch().ofRungs(like, OptionalLong.empty()).withoutRights();
    WantedStructure aim = wanted(given, like, present, questions);
    return draft(like, present, aim, questions, target).with(aim.unanswered(), aim.unmapped());
  }

  private Draft draft(
      Environment like,
      Snapshot present,
      WantedStructure aim,
      DraftQuestions questions,
      Target target) {
    DraftOptions options = aim.options();
    Snapshot wanted = aim.structure();
    DraftSelection selection = new DraftSelection(project, like, options);
    DraftSelection.Selected selected = selection.of(present, wanted);
    Renames renames =
        Renames.named(options.renamed(), present, wanted)
            .asking(selected.differences(), present, wanted, questions);
    if (selected.differences().isEmpty() && renames.isEmpty()) {
      DraftPlanner.refuseUnused(options.fills(), List.of());
      return nothing(like, options, selected);
    }
    DraftPlanner planner =
        new DraftPlanner(project, selection, renames, options, questions, present, wanted);
    return written(like, options, sources().scratch().in(like, planner::plan), renames, target);
  }

  private StructureSources sources() {
    return new StructureSources(project);
  }

  private WantedStructure wanted(
      DraftOptions options, Environment like, Snapshot present, DraftQuestions questions) {
    return options.model().isPresent()
        ? WantedStructure.of(project, like, options.model().get(), present, options, questions)
        : new WantedStructure(wanted(options, like).withoutRights(), options, List.of(), List.of());
  }

  private Snapshot wanted(DraftOptions options, Environment like) {
    if (options.from().isPresent()) {
      return project.in(options.from(), Access.READ, this::live);
    }
    if (SchemaFiles.read(project.project().root()).isEmpty()) {
      throw RefusedException.of(
          "no structure is declared: schema/ has no files",
          SchemaFiles.FOLDER + "/",
          Advice.of(Advice.Code.WRITE_SCHEMA_FILES));
    }
    return sources().scratch().ofSchema(like);
  }

  /** A database that lags behind the ladder would have the draft drop what waits. */
  private Snapshot live(EnvironmentContext context) throws SQLException {
    History history = context.journal().read(Depth.GLANCE);
    List<String> waiting =
        project.project().rungs().stream()
            .filter(rung -> history.rung(rung.number()).filter(RungRecord::isInPlace).isEmpty())
            .map(Rung::label)
            .toList();
    if (!waiting.isEmpty()) {
      String name = context.environment().name();
      throw RefusedException.of(
          name + " lags behind the ladder: not in place there: " + String.join(", ", waiting),
          "environment " + name,
          Advice.of(Advice.Code.APPLY_FIRST, name));
    }
    return context.structure().snapshot();
  }

  private Draft nothing(Environment like, DraftOptions options, DraftSelection.Selected selected) {
    Optional<String> file =
        options.evenIfEmpty() && options.write()
            ? Optional.of(write(options, RungDraft.EMPTY))
            : Optional.empty();
    return new Draft(
        like.name(),
        file,
        options.evenIfEmpty() ? RungDraft.EMPTY.written(options.words()) : "",
        List.of(),
        List.of(),
        List.of(),
        List.of(),
        List.of(),
        selected.standing(),
        selected.hidden(),
        List.of(),
        Optional.empty());
  }

  private Draft written(
      Environment like,
      DraftOptions options,
      PlannedDraft planned,
      Renames renames,
      Target target) {
    RungDraft rung = planned.rung(renames.unanswered());
    rung.refuseTooLarge(Advice.of(Advice.Code.DRAFT_IN_PARTS));
    rung.refuseSecrets(like.definitionSecrets());
    return new Draft(
        like.name(),
        options.write() ? Optional.of(target.write(rung)) : Optional.empty(),
        rung.written(options.words()),
        planned.upScript().written(),
        planned.upScript().leftOut(),
        planned.downScript().leftOut(),
        planned.risks(),
        renames.unanswered(),
        planned.selected().standing(),
        planned.selected().hidden(),
        List.of(),
        planned.notProved());
  }

  private String write(DraftOptions options, RungDraft rung) {
    return ProjectWriter.rung(
        project.project(), options.words(), rung, project.settings().timestamp());
  }
}
