package org.wornladder.scratch;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import org.wornladder.LadderException;
import org.wornladder.RehearsalReport.BrokenCaller;
import org.wornladder.RehearsalReport.OfRung;
import org.wornladder.RehearsalReport.OfStatement;
import org.wornladder.RehearsalReport.WholeTable;
import org.wornladder.change.Difference;
import org.wornladder.change.Differences;
import org.wornladder.change.IgnoreFilter;
import org.wornladder.engine.Ability;
import org.wornladder.engine.StatementMeter;
import org.wornladder.execution.EnvironmentContext;
import org.wornladder.execution.Plan;
import org.wornladder.execution.StatementRisks;
import org.wornladder.execution.Step;
import org.wornladder.project.Direction;
import org.wornladder.project.Rung;
import org.wornladder.project.Secrets;
import org.wornladder.schema.Column;
import org.wornladder.schema.Snapshot;
import org.wornladder.schema.Table;
import org.wornladder.scratch.CallerTrial.Outcome;
import org.wornladder.sql.Statement;

/** Runs rungs up, down and up again, one behind the other, and compares structure and rows. */
public final class RungRehearsal {
  private final EnvironmentContext scratch;
  private final ScratchLadder ladder;
  private final IgnoreFilter ignored;
  private final CallerTrial callers;
  private final boolean bothWays;
  private Map<String, Outcome> callersNow = Map.of();

  /** The callers that worked at some time. */
  private final Set<String> worked = new HashSet<>();

  /** What the rung before has left; empty where nothing is known of it. */
  private Optional<Moment> left = Optional.empty();

  /**
   * @param callers the application's own statements
   * @param runCallers whether they run, instead of being prepared alone
   * @param bothWays whether they must work on the structure before a rung, too
   */
  public RungRehearsal(
      EnvironmentContext scratch,
      ScratchLadder ladder,
      IgnoreFilter ignored,
      List<Statement> callers,
      boolean runCallers,
      boolean bothWays) {
    this.scratch = scratch;
    this.ladder = ladder;
    this.ignored = ignored;
    this.callers = new CallerTrial(scratch, List.copyOf(callers), runCallers);
    this.bothWays = bothWays;
  }

  /** What is found out on the way. */
  private static final class Findings {
    private OptionalLong up = OptionalLong.empty();
    private OptionalLong down = OptionalLong.empty();
    private OptionalLong again = OptionalLong.empty();
    private final List<String> faults = new ArrayList<>();
    private final List<Difference> differences = new ArrayList<>();
    private final List<String> lost = new ArrayList<>();
    private final List<String> renamed = new ArrayList<>();
    private final List<BrokenCaller> broken = new ArrayList<>();
    private final List<BrokenCaller> mended = new ArrayList<>();
  }

  /** Proves one rung, which is in place afterwards if its way up runs. */
  public OfRung rehearse(Rung rung) throws SQLException {
    Findings found = new Findings();
    Measurement measurement = Measurement.NONE;
    StatementTimes times = new StatementTimes();
    Optional<String> oneWay = rung.script().noWayDown();
    boolean hasDown = rung.script().section(Direction.DOWN, scratch.engine().name()).isPresent();
    if (!hasDown && oneWay.isEmpty()) {
      oneWay = Optional.of("it has no way down");
    }
    Map<String, Outcome> callersBefore = callersNow.isEmpty() ? callers.outcomes() : callersNow;
    note(callersBefore);
    Moment before = left.isPresent() ? left.get() : Moment.of(scratch);
    left = Optional.empty();
    try {
      Plan up = ladder.up(rung.number());
      measurement = measured(up);
      found.renamed.addAll(renamed(up));
      found.up = OptionalLong.of(ladder.run(up, times));
    } catch (LadderException e) {
      found.faults.add("the way up fails: " + words(e));
    }
    if (found.up.isPresent()) {
      Moment after = Moment.of(scratch);
      callers(found, callersBefore);
      note(callersNow);
      if (hasDown) {
        back(found, rung, before, after);
      } else {
        left = Optional.of(after);
      }
    }
    return new OfRung(
        rung.label(),
        rung.script().header().about().orElse(rung.words()),
        rung.file(),
        found.up,
        found.down,
        found.again,
        found.faults,
        found.differences,
        found.lost,
        oneWay,
        measurement.statements(times, before.rows()),
        found.broken,
        found.mended);
  }

  private void note(Map<String, Outcome> outcomes) {
    outcomes.forEach(
        (place, outcome) -> {
          if (outcome.canBePrepared()) {
            worked.add(place);
          }
        });
  }

  private static String words(LadderException e) {
    return e.what() + e.where().map(place -> " (" + place + ")").orElse("");
  }

  private void back(Findings found, Rung rung, Moment before, Moment after) throws SQLException {
    try {
      found.down = OptionalLong.of(ladder.run(ladder.down()));
    } catch (LadderException e) {
      found.faults.add("the way down fails: " + words(e));
      return;
    }
    Moment back = Moment.of(scratch);
    compare(found, "after the way down", before.structure(), back.structure());
    before
        .rows()
        .differences(back.rows(), after.structure())
        .forEach(rows -> found.faults.add("after the way down " + rows));
    lost(found, before, after, back);
    try {
      found.again = OptionalLong.of(ladder.run(ladder.up(rung.number())));
    } catch (LadderException e) {
      found.faults.add("the second way up fails: " + words(e));
      return;
    }
    Moment again = Moment.of(scratch);
    left = Optional.of(again);
    compare(found, "after the second way up", after.structure(), again.structure());
    if (found.faults.isEmpty()) {
      after
          .rows()
          .differences(again.rows(), before.structure())
          .forEach(rows -> found.faults.add("after the second way up " + rows));
    }
  }

