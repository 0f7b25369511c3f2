package org.wornladder.cli.view;

import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import org.wornladder.Advice;
import org.wornladder.CheckReport;
import org.wornladder.CheckReport.Finding;
import org.wornladder.cli.Terminal;
import org.wornladder.project.Problem;

/** What a check of the files found. */
public final class CheckView {
  private final Colors colors;
  private final Terminal terminal;
  private final Set<String> guarded;
  private final Page page;

  /**
   * @param guarded the names of the guarded environments
   */
  public CheckView(Terminal terminal, Set<String> guarded) {
    this.guarded = guarded;
    this.terminal = terminal;
    page = new Page(terminal);
    colors = page.colors();
  }

  /**
   * A report.
   *
   * @param risks whether the risks are listed, and not only counted
   */
  public void show(CheckReport check, boolean risks) {
    for (Problem problem : check.problems()) {
      String severity = problem.isError() ? colors.bad("error") : colors.faint("note ");
      part(severity, problem.place().toString(), problem.message());
      next(problem.advice());
    }
    if (check.against().isPresent()) {
      for (FindingGroup group : FindingGroup.of(check.against().get().findings())) {
        for (Finding finding : group.shown()) {
          part(colors.bad("found"), finding.where(), finding.what());
        }
        group.rest().ifPresent(rest -> page.line("       " + rest));
        next(group.advice());
      }
    }
    risks(check, risks);
    page.verdict(summary(check));
    check.against().ifPresent(against -> page.next(next(against)));
  }

  private void risks(CheckReport check, boolean listed) {
    List<CheckReport.TextRisk> open =
        check.risks().stream().filter(risk -> !risk.accepted()).toList();
    if (listed) {
      for (CheckReport.TextRisk one : check.risks()) {
        part(
            colors.risk(one.risk().kind().label()),
            one.place().toString(),
            one.risk().subject()
                + ": "
                + one.risk().reason()
                + (one.accepted() ? ", accepted" : ""));
      }
    } else if (!open.isEmpty()) {
      page.line(
          colors.faint(
              "risks  "
                  + PlanView.count(open.size(), "risk")
                  + " in the rungs' texts; ladder check --risks lists them"));
    }
  }

  private static List<String> next(CheckReport.Against against) {
    return against.findings().isEmpty() && against.waiting() > 0
        ? List.of("ladder preview " + against.environment())
        : List.of();
  }

  private void part(String severity, String where, String what) {
    page.line(severity + "  " + colors.strong(SafeText.line(where)) + "  " + SafeText.line(what));
  }

  private void next(Advice advice) {
    if (!advice.isEmpty()) {
      page.line(colors.faint("       next  ") + SafeText.line(AdviceText.of(advice, guarded)));
    }
  }

  private static String summary(CheckReport check) {
    long errors = check.problems().stream().filter(Problem::isError).count();
    List<String> read = new ArrayList<>();
    read.add(PlanView.count(check.rungs(), "rung"));
    if (check.standing() > 0) {
      read.add(PlanView.count(check.standing(), "standing script"));
    }
    if (check.seeds() > 0) {
      read.add(PlanView.count(check.seeds(), "seed"));
    }
    String last = read.remove(read.size() - 1);
    String files = read.isEmpty() ? last : String.join(", ", read) + " and " + last;
    return found(check, files, errors)
        + check
            .against()
            .map(
                against ->
                    " Against "
                        + against.environment()
                        + ": "
                        + (against.findings().isEmpty()
                            ? "the journal agrees"
                            : PlanView.count(against.findings().size(), "finding"))
                        + (against.waiting() == 0
                            ? "."
                            : ", " + PlanView.count(against.waiting(), "rung") + " waiting."))
            .orElse("");
  }

  private static String found(CheckReport check, String files, long errors) {
    if (errors > 0) {
      boolean nothingRead = check.rungs() + check.standing() + check.seeds() == 0;
      String counted = PlanView.count(errors, "error");
      return nothingRead
          ? counted + "; the rest was not looked at."
          : files + " read; " + counted + ".";
    }
    long notes = check.problems().size();
    if (notes > 0) {
      return files + " read; no error, " + PlanView.count(notes, "note") + ".";
    }
    boolean findings = check.against().filter(one -> !one.findings().isEmpty()).isPresent();
    return files + " read; " + (findings ? "no error in them." : "nothing is wrong.");
  }

  public void json(CheckReport check) {
    Json json =
        new Json()
            .put("good", check.isGood())
            .put("rungs", check.rungs())
            .put("standing", check.standing())
            .put("seeds", check.seeds())
            .put("problems", check.problems().stream().map(ProblemJson::of).toList())
            .put("risks", check.risks().stream().map(CheckView::json).toList());
    check
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
                            against.findings().stream()
                                .map(finding -> json(finding, guarded))
                                .toList())));
    json.write(terminal.out());
  }

  private static Json json(CheckReport.TextRisk one) {
    return new Json()
        .put("file", one.place().file())
        .put("line", one.place().line())
        .put("column", one.place().column())
        .put("risk", one.risk().kind().label())
        .put("object", one.risk().subject())
        .put("reason", one.risk().reason())
        .put("accepted", one.accepted());
  }

  static Json json(Finding finding, Set<String> guarded) {
    return new Json()
        .put("what", finding.what())
        .put("where", finding.where())
        .put("next", AdviceText.of(finding.advice(), guarded));
  }
}
