package org.wornladder.cli.command;

import org.wornladder.JournalReport;
import org.wornladder.Ladder;
import org.wornladder.cli.ExitCode;
import org.wornladder.cli.view.HistoryView;
import picocli.CommandLine.Model.CommandSpec;

/** Lists the journal. */
final class HistoryCommand implements Command {
  @Override
  public void describe(CommandSpec spec) {
    Options.environment(spec, "The environment; the default one otherwise.");
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
    } else {
      view.show(report, ladder.project());
    }
    return report.history().broken().isPresent() ? ExitCode.FOUND : ExitCode.DONE;
  }
}
