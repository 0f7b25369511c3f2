package org.wornladder.cli.command;

import org.wornladder.AdoptOptions;
import org.wornladder.AdoptResult;
import org.wornladder.Ladder;
import org.wornladder.cli.ExitCode;
import org.wornladder.cli.view.AdoptView;
import org.wornladder.cli.view.ProgressView;
import picocli.CommandLine.Model.CommandSpec;

/** Takes a database that exists under management. */
final class AdoptCommand implements Command {
  private static final String ONLY = "--only";
  private static final String EXCEPT = "--except";
  private static final String ROWS = "--rows";

  @Override
  public void describe(CommandSpec spec) {
    Options.environment(spec, "The environment; the default one otherwise.");
    spec.addOption(
        Options.texts(ONLY, "KIND:NAME", "Take this alone, such as table:bin*; may be repeated."));
    spec.addOption(
        Options.texts(
            EXCEPT, "KIND:NAME", "Leave this to others: adds it to ignore: in ladder.yaml."));
    spec.addOption(
        Options.texts(ROWS, "TABLE,…", "Write the rows of these tables as files in seeds/."));
    Options.change(spec);
    Options.format(spec);
  }

  @Override
  public int run(Call call) {
    boolean json = call.isJson();
    AdoptOptions options =
        new AdoptOptions(call.patterns(ONLY), call.patterns(EXCEPT), call.listed(ROWS));
    Ladder ladder = call.ladder();
    AdoptResult adoption;
    try (ProgressView progress = new ProgressView(call.terminal(), () -> false)) {
      adoption = ladder.adopt(call.environment(), options, new AskingApproval(call), progress);
    }
    AdoptView view = new AdoptView(call.terminal());
    if (json) {
      view.json(adoption);
    } else {
      view.show(adoption);
    }
    return adoption.differences().isEmpty() ? ExitCode.DONE : ExitCode.FOUND;
  }
}
