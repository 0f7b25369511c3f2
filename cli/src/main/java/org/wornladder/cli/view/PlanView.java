package org.wornladder.cli.view;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.wornladder.LadderException;
import org.wornladder.Preview;
import org.wornladder.cli.Terminal;
import org.wornladder.execution.Decision;
import org.wornladder.execution.Plan;
import org.wornladder.execution.Step;
import org.wornladder.execution.Step.StandingAction;
import org.wornladder.execution.UncertainStatement;
import org.wornladder.project.Batching;
import org.wornladder.project.Condition;
import org.wornladder.project.Direction;
import org.wornladder.project.Secrets;
import org.wornladder.sql.Statement;

/** A plan, statement by statement, as it will run. */
public final class PlanView {
  private static final int LINE_NUMBER = 5;

  private final Terminal terminal;
  private final Page page;
  private final Colors colors;

  public PlanView(Terminal terminal) {
    this.terminal = terminal;
    page = new Page(terminal);
    colors = page.colors();
  }

  /**
   * @param options what the command that runs the plan takes beside its environment, with a blank
   *     in front; may be empty
   */
  public void show(Preview preview, String options) {
    Plan plan = preview.plan();
    showSteps(plan, preview);
    preview
        .fromTextAlone()
        .ifPresent(
            why ->
                page.line(
                    colors.faint("  risks are those that the texts show: " + SafeText.line(why))));
    page.verdict(verdict(plan));
    if (!plan.isEmpty() && preview.refusal().isEmpty()) {
      page.next(
          Commands.confirmed(
              (plan.direction() == Direction.UP ? "ladder apply " : "ladder rollback ")
                  + plan.environment()
                  + options,
              Commands.guarded(plan.environment(), plan.guarded())));
    }
  }

  /** The plan without its verdict, for a question to follow. */
  public void showSteps(Plan plan) {
    showSteps(plan, new Preview(plan, Optional.empty()));
  }

  private void showSteps(Plan plan, Preview preview) {
    String there = plan.isThere() ? "" : " (not there yet; apply makes it)";
    page.subject(
        SafeText.line(plan.environment()),
        plan.engine() + " " + SafeText.line(plan.address()) + there,
        "");
    for (Plan.Note note : plan.notes()) {
      page.line(colors.warning("note: ") + SafeText.line(NoteText.of(note, plan)));
    }
    page.gap();
    for (Step step : plan.steps()) {
      if (step instanceof Step.OfRung rung) {
        rung(rung, plan.secrets());
        below(rung.number(), preview);
      } else {
        ((Step.OfStanding) step).actions().forEach(action -> action(action, plan.secrets()));
      }
      page.gap();
    }
  }

  /** What is known of a rung beside its statements. */
  private void below(long number, Preview preview) {
    preview.carriedOut().stream().filter(one -> one.rung() == number).forEach(this::carriedOut);
    for (Preview.Measured one : preview.measured()) {
      if (one.rung() == number) {
        page.line(
            "  "
                + colors.faint("rehearsed, line " + one.line() + ": ")
                + SafeText.line(String.join(", ", one.effects())));
      }
    }
    page.lines(
        RiskLines.found(
            preview.risks().stream().filter(risk -> risk.rung() == number).toList(), terminal));
  }

  private static String verdict(Plan plan) {
    if (plan.isEmpty()) {
      return plan.direction() == Direction.UP
          ? "Nothing waits on " + plan.environment() + "."
          : "Nothing is to be taken back on " + plan.environment() + ".";
    }
    List<String> parts = new ArrayList<>();
    if (!plan.rungs().isEmpty()) {
      parts.add(count(plan.rungs().size(), "rung"));
    }
    parts.add(count(plan.steps().stream().mapToLong(PlanView::statements).sum(), "statement"));
    String transaction = plan.together() ? ", all in one transaction" : "";
    return String.join(", ", parts) + transaction + ". Nothing was changed.";
  }

  private static long statements(Step step) {
    long own = step.statements().size();
    if (step instanceof Step.OfRung rung) {
      own = rung.remaining().size();
      own += rung.liftedBefore().stream().mapToLong(action -> action.statements().size()).sum();
      own += rung.putBackAfter().stream().mapToLong(action -> action.statements().size()).sum();
    }
    return own;
  }

  static String count(long number, String word) {
    return count(number, word, word + "s");
  }

  static String count(long number, String word, String plural) {
    return number + " " + (number == 1 ? word : plural);
  }

