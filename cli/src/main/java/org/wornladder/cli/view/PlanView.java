package org.wornladder.cli.view;

import java.io.PrintStream;
import java.util.List;
import java.util.Locale;
import org.wornladder.cli.Terminal;
import org.wornladder.execution.Decision;
import org.wornladder.execution.Plan;
import org.wornladder.execution.Step;
import org.wornladder.execution.Step.StandingAction;
import org.wornladder.execution.UncertainStatement;
import org.wornladder.project.Condition;
import org.wornladder.project.Direction;
import org.wornladder.project.Secrets;
import org.wornladder.sql.Statement;

/** A plan, statement by statement, as it will run. */
public final class PlanView {
  private final Terminal terminal;
  private final Colors paint;
  private final PrintStream out;

  public PlanView(Terminal terminal) {
    this.terminal = terminal;
    this.paint = new Colors(terminal);
    this.out = terminal.out();
  }

  public void show(Plan plan) {
    showSteps(plan);
    if (!plan.isEmpty()) {
      out.println();
    }
    out.println(summary(plan));
  }

  /** The plan without what to do about it, for a question to follow. */
  public void showSteps(Plan plan) {
    String there = plan.isThere() ? "" : " (not there yet; apply makes it)";
    out.println(
        paint.strong(plan.environment())
            + paint.faint("  " + plan.engine() + " " + SafeText.line(plan.address()) + there));
    plan.notes()
        .forEach(note -> out.println(paint.warning("note: ") + SafeText.line(NoteText.of(note))));
    for (Step step : plan.steps()) {
      out.println();
      if (step instanceof Step.OfRung rung) {
        rung(rung, plan.secrets());
      } else {
        ((Step.OfStanding) step).actions().forEach(action -> action(action, plan.secrets()));
      }
    }
  }

  private static String summary(Plan plan) {
    if (plan.isEmpty()) {
      return "Nothing waits on " + plan.environment() + ".";
    }
    int rungs = plan.rungs().size();
    long statements = plan.steps().stream().mapToLong(PlanView::statements).sum();
    String transaction = plan.together() ? ", all in one transaction" : "";
    return count(rungs, "rung")
        + ", "
        + count(statements, "statement")
        + transaction
        + ". Nothing has been changed. Next: ladder apply "
        + plan.environment();
  }

  private static long statements(Step step) {
    long own = step.statements().size();
    if (step instanceof Step.OfRung rung) {
      own += rung.liftedBefore().stream().mapToLong(action -> action.statements().size()).sum();
      own += rung.putBackAfter().stream().mapToLong(action -> action.statements().size()).sum();
    }
    return own;
  }

  static String count(long number, String word) {
    return number + " " + word + (number == 1 ? "" : "s");
  }

  private void rung(Step.OfRung rung, Secrets secrets) {
    out.println(
        paint.strong(rung.label() + "  " + SafeText.line(rung.about()))
            + paint.faint("  " + SafeText.line(rung.source())));
    mark(rung);
    rung.liftedBefore().forEach(action -> action(action, secrets));
    statements(rung.statements(), rung.done(), secrets);
    rung.putBackAfter().forEach(action -> action(action, secrets));
  }

  private void mark(Step.OfRung rung) {
    if (rung.decision() instanceof Decision.PassOver pass) {
      out.println("  " + paint.warning("passed over: ") + SafeText.line(pass.reason()));
    } else if (rung.decision() instanceof Decision.AtItsTurn turn) {
      String conditions =
          String.join(" and ", turn.conditions().stream().map(Condition::text).toList());
      String otherwise = turn.passes() ? "it is passed over" : "the run stops";
      out.println(
          "  "
              + paint.warning("when its turn comes: ")
              + SafeText.line(conditions)
              + "; otherwise "
              + otherwise);
    }
    rung.oneWay()
        .ifPresent(
            reason -> out.println("  " + paint.warning("one-way: ") + SafeText.line(reason)));
    if (rung.statementWise()) {
      out.println("  " + paint.warning("statement by statement: ") + "each stays once it is done");
    }
    rung.doubt()
        .ifPresent(
            doubt ->
                out.println(
                    "  "
                        + paint.warning("found: ")
                        + "statement "
                        + doubt.statement()
                        + (doubt.found() == UncertainStatement.Found.DONE
                            ? " is done: "
                            : " is not done: ")
                        + SafeText.line(doubt.words())));
    if (rung.done() > 0) {
      out.println(
          "  " + paint.warning("goes on: ") + count(rung.done(), "statement") + " done before");
    }
  }

