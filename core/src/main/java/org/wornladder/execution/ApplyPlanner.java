package org.wornladder.execution;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.wornladder.Advice;
import org.wornladder.ApplyOptions;
import org.wornladder.RefusedException;
import org.wornladder.RefusedException.Refusal;
import org.wornladder.engine.Ability;
import org.wornladder.engine.Engine;
import org.wornladder.execution.Plan.Note;
import org.wornladder.journal.History;
import org.wornladder.journal.RungRecord;
import org.wornladder.journal.RungRecord.Progress;
import org.wornladder.journal.RungRecord.State;
import org.wornladder.project.Direction;
import org.wornladder.project.Environment;
import org.wornladder.project.FoldedRange;
import org.wornladder.project.Header;
import org.wornladder.project.Project;
import org.wornladder.project.ProjectWriter;
import org.wornladder.project.Rung;
import org.wornladder.sql.Statement;

/** Plans the way up: which rungs wait, in which order, and whether they may run. */
public final class ApplyPlanner {
  /** How many rungs one note names. */
  private static final int MOST_NAMED = 5;

  private final PlanningContext basis;
  private final Project project;
  private final Environment environment;
  private final Engine engine;
  private final History history;
  private final List<Rung> folds;
  private final ApplyOptions options;
  private final Map<Long, UncertainStatement> doubts;
  private final ScriptPreparation preparation;

  /** Asked for each waiting rung, so it is looked for once. */
  private final long highest;

  /** Waiting rungs that the environment does not have from which this one is promoted. */
  private final List<Rung> notPromoted = new ArrayList<>();

  private final List<Refusal> refusals = new ArrayList<>();
  private final List<Note> notes = new ArrayList<>();

  /**
   * @param doubts what the database says of the statements in doubt, by rung
   */
  public ApplyPlanner(
      PlanningContext basis, ApplyOptions options, Map<Long, UncertainStatement> doubts) {
    this.doubts = doubts;
    this.basis = basis;
    this.project = basis.project();
    this.environment = basis.environment();
    this.engine = basis.engine();
    FoldedHistory folded = FoldedHistory.of(basis.project(), basis.history());
    this.history = folded.history();
    folds = folded.standing().stream().filter(rung -> !folded.isRecorded(rung)).toList();
    this.options = options;
    preparation = basis.preparation();
    highest = history.highestThatRan();
  }

  /**
   * The plan.
   *
   * @param promoted what the environment that this one is promoted from says of its rungs; empty if
   *     there is none
   * @throws RefusedException with every reason why it may not run
   * @throws org.wornladder.ProjectException if a waiting rung cannot be read
   */
  public Plan plan(Optional<History> promoted) {
    checkTarget();
    checkInPlace();
    List<Rung> waiting = waiting();
    waiting.forEach(rung -> checkWaiting(rung, promoted));
    refuseNotPromoted();
    waiting.forEach(this::notePoints);
    noteAbsent();
    noteFolds();
    if (!refusals.isEmpty()) {
      throw new RefusedException(refusals);
    }
    StandingPlanner standing = new StandingPlanner(basis);
    List<Step> steps = new ArrayList<>();
    Map<String, Integer> lastLift = lastLift(waiting, standing);
    for (int i = 0; i < waiting.size(); i++) {
      steps.add(step(waiting.get(i), i, lastLift, standing));
    }
    if (leavesRungs()) {
      notes.add(Note.of("standing scripts wait until all rungs are in place"));
    } else {
      standing.afterRungs().ifPresent(steps::add);
    }
    return basis.plan(Direction.UP, steps, options.together(), notes);
  }

  private void checkTarget() {
    if (options.to().isPresent() && project.rung(options.to().getAsLong()).isEmpty()) {
      refuse(
          "there is no rung " + options.to().getAsLong(),
          "rungs/",
          Advice.of(Advice.Code.LIST_RUNGS));
    }
  }

  private void checkInPlace() {
    for (RungRecord record : history.rungs().values()) {
      Optional<Rung> file = project.rung(record.number());
      if (record.isInPlace() && file.isPresent() && isWorn(record, file.get())) {
        refuseWorn(file.get());
      }
      if (record.state() == State.STUCK) {
        checkStuck(record, file);
      }
    }
  }

  static boolean isWorn(RungRecord record, Rung rung) {
    return !record.up().isSame(rung.script());
  }

  private void refuseWorn(Rung rung) {
    String name = environment.name();
    refuse(
        rung.label() + " is worn: edited since it ran on " + name,
        rung.file(),
        environment.settings().disposable()
            ? Advice.of(
                Advice.Code.RESTORE_REDO_OR_ACCEPT,
                rung.file(),
                name,
                rung.label(),
                project.label(before(rung.number())))
            : Advice.of(Advice.Code.RESTORE_OR_ACCEPT, rung.file(), name, rung.label()));
  }

