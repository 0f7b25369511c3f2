package org.wornladder.cli.command;

import org.wornladder.JournalReport;
import org.wornladder.Ladder;
import org.wornladder.cli.ExitCode;
import org.wornladder.cli.view.HistoryView;
import picocli.CommandLine.Model.CommandSpec;

/** Lists the journal. */
final class HistoryCommand implements Command {
  private static final String HEAD = "--head";

  @Override
  public void describe(CommandSpec spec) {
    Options.environment(spec, "The environment; the default one otherwise.");
    spec.addOption(
        Options.flag(HEAD, "Only the last entry's number and hash, to be kept elsewhere."));
    Options.format(spec);
  }

  @Override
  public int run(Call call) {
    boolean json = call.isJson();
    Ladder ladder = call.ladder();
    JournalReport report = ladder.history(call.environment());
    HistoryView view = new HistoryView(call.terminal());
    if (json) {
      view.json(report);
    } else if (call.has(HEAD)) {
      view.head(report);
    } else {
      view.show(report, ladder.project());
    }
    return report.history().broken().isPresent() ? ExitCode.FOUND : ExitCode.DONE;
  }
}
