package org.wornladder.cli.command;

import org.wornladder.Ladder;
import org.wornladder.Status;
import org.wornladder.cli.ExitCode;
import org.wornladder.cli.view.Page;
import org.wornladder.cli.view.StatusView;
import picocli.CommandLine.Model.CommandSpec;

/** Draws the ladder. */
final class StatusCommand implements Command {
  private static final String ALL = "--all";
  private static final String WAITING = "--waiting";
  private static final String EXPORT = "--export-expected";

  @Override
  public void describe(CommandSpec spec) {
    Options.environment(spec, "The environment; the default one otherwise.");
    spec.addOption(Options.flag(ALL, "Draw every rung, however many are in place."));
    spec.addOption(Options.flag(WAITING, "Exit with 1 if a rung waits, for a pipeline."));
    spec.addOption(
        Options.text(
            EXPORT,
            "FILE",
            "Write what it should have, without rows, for ladder rehearse --expected FILE."));
    spec.addOption(Options.flag(Options.YES, "Replace that file if it is there."));
    Options.format(spec);
  }

  @Override
  public int run(Call call) {
    boolean json = call.isJson();
    Ladder ladder = call.ladder();
    if (call.has(EXPORT)) {
      OutputFile file = OutputFile.of(call, EXPORT);
      file.write(ladder.expectedStructure(call.environment()));
      new Page(call.terminal()).verdict("Wrote " + file.name() + ", without rows.");
      return ExitCode.DONE;
    }
    Status status = ladder.status(call.environment());
    StatusView view = new StatusView(call.terminal());
    if (json) {
      view.json(status);
    } else {
      view.show(status, ladder.project().label(status.at()), call.has(ALL));
    }
    return call.has(WAITING) && status.waiting() > 0 ? ExitCode.FOUND : ExitCode.DONE;
  }
}
