package org.wornladder.cli.command;

import java.util.Optional;
import org.wornladder.CheckReport;
import org.wornladder.Ladder;
import org.wornladder.cli.ExitCode;
import org.wornladder.cli.view.CheckView;
import org.wornladder.journal.JournalHead;
import org.wornladder.project.Problem;
import picocli.CommandLine.Model.CommandSpec;

/** Examines the files, and with an environment its journal too. */
final class CheckCommand implements Command {
  private static final String AGAINST = "--against";
  private static final String HEAD = "--head";

  @Override
  public void describe(CommandSpec spec) {
    spec.addOption(
        Options.text(AGAINST, "ENV", "Compare the files with this environment's journal, too."));
    spec.addOption(
        Options.text(
            HEAD, "NUMBER:HASH", "This entry must be in the journal; see ladder history --head."));
    Options.database(spec);
    Options.format(spec);
  }

  @Override
  public int run(Call call) {
    boolean json = call.isJson();
    Optional<JournalHead> head = head(call);
    CheckReport files = Ladder.check(call.projectFolder());
    boolean wrong = files.problems().stream().anyMatch(Problem::isError);
    Optional<String> against = call.text(AGAINST).filter(name -> !wrong);
    CheckReport examination =
        new CheckReport(
            files.problems(),
            files.rungs(),
            files.standing(),
            files.seeds(),
            against.map(name -> call.ladder().checkAgainst(Optional.of(name), head)));
    CheckView view = new CheckView(call.terminal(), call.guarded());
    if (json) {
      view.json(examination);
    } else {
      view.show(examination);
    }
    return examination.isGood() ? ExitCode.DONE : ExitCode.FOUND;
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
