package org.wornladder.cli.command;

import org.wornladder.cli.ExitCode;
import org.wornladder.cli.view.DriftView;
import org.wornladder.engine.Access;
import org.wornladder.project.IgnoreList;
import org.wornladder.survey.Drift;
import picocli.CommandLine.Model.CommandSpec;

/** Lays what stands in a database beside what its history says. */
final class DriftCommand implements Command {
  private static final String FORGIVE = "--forgive";

  @Override
  public void describe(CommandSpec spec) {
    Options.environment(spec, "The environment; the default one otherwise.");
    spec.addOption(
        Options.texts(
            FORGIVE,
            "KIND:NAME",
            "Leave this to others from now on: adds it to ignore: in ladder.yaml first."));
    Options.formats(spec);
  }

  @Override
  public int run(Call call) {
    String format = call.format(Call.TEXT, Call.JSON, Call.MARKDOWN);
    for (String pattern : call.texts(FORGIVE)) {
      IgnoreList.add(call.projectFolder(), pattern);
    }
    Drift drift = call.ladder(Access.READ).drift(call.environment());
    DriftView view = new DriftView(call.terminal());
    switch (format) {
      case Call.JSON -> view.json(drift);
      case Call.MARKDOWN -> view.markdown(drift);
      default -> view.show(drift);
    }
    return drift.isClean() ? ExitCode.DONE : ExitCode.FOUND;
  }
}
