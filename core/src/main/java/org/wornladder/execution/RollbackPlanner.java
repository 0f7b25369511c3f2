package org.wornladder.execution;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.wornladder.Advice;
import org.wornladder.RefusedException;
import org.wornladder.RefusedException.Refusal;
import org.wornladder.RollbackOptions;
import org.wornladder.engine.Engine;
import org.wornladder.engine.StatementTarget;
import org.wornladder.engine.StatementTargets;
import org.wornladder.execution.Step.StandingAction;
import org.wornladder.journal.Entry;
import org.wornladder.journal.EntrySubject;
import org.wornladder.journal.Event;
import org.wornladder.journal.History;
import org.wornladder.journal.RungRecord;
import org.wornladder.journal.RungRecord.State;
import org.wornladder.project.Direction;
import org.wornladder.project.Environment;
import org.wornladder.project.Project;
import org.wornladder.project.Rung;
import org.wornladder.project.RungNames;
import org.wornladder.project.Script;
import org.wornladder.project.ScriptParser;
import org.wornladder.sql.Statement;

/** Plans the way down: the reverse of the order in which the rungs ran there. */
public final class RollbackPlanner {
  /** The source shown for a computed way down. */
  private static final String DERIVED = "worked out from the structures";

  private final PlanningContext basis;
  private final Project project;
  private final Environment environment;
  private final Engine engine;
  private final History history;
  private final RollbackOptions options;
  private final Map<Long, UncertainStatement> doubts;
  private final ScriptPreparation preparation;
  private final DerivedWays derivedWays;
  private final List<Refusal> refusals = new ArrayList<>();

  /**
   * @param doubts what the database says of the statements in doubt, by rung
   * @param derivedWays for rungs of which no way down was written
   */
  public RollbackPlanner(
      PlanningContext basis,
      RollbackOptions options,
      Map<Long, UncertainStatement> doubts,
      DerivedWays derivedWays) {
    this.derivedWays = derivedWays;
    this.doubts = doubts;
    this.basis = basis;
    this.project = basis.project();
    this.environment = basis.environment();
    this.engine = basis.engine();
    this.history = basis.history();
    this.options = options;
    preparation = basis.preparation();
  }

  /** A way down and where it comes from. */
  private record Way(Script script, String source) {
    /** What the journal says of the rung: with the text of a way down that no file has. */
    RecordedScript recorded(RungRecord record) {
      EntrySubject subject = record.run().subject();
      return new RecordedScript.AsBefore(
          source.equals(DERIVED) ? subject.withScript(script.wayDownText()) : subject);
    }
  }

  /**
   * The plan.
   *
   * @throws RefusedException with every reason why it may not run
   */
  public Plan plan() {
    StandingPlanner standing = new StandingPlanner(basis);
    List<Step> steps = new ArrayList<>();
    List<RungRecord> selected = selected();
    long earliest = earliestRun(selected);
    standing
        .takeDownAfter(history, earliest, "newer than what is taken back")
        .ifPresent(steps::add);
    for (RungRecord record : selected) {
      step(record, standing).ifPresent(steps::add);
    }
    standing.putBackAsBefore(history, earliest).ifPresent(steps::add);
    if (!refusals.isEmpty()) {
      throw new RefusedException(refusals);
    }
    return basis.plan(Direction.DOWN, steps, false, List.of());
  }

  private List<RungRecord> selected() {
    List<RungRecord> stuck = history.stuck();
    for (RungRecord record : stuck) {
      boolean open = record.progress().doubtful() > 0 && !doubts.get(record.number()).isSettled();
      if (open && !record.progress().up()) {
        refuse(
            doubts.get(record.number()).reason(project.label(record.number())),
            "environment " + environment.name(),
            Advice.of(
                Advice.Code.DECIDE_STATEMENT, environment.name(), project.label(record.number())));
      }
    }
    List<RungRecord> inPlace = new ArrayList<>(history.inPlaceNewestFirst());
    inPlace.addAll(0, stuck);
    RollbackOptions.Selection selection = options.selection();
    if (selection instanceof RollbackOptions.Last last) {
      return inPlace.subList(0, Math.min(last.count(), inPlace.size()));
    }
    if (selection instanceof RollbackOptions.To to) {
      checkTarget(to.number());
      return inPlace.stream().filter(record -> record.number() > to.number()).toList();
    }
    return inPlace.stream().filter(record -> project.rung(record.number()).isEmpty()).toList();
  }