  private void rung(Step.OfRung rung, Secrets secrets) {
    page.heading(
        rung.label() + "  " + SafeText.line(rung.about()),
        colors.faint(SafeText.line(rung.source())));
    marks(rung).forEach(mark -> page.line("  " + mark));
    rung.liftedBefore().forEach(action -> action(action, secrets));
    show(rung.remaining(), secrets);
    rung.putBackAfter().forEach(action -> action(action, secrets));
  }

  private void carriedOut(Preview.CarriedOut one) {
    page.line("  " + colors.warning("line " + one.line()) + " is carried out by");
    for (String statement : one.statements()) {
      SqlText.lines(SqlText.terminated(statement), colors)
          .forEach(line -> page.line(" ".repeat(LINE_NUMBER + 2) + line));
    }
  }

  /** What is special about a rung. */
  private List<String> marks(Step.OfRung rung) {
    List<String> marks = new ArrayList<>();
    if (rung.decision() instanceof Decision.PassOver pass) {
      marks.add(colors.warning("passed over: ") + SafeText.line(pass.reason()));
    } else if (rung.decision() instanceof Decision.AtItsTurn turn) {
      String conditions =
          String.join(" and ", turn.conditions().stream().map(Condition::text).toList());
      String otherwise = turn.passes() ? "it is passed over" : "the run stops";
      marks.add(
          colors.warning("when its turn comes: ")
              + SafeText.line(conditions)
              + "; otherwise "
              + otherwise);
    }
    rung.oneWay()
        .ifPresent(reason -> marks.add(colors.warning("one-way: ") + SafeText.line(reason)));
    if (rung.batching().isPresent()) {
      marks.add(batches(rung));
    } else if (rung.statementWise()) {
      marks.add(colors.warning("statement by statement: ") + "each stays once it is done");
    }
    rung.doubt().ifPresent(doubt -> marks.add(found(doubt)));
    if (!rung.done().isEmpty()) {
      marks.add(
          colors.warning("goes on: ") + count(rung.done().size(), "statement") + " done before");
    }
    return marks;
  }

  private String batches(Step.OfRung rung) {
    Batching batching = rung.batching().orElseThrow();
    return colors.warning("in batches: ")
        + count(batching.rows(), "row")
        + " each by "
        + SafeText.line(batching.key())
        + rung.batch().map(last -> ", goes on behind " + last.note().text()).orElse("");
  }

  private String found(UncertainStatement doubt) {
    boolean done = doubt.found() == UncertainStatement.Found.DONE;
    return colors.warning("found: ")
        + "statement "
        + doubt.statement()
        + (done ? " is done: " : " is not done: ")
        + SafeText.line(doubt.explanation());
  }

  private void action(StandingAction action, Secrets secrets) {
    String way = action.direction() == Direction.UP ? "run" : "take down";
    page.heading(
        "standing " + SafeText.line(action.name()),
        colors.faint(way + ": " + SafeText.line(action.reason())));
    show(action.statements(), secrets);
  }

  private void show(List<Statement> statements, Secrets secrets) {
    for (Statement statement : statements) {
      String number = SafeText.padLeft(Integer.toString(statement.place().line()), LINE_NUMBER);
      List<String> lines = SqlText.lines(SqlText.terminated(statement, secrets), colors);
      for (int i = 0; i < lines.size(); i++) {
        String margin = i == 0 ? colors.faint(number) : " ".repeat(LINE_NUMBER);
        page.line(margin + "  " + lines.get(i));
      }
    }
  }

  public void json(Preview preview) {
    of(preview.plan())
        .put("refusal", preview.refusal().map(LadderException::what))
        .put(
            "carried_out",
            preview.carriedOut().stream()
                .map(
                    one ->
                        new Json()
                            .put("number", one.rung())
                            .put("line", one.line())
                            .put("statements", one.statements()))
                .toList())
        .put("risks", RiskLines.foundJson(preview.risks()))
        .put("risks_from_text_alone", preview.fromTextAlone())
        .put(
            "rehearsed",
            preview.measured().stream()
                .map(
                    one ->
                        new Json()
                            .put("number", one.rung())
                            .put("line", one.line())
                            .put("effects", one.effects()))
                .toList())
        .write(terminal.out());
  }

  static Json of(Plan plan) {
    return new Json()
        .put("environment", plan.environment())
        .put("engine", plan.engine())
        .put("database", plan.address())
        .put("database_exists", plan.isThere())
        .put("direction", plan.direction().label())
        .put("together", plan.together())
        .put("notes", plan.notes().stream().map(note -> NoteText.of(note, plan)).toList())
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
          .put("found", rung.doubt().map(UncertainStatement::explanation))
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
                    .put("direction", action.direction().label())
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