  private void action(StandingAction action, Secrets secrets) {
    String way = action.direction() == Direction.UP ? "run" : "take down";
    out.println(
        paint.strong("  standing " + SafeText.line(action.name()))
            + paint.faint("  " + way + ": " + SafeText.line(action.reason())));
    statements(action.statements(), 0, secrets);
  }

  private void statements(List<Statement> statements, int done, Secrets secrets) {
    for (Statement statement : statements.subList(done, statements.size())) {
      String line = paint.faint(SafeText.pad(":" + statement.place().line(), 5));
      String[] text = SafeText.lines(secrets.mask(statement.text())).split("\n", -1);
      for (int i = 0; i < text.length; i++) {
        String end = i == text.length - 1 ? ";" : "";
        out.println("  " + (i == 0 ? line : "     ") + " " + text[i] + end);
      }
    }
  }

  public void json(Plan plan) {
    of(plan).write(terminal.out());
  }

  static Json of(Plan plan) {
    return new Json()
        .put("environment", plan.environment())
        .put("engine", plan.engine())
        .put("database", plan.address())
        .put("database_exists", plan.isThere())
        .put("direction", plan.direction().word())
        .put("together", plan.together())
        .put("notes", plan.notes().stream().map(NoteText::of).toList())
        .put("steps", plan.steps().stream().map(step -> of(step, plan.secrets())).toList());
  }

  private static Json of(Step step, Secrets secrets) {
    if (step instanceof Step.OfRung rung) {
      return new Json()
          .put("kind", "rung")
          .put("number", rung.number())
          .put("about", rung.about())
          .put("source", rung.source())
          .put("decision", decision(rung.decision()))
          .put("one_way", rung.oneWay())
          .put("statement_wise", rung.statementWise())
          .put("found", rung.doubt().map(UncertainStatement::words))
          .put("lifted_before", actions(rung.liftedBefore(), secrets))
          .put("statements", statements(rung.statements(), secrets))
          .put("put_back_after", actions(rung.putBackAfter(), secrets));
    }
    return new Json()
        .put("kind", "standing")
        .put("actions", actions(((Step.OfStanding) step).actions(), secrets));
  }

  private static List<Json> actions(List<StandingAction> actions, Secrets secrets) {
    return actions.stream()
        .map(
            action ->
                new Json()
                    .put("name", action.name())
                    .put("direction", action.direction().word())
                    .put("reason", action.reason())
                    .put("statements", statements(action.statements(), secrets)))
        .toList();
  }

  private static List<Json> statements(List<Statement> statements, Secrets secrets) {
    return statements.stream()
        .map(
            statement ->
                new Json()
                    .put("file", statement.place().file())
                    .put("line", statement.place().line())
                    .put("column", statement.place().column())
                    .put("sql", secrets.mask(statement.text())))
        .toList();
  }

  private static Json decision(Decision decision) {
    Json json = new Json();
    if (decision instanceof Decision.PassOver pass) {
      return json.put("kind", "pass_over").put("reason", pass.reason());
    }
    if (decision instanceof Decision.AtItsTurn turn) {
      return json.put("kind", "at_its_turn")
          .put("conditions", turn.conditions().stream().map(Condition::text).toList())
          .put("otherwise", turn.passes() ? "pass" : "stop");
    }
    return json.put("kind", Decision.Run.class.getSimpleName().toLowerCase(Locale.ROOT));
  }
}
