package org.wornladder.cli.command;

import org.wornladder.cli.ExitCode;
import org.wornladder.cli.view.DriftView;
import org.wornladder.survey.Drift;
import picocli.CommandLine.Model.CommandSpec;

/** Lays what stands in a database beside what its history says. */
final class DriftCommand implements Command {
  @Override
  public void describe(CommandSpec spec) {
    Options.environment(spec, "The environment; the default one otherwise.");
    Options.formats(spec);
  }

  @Override
  public int run(Call call) {
    String format = call.format(Call.TEXT, Call.JSON, Call.MARKDOWN);
    Drift drift = call.ladder().drift(call.environment());
    DriftView view = new DriftView(call.terminal());
    switch (format) {
      case Call.JSON -> view.json(drift);
      case Call.MARKDOWN -> view.markdown(drift);
      default -> view.show(drift);
    }
    return drift.isClean() ? ExitCode.DONE : ExitCode.FOUND;
  }
}