  /**
   * The entry of the first run among the rungs that are undone: what came after it may need them.
   */
  private long earliestRun(List<RungRecord> selected) {
    return selected.stream()
        .filter(record -> record.state() != State.PASSED_OVER)
        .mapToLong(history::began)
        .min()
        .orElse(Long.MAX_VALUE);
  }

  private void checkTarget(long number) {
    if (number != 0 && !history.isInPlace(number)) {
      refuse(
          project.label(number) + " is not in place on " + environment.name(),
          "environment " + environment.name(),
          Advice.of(Advice.Code.ROLLBACK_TARGET, environment.name()));
    }
  }

  /** A rung that came up half way can be taken down where every statement drops one object. */
  private void checkHalfWay(String label, List<Statement> statements, boolean hasFile) {
    for (Statement statement : statements) {
      boolean drops =
          StatementTargets.of(statement)
              .filter(object -> object.change() == StatementTarget.Change.DROPS)
              .isPresent();
      if (!drops) {
        refuse(
            label
                + " is stuck on its way up, and this statement of its way down does more than drop"
                + " one thing: it cannot be left out where it finds nothing to do",
            statement.place().toString(),
            hasFile
                ? Advice.of(Advice.Code.APPLY_THEN_ROLL_BACK, environment.name())
                : Advice.of(Advice.Code.RESTORE_FILE_THEN_APPLY, environment.name()));
      }
    }
  }

  /** Whether the way down that is running began on a rung that had come up half way. */
  private boolean beganHalfWay(RungRecord record) {
    boolean half = false;
    for (Entry entry : history.entries()) {
      if (entry.subject().rung() == record.number() && entry.event() == Event.DOWN_STARTED) {
        half = entry.note().text().equals(Runner.HALF_WAY);
      }
    }
    return half;
  }

  private Optional<Step> step(RungRecord record, StandingPlanner standing) {
    String label = project.label(record.number());
    boolean passedOver = record.state() == State.PASSED_OVER;
    Optional<Way> way = passedOver ? Optional.of(fromJournal(record)) : way(record, label);
    if (way.isEmpty()) {
      return Optional.empty();
    }
    Script script = way.get().script();
    List<Statement> statements =
        passedOver ? List.of() : preparation.statements(script, Direction.DOWN);
    boolean stuck = record.state() == State.STUCK;
    boolean half = stuck && (record.progress().up() || beganHalfWay(record));
    if (half) {
      checkHalfWay(label, statements, project.rung(record.number()).isPresent());
    }
    boolean goesOn = stuck && !record.progress().up();
    boolean fromFile =
        project.rung(record.number()).filter(rung -> rung.script() == script).isPresent();
    if (goesOn && fromFile && !WhatRan.of(record, history).isIn(script, basis)) {
      refuse(
          label
              + " is stuck on its way down after statement "
              + record.progress().reached()
              + ", and its file was edited since",
          way.get().source(),
          Advice.of(Advice.Code.ACCEPT_FILE, environment.name(), label));
    }
    Optional<UncertainStatement> doubt =
        goesOn ? Optional.ofNullable(doubts.get(record.number())) : Optional.empty();
    Set<Integer> before = goesOn ? record.progress().done() : Set.of();
    Set<Integer> done = doubt.isPresent() ? doubt.get().with(before) : before;
    List<String> lifts = passedOver ? List.of() : script.header().lifts();
    List<StandingAction> lifted = standing.lift(lifts, label);
    List<StandingAction> putBack = standing.putBackSame(lifted);
    return Optional.of(
        new Step.OfRung(
            Direction.DOWN,
            record.number(),
            label,
            project.rung(record.number()).map(Rung::about).orElse(record.run().subject().name()),
            way.get().recorded(record),
            way.get().source(),
            basis.transactions(script.header(), statements, half),
            statements,
            done,
            doubt,
            half,
            passedOver
                ? new Decision.PassOver("it was passed over here, so there is nothing to undo")
                : new Decision.Run(),
            lifted,
            putBack,
            Optional.empty(),
            Optional.empty(),
            Optional.empty()));
  }

