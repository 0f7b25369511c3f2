package org.wornladder.cli.command;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.wornladder.Advice;
import org.wornladder.CheckReport;
import org.wornladder.Ladder;
import org.wornladder.LadderException;
import org.wornladder.change.Difference;
import org.wornladder.cli.ExitCode;
import org.wornladder.cli.view.CheckView;
import org.wornladder.cli.view.SarifView;
import org.wornladder.journal.JournalHead;
import org.wornladder.project.Problem;
import org.wornladder.sql.Place;
import picocli.CommandLine.Model.CommandSpec;

/** Examines the files, and with an environment its journal too. */
final class CheckCommand implements Command {
  private static final String AGAINST = "--against";
  private static final String RISKS = "--risks";
  private static final int MOST_NAMED = 3;
  private static final String HEAD = "--head";

  @Override
  public void describe(CommandSpec spec) {
    spec.addOption(
        Options.text(AGAINST, "ENV", "Compare the files with this environment's journal, too."));
    spec.addOption(
        Options.text(
            HEAD, "NUMBER:HASH", "This entry must be in the journal; see ladder history --head."));
    Options.database(spec);
    spec.addOption(Options.flag(RISKS, "List the risks that the rungs' texts show."));
    Options.format(spec, Call.TEXT, Call.JSON, Call.SARIF);
  }

  @Override
  public int run(Call call) {
    String format = call.format(Call.TEXT, Call.JSON, Call.SARIF);
    Optional<JournalHead> head = head(call);
    CheckReport files = Ladder.check(call.projectFolder());
    boolean wrong = files.problems().stream().anyMatch(Problem::isError);
    Optional<String> against = call.text(AGAINST).filter(name -> !wrong);
    List<Problem> problems = new ArrayList<>(files.problems());
    if (!wrong) {
      disagreement(call).ifPresent(problems::add);
    }
    CheckReport examination =
        new CheckReport(
            problems,
            files.rungs(),
            files.standing(),
            files.seeds(),
            files.risks(),
            against.map(name -> call.ladder().checkAgainst(Optional.of(name), head)));
    CheckView view = new CheckView(call.terminal(), call.guarded());
    switch (format) {
      case Call.JSON -> view.json(examination);
      case Call.SARIF -> new SarifView(call.terminal()).show(examination);
      default -> view.show(examination, call.has(RISKS));
    }
    return examination.isGood() ? ExitCode.DONE : ExitCode.FOUND;
  }

  /** That schema/ and the ladder do not agree, where that is found out without a server. */
  private static Optional<Problem> disagreement(Call call) {
    try {
      List<Difference> differences = call.ladder().schemaDisagreement();
      String named =
          differences.stream()
              .limit(MOST_NAMED)
              .map(Difference::description)
              .collect(Collectors.joining(", "));
      int more = differences.size() - MOST_NAMED;
      return differences.isEmpty()
          ? Optional.empty()
          : Optional.of(
              new Problem(
                  Problem.Severity.NOTE,
                  Place.of("schema/"),
                  "it is not what the ladder builds: "
                      + named
                      + (more > 0 ? " and " + more + " more" : ""),
                  Advice.of(Advice.Code.DRAFT_OR_REFRESH)));
    } catch (LadderException e) {
      return Optional.of(
          new Problem(
              Problem.Severity.NOTE,
              Place.of("schema/"),
              "it could not be compared with the ladder: " + e.what(),
              Advice.NONE));
    }
  }

  private static Optional<JournalHead> head(Call call) {
    Optional<String> text = call.text(HEAD);
    if (text.isPresent() && call.text(AGAINST).isEmpty()) {
      throw call.wrong("name the environment whose journal it is, with --against ENV");
    }
    Optional<JournalHead> head = text.flatMap(JournalHead::parse);
    if (text.isPresent() && head.isEmpty()) {
      throw call.wrong("--head takes what ladder history --head prints: NUMBER:HASH");
    }
    return head;
  }
}
