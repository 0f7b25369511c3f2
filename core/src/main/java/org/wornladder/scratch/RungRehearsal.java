package org.wornladder.scratch;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import org.wornladder.LadderException;
import org.wornladder.RehearsalReport.BrokenCaller;
import org.wornladder.RehearsalReport.OfRung;
import org.wornladder.RehearsalReport.OfStatement;
import org.wornladder.change.Difference;
import org.wornladder.change.Differences;
import org.wornladder.change.IgnoreFilter;
import org.wornladder.engine.Ability;
import org.wornladder.engine.StatementMeter;
import org.wornladder.execution.EnvironmentContext;
import org.wornladder.execution.Plan;
import org.wornladder.execution.Step;
import org.wornladder.project.Callers;
import org.wornladder.project.Direction;
import org.wornladder.project.Rung;
import org.wornladder.schema.Column;
import org.wornladder.schema.Schema;
import org.wornladder.schema.Snapshot;
import org.wornladder.schema.Table;
import org.wornladder.sql.SqlTextException;
import org.wornladder.sql.Statement;

/**
 * Runs rungs up, down and up again, and compares structure and rows.
 *
 * @param callers the application's own statements
 * @param bothWays whether they must work on the structure before a rung, too
 */
public record RungRehearsal(
    EnvironmentContext scratch,
    ScratchLadder ladder,
    IgnoreFilter ignored,
    List<Statement> callers,
    boolean bothWays) {

  /** What is found out on the way. */
  private static final class Findings {
    private OptionalLong up = OptionalLong.empty();
    private OptionalLong down = OptionalLong.empty();
    private OptionalLong again = OptionalLong.empty();
    private final List<String> faults = new ArrayList<>();
    private final List<Difference> differences = new ArrayList<>();
    private final List<String> lost = new ArrayList<>();
    private final List<BrokenCaller> broken = new ArrayList<>();
  }

  /** Proves one rung, which is in place afterwards if its way up runs. */
  public OfRung rehearse(Rung rung) throws SQLException {
    Findings found = new Findings();
    List<OfStatement> statements = new ArrayList<>();
    Optional<String> oneWay = rung.script().noWayDown();
    boolean hasDown = rung.script().section(Direction.DOWN, scratch.engine().name()).isPresent();
    if (!hasDown && oneWay.isEmpty()) {
      oneWay = Optional.of("it has no way down");
    }
    List<BrokenCaller> brokenBefore = failing();
    Schema standing = scratch.structure();
    Snapshot before = standing.snapshot().withoutRights();
    RowCopy rowsBefore = RowCopy.of(scratch, standing);
    try {
      Plan up = ladder.up(rung.number());
      statements.addAll(measured(up));
      found.up = OptionalLong.of(ladder.run(up));
    } catch (LadderException e) {
      found.faults.add("the way up fails: " + words(e));
    }
    if (found.up.isPresent()) {
      Schema after = scratch.structure();
      callers(found, brokenBefore);
      if (hasDown) {
        back(found, rung, before, rowsBefore, after);
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
        statements,
        found.broken);
  }

  private static String words(LadderException e) {
    return e.what() + e.where().map(place -> " (" + place + ")").orElse("");
  }

  private void back(Findings found, Rung rung, Snapshot before, RowCopy rowsBefore, Schema made)
      throws SQLException {
    Snapshot after = made.snapshot().withoutRights();
    RowCopy rowsAfter = RowCopy.of(scratch, made);
    try {
      found.down = OptionalLong.of(ladder.run(ladder.down()));
    } catch (LadderException e) {
      found.faults.add("the way down fails: " + words(e));
      return;
    }
    Schema back = scratch.structure();
    compare(found, "after the way down", before, back.snapshot().withoutRights());
    rowsBefore
        .differences(RowCopy.of(scratch, back), after)
        .forEach(rows -> found.faults.add("after the way down " + rows));
    lost(found, before, after);
    try {
      found.again = OptionalLong.of(ladder.run(ladder.up(rung.number())));
    } catch (LadderException e) {
      found.faults.add("the second way up fails: " + words(e));
      return;
    }
    Schema again = scratch.structure();
    compare(found, "after the second way up", after, again.snapshot().withoutRights());
    if (found.faults.isEmpty()) {
      rowsAfter
          .differences(RowCopy.of(scratch, again), before)
          .forEach(rows -> found.faults.add("after the second way up " + rows));
    }
  }

  private void compare(Findings found, String when, Snapshot wanted, Snapshot there) {
    List<Difference> all = ignored.without(Differences.between(wanted, there));
    List<Difference> differences = placesColumns() ? all : Differences.butForOrder(all);
    if (differences.size() < all.size()) {
      found.lost.add("the places of columns among the others");
    }
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

  /** What no way down can give back. */
  private static void lost(Findings found, Snapshot before, Snapshot after) {
    for (Difference difference : Differences.between(before, after)) {
      if (difference.change() == Difference.Change.REMOVED) {
        if (difference.either() instanceof Table table) {
          found.lost.add("the rows of " + table.name());
        } else if (difference.either() instanceof Column column
            && column.more(Column.GENERATED).isEmpty()) {
          found.lost.add("the values of " + difference.fullName());
        }
      }
    }
  }

  /** Only where all of it is one transaction can it be tried without a trace. */
  private List<OfStatement> measured(Plan plan) throws SQLException {
    List<OfStatement> measured = new ArrayList<>();
    Optional<StatementMeter> meter = scratch.session().meter();
    for (Step.OfRung rung : plan.rungs()) {
      boolean possible = meter.isPresent() && rung.liftedBefore().isEmpty();
      List<StatementMeter.Measured> all =
          possible && !isOutsideTransaction(rung)
              ? meter.get().measure(rung.statements())
              : List.of();
      for (int i = 0; i < all.size(); i++) {
        Statement statement = rung.statements().get(i);
        measured.add(
            new OfStatement(
                statement.place().line(),
                plan.secrets().mask(statement.text()),
                all.get(i).millis(),
                all.get(i).effects()));
      }
    }
    scratch.session().reset();
    return measured;
  }

  /** Whether the rung itself says that it refuses a transaction. */
  private boolean isOutsideTransaction(Step.OfRung rung) {
    return scratch
        .project()
        .rung(rung.number())
        .filter(one -> one.script().header().outsideTransaction())
        .isPresent();
  }

  private List<BrokenCaller> failing() {
    List<BrokenCaller> failing = new ArrayList<>();
    for (Statement caller : callers) {
      refusal(caller)
          .ifPresent(why -> failing.add(new BrokenCaller(caller.place().toString(), why)));
    }
    return failing;
  }

  private Optional<String> refusal(Statement caller) {
    try {
      return scratch
          .session()
          .refusal(
              Callers.withPlaceholders(
                  caller, scratch.engine().dialect(), scratch.session()::placeholder));
    } catch (SqlTextException e) {
      return Optional.of(e.getMessage());
    }
  }

  private void callers(Findings found, List<BrokenCaller> before) {
    List<String> broken = before.stream().map(BrokenCaller::place).toList();
    List<BrokenCaller> now = failing();
    now.stream().filter(one -> !broken.contains(one.place())).forEach(found.broken::add);
    if (bothWays) {
      before.stream()
          .filter(one -> now.stream().noneMatch(other -> other.place().equals(one.place())))
          .map(one -> new BrokenCaller(one.place(), "before the rung: " + one.reason()))
          .forEach(found.broken::add);
    }
  }
}
