package org.wornladder.cli.command;

import org.wornladder.Ladder;
import org.wornladder.Status;
import org.wornladder.cli.ExitCode;
import org.wornladder.cli.view.StatusView;
import picocli.CommandLine.Model.CommandSpec;

/** Draws the ladder. */
final class StatusCommand implements Command {
  private static final String ALL = "--all";
  private static final String WAITING = "--waiting";

  @Override
  public void describe(CommandSpec spec) {
    Options.environment(spec, "The environment; the default one otherwise.");
    spec.addOption(Options.flag(ALL, "Draw every rung, however many are in place."));
    spec.addOption(Options.flag(WAITING, "Exit with 1 if a rung waits, for a pipeline."));
    Options.format(spec);
  }

  @Override
  public int run(Call call) {
    boolean json = call.isJson();
    Ladder ladder = call.ladder();
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