  /** The number in place below another; 0 if there is none. */
  private long before(long number) {
    return history.rungs().values().stream()
        .filter(record -> record.isInPlace() && record.number() < number)
        .mapToLong(RungRecord::number)
        .max()
        .orElse(0);
  }

  private void checkStuck(RungRecord record, Optional<Rung> file) {
    Progress progress = record.progress();
    String label = project.label(record.number());
    if (!progress.up()) {
      refuse(
          label + " is stuck on its way down, after statement " + progress.reached(),
          "environment " + environment.name(),
          Advice.of(Advice.Code.ROLL_BACK_GOES_ON, environment.name()));
    } else if (progress.doubtful() > 0 && !doubts.get(record.number()).isSettled()) {
      refuse(
          doubts.get(record.number()).reason(label),
          "environment " + environment.name(),
          Advice.of(Advice.Code.DECIDE_STATEMENT, environment.name(), label));
    } else if (file.isEmpty()) {
      refuse(
          label + " is stuck after statement " + progress.reached() + ", and its file is gone",
          "environment " + environment.name(),
          Advice.of(Advice.Code.RESTORE_FILE_OR_TAKE_DOWN, environment.name()));
    } else if ((progress.reached() > 0 || BatchRunner.last(history, record.number()).isPresent())
        && (isWorn(record, file.get())
            || !WhatRan.of(record, history).isIn(file.get().script(), basis))) {
      refuse(
          label
              + " is stuck after statement "
              + progress.reached()
              + ", and its file was edited since",
          file.get().file(),
          Advice.of(Advice.Code.ACCEPT_FILE, environment.name(), label));
    }
  }

  private List<Rung> waiting() {
    List<Rung> waiting = new ArrayList<>();
    for (Rung rung : project.rungs()) {
      boolean wanted = options.to().isEmpty() || rung.number() <= options.to().getAsLong();
      if (wanted && !history.isInPlace(rung.number())) {
        waiting.add(rung);
      }
    }
    return waiting;
  }

  private boolean leavesRungs() {
    return options.to().isPresent()
        && project.rungs().stream()
            .anyMatch(
                rung ->
                    rung.number() > options.to().getAsLong() && !history.isInPlace(rung.number()));
  }

  private void checkWaiting(Rung rung, Optional<History> promoted) {
    if (rung.number() < highest && !environment.settings().lateAllowed()) {
      refuse(
          rung.label()
              + " is late: "
              + project.label(highest)
              + " already ran on "
              + environment.name(),
          rung.file(),
          Advice.of(
              Advice.Code.RENUMBER_OR_ALLOW_LATE,
              rung.label(),
              project.label(highest),
              environment.name()));
    }
    Header header = rung.script().header();
    header.folds().ifPresent(range -> refuseMiddle(rung, range));
    if (options.together() && !engine.abilities().contains(Ability.TRANSACTIONAL_DDL)) {
      refuse(
          engine.name()
              + " cannot undo changes of structure, so one transaction for all is no promise",
          "environment " + environment.name(),
          Advice.of(Advice.Code.NOT_TOGETHER));
    }
    if ((header.outsideTransaction() || header.batching().isPresent()) && options.together()) {
      refuse(
          rung.label()
              + (header.batching().isPresent() ? " runs in batches" : " runs outside a transaction")
              + ", so it cannot be part of one for all",
          rung.file(),
          Advice.of(Advice.Code.NOT_TOGETHER_OR_UP_TO));
    }
    promoted.ifPresent(from -> checkPromoted(rung, FoldedHistory.of(project, from).history()));
  }

  /** A database that has some of the folded rungs can neither go on with them nor do without. */
  private void refuseMiddle(Rung fold, FoldedRange range) {
    List<String> labels =
        history.rungs().values().stream()
            .filter(record -> record.isInPlace() && range.covers(record.number()))
            .map(record -> project.label(record.number()))
            .toList();
    if (!labels.isEmpty()) {
      refuse(
          environment.name()
              + " has "
              + labels.get(0)
              + (labels.size() == 1 ? "" : " to " + labels.get(labels.size() - 1))
              + " alone of those that "
              + fold.label()
              + " stands for",
          fold.file(),
          Advice.of(Advice.Code.LEAVE_FOLD, environment.name(), ProjectWriter.FOLDED, fold.file()));
    }
  }

  private void checkPromoted(Rung rung, History from) {
    String origin = environment.settings().promotedFrom().orElseThrow();
    Optional<RungRecord> there = from.rung(rung.number()).filter(RungRecord::isInPlace);
    if (there.isEmpty()) {
      notPromoted.add(rung);
    } else if (isWorn(there.get(), rung)) {
      refuse(
          rung.label() + " ran on " + origin + " with another text",
          rung.file(),
          Advice.of(Advice.Code.SHOW_STATUS, origin));
    }
  }