  /** The file's way down while its way up is the one that ran; otherwise the journal's. */
  private Optional<Way> way(RungRecord record, String label) {
    Optional<Rung> file = project.rung(record.number());
    boolean serves = file.isPresent() && !ApplyPlanner.isWorn(record, file.get());
    Way way = serves ? new Way(file.get().script(), file.get().file()) : fromJournal(record);
    boolean allowed =
        options.fromJournal() || options.selection() instanceof RollbackOptions.Absent;
    if (!way.script().hasWayDown(engine.name())) {
      Optional<Way> derived = derived(record, way.script());
      if (derived.isEmpty()) {
        refuseOneWay(way, label);
      }
      return derived;
    }
    if (!serves && !allowed) {
      refuse(
          (file.isPresent()
                  ? isFold(file.get())
                      ? label + " ran before it was folded"
                      : label + " is worn: edited since it ran"
                  : label + " has no file in this checkout")
              + ", so its way down must come from the journal",
          file.map(Rung::file).orElse("environment " + environment.name()),
          Advice.of(
              Advice.Code.ROLL_BACK_FROM_JOURNAL,
              environment.secrets().mask(oneLine(way.script()))));
      return Optional.empty();
    }
    return Optional.of(way);
  }

  private static boolean isFold(Rung rung) {
    return rung.script().header().folds().isPresent();
  }

  /**
   * Resumes a way down that has begun; computes one only if the rung gives no reason for having
   * none.
   */
  private Optional<Way> derived(RungRecord record, Script script) {
    Optional<Script> begun =
        record.state() == State.STUCK && !record.progress().up()
            ? Optional.of(journalled(record, begunScript(record)))
            : Optional.empty();
    boolean wanted = script.noWayDown().isEmpty();
    return begun
        .or(() -> wanted ? derivedWays.of(record) : Optional.empty())
        .map(way -> new Way(way, DERIVED));
  }

  /** The text of the way down that is running. */
  private String begunScript(RungRecord record) {
    String script = "";
    for (Entry entry : history.entries()) {
      if (entry.subject().rung() == record.number() && entry.event() == Event.DOWN_STARTED) {
        script = entry.subject().script();
      }
    }
    return script;
  }

  private void refuseOneWay(Way way, String label) {
    Optional<String> reason = way.script().noWayDown();
    refuse(
        label + " has no way down" + reason.map(text -> ": " + text).orElse("; none was written"),
        way.source(),
        reason.isPresent()
            ? Advice.hint("write a new rung that undoes it, or restore a backup")
            : Advice.of(Advice.Code.DERIVE_WAY_DOWN, environment.name()));
  }

  private String oneLine(Script script) {
    return script
        .section(Direction.DOWN, engine.name())
        .map(section -> section.text().strip().replaceAll("\\s+", " "))
        .orElse("");
  }

  private static Way fromJournal(RungRecord record) {
    return new Way(journalled(record), "journal");
  }

  /** The way down as the journal keeps it. */
  static Script journalled(RungRecord record) {
    return journalled(record, record.run().subject().script());
  }

  private static Script journalled(RungRecord record, String text) {
    String name = RungNames.label(record.number()) + " in the journal";
    return ScriptParser.parseJournalled(name, text);
  }

  private void refuse(String what, String where, String hint) {
    refuse(what, where, Advice.hint(hint));
  }

  private void refuse(String what, String where, Advice advice) {
    refusals.add(new Refusal(what, where, advice));
  }
}