  private void compare(Findings found, String when, Snapshot wanted, Snapshot there) {
    List<Difference> all = ignored.without(Differences.between(wanted, there));
    List<Difference> differences = placesColumns() ? all : Differences.butForOrder(all);
    if (differences.size() < all.size()) {
      found.lost.add("the places of columns among the others");
    }
    // What the way down left otherwise is still so behind the second way up.
    differences = differences.stream().filter(one -> !found.differences.contains(one)).toList();
    for (Difference difference : differences) {
      String word =
          switch (difference.change()) {
            case ADDED -> " is still there";
            case REMOVED -> " is missing";
            case CHANGED -> " is another one";
          };
      found.faults.add(when + ", " + difference.description() + word);
    }
    found.differences.addAll(differences);
  }

  /** Whether a way down could put a column where it was. */
  private boolean placesColumns() {
    return scratch.engine().abilities().contains(Ability.COLUMN_POSITIONS);
  }

  /**
   * What the way down has not given back: what was dropped, unless its rows came back, or a
   * statement only gave it another name.
   */
  private static void lost(Findings found, Moment before, Moment after, Moment back) {
    RowCopy was = before.rows();
    for (Difference difference : Differences.between(before.structure(), after.structure())) {
      if (difference.change() != Difference.Change.REMOVED
          || found.renamed.contains(difference.description().toLowerCase(Locale.ROOT))) {
        continue;
      }
      if (difference.either() instanceof Table table && !was.areBack(table.id(), back.rows())) {
        found.lost.add("the rows of " + table.name());
      } else if (difference.either() instanceof Column column
          && column.more(Column.GENERATED).isEmpty()
          && difference
              .owner()
              .filter(id -> was.areBack(id, column.name(), back.rows()))
              .isEmpty()) {
        found.lost.add("the values of " + difference.fullName());
      }
    }
  }

  /** The tables and columns that statements give another name. */
  private static List<String> renamed(Plan up) {
    return up.rungs().stream()
        .flatMap(rung -> StatementRisks.of(rung.statements()).stream())
        .filter(StatementRisks.Found::isRename)
        .map(one -> one.risk().subject().toLowerCase(Locale.ROOT))
        .toList();
  }

  /**
   * What the statements of a way up did.
   *
   * @param effects one for each statement; fewer if not all could be measured
   */
  private record Measurement(
      Secrets secrets, List<Statement> of, List<StatementMeter.Measured> effects) {
    static final Measurement NONE = new Measurement(Secrets.NONE, List.of(), List.of());

    List<OfStatement> statements(StatementTimes times, RowCopy rows) {
      List<OfStatement> all = new ArrayList<>();
      for (int i = 0; i < of.size(); i++) {
        Statement statement = of.get(i);
        StatementMeter.Measured measured =
            i < effects.size()
                ? effects.get(i)
                : new StatementMeter.Measured(0, List.of(), List.of());
        all.add(
            new OfStatement(
                statement.place().line(),
                secrets.mask(statement.text()),
                measured.millis() > 0 ? measured.millis() : times.of(statement),
                measured.effects(),
                measured.whole().stream()
                    .map(name -> new WholeTable(name, rows.count(name), Optional.empty()))
                    .toList()));
      }
      return all;
    }
  }

  /** Only where all of it is one transaction can it be tried without a trace. */
  private Measurement measured(Plan plan) throws SQLException {
    Optional<StatementMeter> meter = scratch.session().meter();
    List<Statement> statements = new ArrayList<>();
    List<StatementMeter.Measured> effects = List.of();
    for (Step.OfRung rung : plan.rungs()) {
      boolean possible = meter.isPresent() && rung.liftedBefore().isEmpty();
      statements.addAll(rung.statements());
      if (possible && !isOutsideTransaction(rung)) {
        effects = meter.get().measure(rung.statements());
      }
    }
    scratch.session().reset();
    return new Measurement(plan.secrets(), statements, effects);
  }

  /** Whether the rung itself says that it refuses a transaction. */
  private boolean isOutsideTransaction(Step.OfRung rung) {
    return scratch
        .project()
        .rung(rung.number())
        .filter(one -> one.script().header().outsideTransaction())
        .isPresent();
  }

  private void callers(Findings found, Map<String, Outcome> before) throws SQLException {
    callersNow = callers.outcomes();
    callersNow.forEach(
        (place, now) -> {
          Outcome was = before.get(place);
          now.brokenSince(was).ifPresent(why -> found.broken.add(new BrokenCaller(place, why)));
          was.brokenSince(now)
              .ifPresent(
                  why -> {
                    found.mended.add(new BrokenCaller(place, why));
                    if (bothWays) {
                      found.broken.add(new BrokenCaller(place, "before the rung: " + why));
                    }
                  });
        });
  }

  /** The callers that do not work behind the last rung, nor did before. */
  public List<BrokenCaller> neverWorking() {
    List<BrokenCaller> never = new ArrayList<>();
    callersNow.forEach(
        (place, now) -> {
          if (!now.canBePrepared() && !worked.contains(place)) {
            never.add(new BrokenCaller(place, now.reason()));
          }
        });
    return never;
  }
}
