package org.wornladder.cli.view;

import java.io.PrintStream;
import java.util.List;
import org.wornladder.execution.Decision;
import org.wornladder.execution.Plan;
import org.wornladder.execution.Step;
import org.wornladder.execution.Step.StandingAction;
import org.wornladder.project.Condition;
import org.wornladder.project.Direction;
import org.wornladder.sql.Dialect;
import org.wornladder.sql.Statement;

/** A plan as Markdown, to be pasted into a review. */
public final class PlanMarkdown {
  private final PrintStream out;
  private final Plan plan;

  public PlanMarkdown(PrintStream out, Plan plan) {
    this.out = out;
    this.plan = plan;
  }

  public void show() {
    String command = plan.direction() == Direction.UP ? "apply" : "rollback";
    out.println("## What " + command + " would do on " + DifferenceView.cell(plan.environment()));
    out.println();
    plan.notes()
        .forEach(note -> out.println("> " + DifferenceView.cell(NoteText.of(note, plan)) + "\n"));
    for (Step step : plan.steps()) {
      if (step instanceof Step.OfRung rung) {
        rung(rung);
      } else {
        ((Step.OfStanding) step).actions().forEach(this::action);
      }
    }
    out.println(
        plan.isEmpty()
            ? "Nothing waits."
            : PlanView.count(plan.rungs().size(), "rung")
                + (plan.together() ? ", all in one transaction." : "."));
  }

  private void rung(Step.OfRung rung) {
    out.println("### " + rung.label() + " " + DifferenceView.cell(rung.about()));
    out.println();
    if (rung.decision() instanceof Decision.PassOver pass) {
      point("Passed over: " + pass.reason());
    } else if (rung.decision() instanceof Decision.AtItsTurn turn) {
      List<String> conditions = turn.conditions().stream().map(Condition::text).toList();
      point(
          "When its turn comes: "
              + String.join(" and ", conditions)
              + (turn.passes() ? "; otherwise it is passed over" : "; otherwise the run stops"));
    }
    rung.oneWay().ifPresent(reason -> point("One-way: " + reason));
    if (rung.statementWise()) {
      point("Statement by statement: each stays once it is done");
    }
    rung.liftedBefore().forEach(this::action);
    code(rung.remaining());
    rung.putBackAfter().forEach(this::action);
  }

  private void point(String text) {
    out.println("- " + DifferenceView.cell(text));
    out.println();
  }

  private void action(StandingAction action) {
    String way = action.direction() == Direction.UP ? "run" : "take down";
    out.println("**Standing script " + DifferenceView.cell(action.name()) + "**, " + way + ":");
    out.println();
    code(action.statements());
  }

  /** A fence longer than any run of back quotes inside it. */
  private void code(List<Statement> statements) {
    if (statements.isEmpty()) {
      return;
    }
    StringBuilder text = new StringBuilder();
    for (Statement statement : statements) {
      text.append(SafeText.lines(SqlText.terminated(statement, plan.secrets()))).append('\n');
    }
    String fence = "```";
    while (text.indexOf(fence) >= 0) {
      fence += "`";
    }
    boolean json = statements.get(0).dialect().has(Dialect.Trait.JSON);
    out.println(fence + (json ? "json" : "sql"));
    out.print(text);
    out.println(fence);
    out.println();
  }
}