  private void refuseNotPromoted() {
    if (notPromoted.isEmpty()) {
      return;
    }
    String origin = environment.settings().promotedFrom().orElseThrow();
    int more = notPromoted.size() - 1;
    refuse(
        notPromoted.get(0).label()
            + (more == 0 ? " is" : " and " + more + " more are")
            + " not in place on "
            + origin
            + ", from which "
            + environment.name()
            + " is promoted",
        notPromoted.get(0).file(),
        Advice.of(Advice.Code.APPLY_FIRST, origin));
  }

  /** What a person should know before saying yes. */
  private void notePoints(Rung rung) {
    if (rung.number() < highest) {
      notes.add(
          Note.of(rung.label() + " is late: " + project.label(highest) + " already ran there"));
    }
    boolean runs = !(decision(rung.script().header()) instanceof Decision.PassOver);
    if (environment.settings().guarded() && runs) {
      oneWay(rung).ifPresent(why -> notes.add(Note.of(rung.label() + " is one-way: " + why)));
    }
  }

  private void noteFolds() {
    for (Rung fold : folds) {
      notes.add(
          Note.of(
              fold.label()
                  + " stands for "
                  + fold.script().header().folds().orElseThrow().words()
                  + ", which ran here; the journal gets an entry that says so"));
    }
  }

  private void noteAbsent() {
    List<String> absent = new ArrayList<>();
    for (RungRecord record : history.rungs().values()) {
      if (record.isInPlace() && project.rung(record.number()).isEmpty()) {
        absent.add(project.label(record.number()));
      }
    }
    if (absent.isEmpty()) {
      return;
    }
    boolean one = absent.size() == 1;
    List<String> named = absent.subList(0, Math.min(absent.size(), MOST_NAMED));
    String more =
        absent.size() > MOST_NAMED ? " and " + (absent.size() - MOST_NAMED) + " more" : "";
    notes.add(
        new Note(
            String.join(", ", named)
                + more
                + (one ? " is" : " are")
                + " in place on "
                + environment.name()
                + ", but this checkout has no file for "
                + (one ? "it" : "them"),
            Advice.of(Advice.Code.ROLL_BACK_ABSENT, environment.name())));
  }

  /** For each standing script, the last waiting rung that lifts it: there it is restored. */
  private static Map<String, Integer> lastLift(List<Rung> waiting, StandingPlanner standing) {
    Map<String, Integer> last = new HashMap<>();
    for (int i = 0; i < waiting.size(); i++) {
      for (String name : standing.lifted(waiting.get(i).script().header().lifts())) {
        last.put(name, i);
      }
    }
    return last;
  }

  private Step.OfRung step(
      Rung rung, int index, Map<String, Integer> lastLift, StandingPlanner standing) {
    Header header = rung.script().header();
    Decision decision = decision(header);
    boolean runs = !(decision instanceof Decision.PassOver);
    List<Statement> statements =
        runs ? preparation.statements(rung.script(), Direction.UP) : List.of();
    if (runs && statements.isEmpty()) {
      throw RefusedException.of(
          rung.label() + " has no way up for " + engine.name(),
          rung.file(),
          "write --| up, or --| up on " + engine.name());
    }
    List<String> back =
        standing.lifted(header.lifts()).stream()
            .filter(name -> lastLift.get(name) == index)
            .toList();
    boolean certain = decision instanceof Decision.Run;
    Optional<RungRecord> record =
        history.rung(rung.number()).filter(found -> found.state() == State.STUCK);
    Optional<UncertainStatement> doubt = record.map(found -> doubts.get(found.number()));
    Set<Integer> before = record.isPresent() ? record.get().progress().done() : Set.of();
    Set<Integer> done = doubt.isPresent() ? doubt.get().with(before) : before;
    return new Step.OfRung(
        Direction.UP,
        rung.number(),
        rung.label(),
        rung.about(),
        new RecordedScript.OfFile(rung, engine.dialect()),
        rung.file(),
        basis.transactions(header, statements, !done.isEmpty() || doubt.isPresent()),
        statements,
        done,
        doubt,
        false,
        decision,
        runs ? standing.lift(header.lifts(), rung.label()) : List.of(),
        runs ? standing.putBack(back, certain) : List.of(),
        oneWay(rung),
        header.batching(),
        record.flatMap(found -> BatchRunner.last(history, found.number())));
  }

  private Decision decision(Header header) {
    if (!header.onlyIn().isEmpty() && !header.onlyIn().contains(environment.name())) {
      return new Decision.PassOver("only in " + String.join(", ", header.onlyIn()));
    }
    return header.conditions().isEmpty()
        ? new Decision.Run()
        : new Decision.AtItsTurn(header.conditions(), header.passes());
  }

  private Optional<String> oneWay(Rung rung) {
    if (rung.script().noWayDown().isPresent()) {
      return rung.script().noWayDown();
    }
    return rung.script().hasWayDown(engine.name())
        ? Optional.empty()
        : Optional.of("no way down is written");
  }

  private void refuse(String what, String where, String hint) {
    refuse(what, where, Advice.hint(hint));
  }

  private void refuse(String what, String where, Advice advice) {
    refusals.add(new Refusal(what, where, advice));
  }
}
