package org.wornladder.cli.command;

import org.wornladder.Status;
import org.wornladder.cli.ExitCode;
import org.wornladder.cli.view.ReadyView;
import picocli.CommandLine.Model.CommandSpec;

/** Says by its exit code whether a database has all that the files say. */
final class ReadyCommand implements Command {
  @Override
  public void describe(CommandSpec spec) {
    Options.environment(spec, "The environment; the default one otherwise.");
    Options.format(spec);
  }

  @Override
  public int run(Call call) {
    boolean json = call.isJson();
    Status status = call.ladder().status(call.environment());
    ReadyView view = new ReadyView(call.terminal());
    if (json) {
      view.json(status);
    } else {
      view.show(status);
    }
    return ReadyView.isReady(status) ? ExitCode.DONE : ExitCode.FOUND;
  }
}
