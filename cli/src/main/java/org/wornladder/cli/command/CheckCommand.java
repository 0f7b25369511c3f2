package org.wornladder.cli.command;

import java.util.Optional;
import org.wornladder.CheckReport;
import org.wornladder.Ladder;
import org.wornladder.cli.ExitCode;
import org.wornladder.cli.view.CheckView;
import org.wornladder.project.Problem;
import picocli.CommandLine.Model.CommandSpec;

/** Examines the files, and with an environment its journal too. */
final class CheckCommand implements Command {
  private static final String AGAINST = "--against";

  @Override
  public void describe(CommandSpec spec) {
    spec.addOption(
        Options.text(AGAINST, "ENV", "Lay the files beside this environment's journal too."));
    Options.database(spec);
    Options.format(spec);
  }

  @Override
  public int run(Call call) {
    boolean json = call.isJson();
    CheckReport files = Ladder.check(call.projectFolder());
    boolean wrong = files.problems().stream().anyMatch(Problem::isError);
    Optional<String> against = call.text(AGAINST).filter(name -> !wrong);
    CheckReport examination =
        new CheckReport(
            files.problems(),
            files.rungs(),
            files.standing(),
            files.seeds(),
            against.map(name -> call.ladder().checkAgainst(Optional.of(name))));
    CheckView view = new CheckView(call.terminal());
    if (json) {
      view.json(examination);
    } else {
      view.show(examination);
    }
    return examination.isGood() ? ExitCode.DONE : ExitCode.FOUND;
  }
}
