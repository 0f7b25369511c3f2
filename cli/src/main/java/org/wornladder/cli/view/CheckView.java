package org.wornladder.cli.view;

import java.io.PrintStream;
import java.util.ArrayList;
import java.util.List;
import org.wornladder.CheckReport;
import org.wornladder.CheckReport.Finding;
import org.wornladder.cli.Terminal;
import org.wornladder.project.Problem;

/** What an examination of the files found. */
public final class CheckView {
  private final Colors paint;
  private final PrintStream out;

  public CheckView(Terminal terminal) {
    this.paint = new Colors(terminal);
    this.out = terminal.out();
  }

  public void show(CheckReport examination) {
    for (Problem problem : examination.problems()) {
      String severity = problem.isError() ? paint.bad("error") : paint.faint("note ");
      part(severity, problem.place().toString(), problem.message());
      next(AdviceText.of(problem.advice()));
    }
    examination
        .against()
        .ifPresent(
            against -> {
              for (FindingGroup group : FindingGroup.of(against.findings())) {
                for (Finding finding : group.shown()) {
                  part(paint.bad("found"), finding.where(), finding.what());
                }
                group.rest().ifPresent(rest -> out.println("       " + rest));
                next(AdviceText.of(group.advice()));
              }
            });
    out.println(summary(examination));
  }

  private void part(String severity, String where, String what) {
    out.println(severity + "  " + paint.strong(SafeText.line(where)) + "  " + SafeText.line(what));
  }

  private void next(String next) {
    if (!next.isEmpty()) {
      out.println(paint.faint("       next: ") + SafeText.line(next));
    }
  }

  private static String summary(CheckReport examination) {
    long errors = examination.problems().stream().filter(Problem::isError).count();
    List<String> read = new ArrayList<>();
    read.add(PlanView.count(examination.rungs(), "rung"));
    read.add(PlanView.count(examination.standing(), "standing script"));
    if (examination.seeds() > 0) {
      read.add(PlanView.count(examination.seeds(), "seed"));
    }
    String last = read.remove(read.size() - 1);
    String files = String.join(", ", read) + " and " + last;
    String found =
        errors == 0
            ? files + " read; nothing is wrong."
            : files + " read; " + PlanView.count(errors, "error") + ".";
    return found
        + examination
            .against()
            .map(
                against ->
                    " Against "
                        + against.environment()
                        + ": "
                        + (against.findings().isEmpty()
                            ? "the journal agrees"
                            : PlanView.count(against.findings().size(), "finding"))
                        + ", "
                        + PlanView.count(against.waiting(), "rung")
                        + " waiting.")
            .orElse("");
  }

  public void json(CheckReport examination) {
    Json json =
        new Json()
            .put("good", examination.isGood())
            .put("rungs", examination.rungs())
            .put("standing", examination.standing())
            .put("seeds", examination.seeds())
            .put("problems", examination.problems().stream().map(ProblemJson::of).toList());
    examination
        .against()
        .ifPresent(
            against ->
                json.put(
                    "against",
                    new Json()
                        .put("environment", against.environment())
                        .put("waiting", against.waiting())
                        .put(
                            "findings",
                            against.findings().stream().map(CheckView::json).toList())));
    json.write(out);
  }

  static Json json(Finding finding) {
    return new Json()
        .put("what", finding.what())
        .put("where", finding.where())
        .put("next", AdviceText.of(finding.advice()));
  }
}
