package org.wornladder.cli.command;

import java.util.Optional;
import org.wornladder.Approval;
import org.wornladder.Ladder;
import org.wornladder.RunListener;
import org.wornladder.RunResult;
import org.wornladder.SeedOptions;
import org.wornladder.SeedRunResult;
import org.wornladder.cli.ExitCode;
import org.wornladder.cli.view.Page;
import org.wornladder.cli.view.SeedView;
import picocli.CommandLine.Model.CommandSpec;

/** Runs the waiting rungs. */
final class ApplyCommand extends ChangeCommand {
  /** Carried out by the script that starts this program: Java cannot become another process. */
  private static final String THEN = "--then";

  private static final String SEED = "--seed";
  private static final String STOP = "--stop";

  @Override
  public void describe(CommandSpec spec) {
    Options.environment(spec, "The environment; the default one otherwise.");
    ApplyOptionsReader.describe(spec);
    spec.addOption(
        Options.text(
            THEN,
            "COMMAND …",
            "Become this command, with all that comes behind it, once the apply has succeeded."));
    spec.addOption(Options.flag(SEED, "Seed after it, as ladder seed does."));
    spec.addOption(
        Options.flag(STOP, "Have a run of another session end behind the batch it is at."));
    Options.change(spec);
    Options.format(spec);
  }

  @Override
  Optional<Integer> instead(Call call) {
    if (!call.has(STOP)) {
      return Optional.empty();
    }
    String running = call.ladder().askToStop(call.environment());
    new Page(call.terminal())
        .verdict("Asked " + running + " to end behind the batch that it is at.");
    return Optional.of(ExitCode.DONE);
  }

  @Override
  RunResult change(Ladder ladder, Call call, Approval approval, RunListener listener) {
    if (call.has(THEN)) {
      throw call.wrong("--then comes last, with a command behind it, in a call of bin/ladder");
    }
    if (call.has(SEED)) {
      // One that cannot be read is found before a rung has run.
      ladder.examineSeeds(call.environment());
    }
    return ladder.apply(call.environment(), ApplyOptionsReader.read(call), approval, listener);
  }

  @Override
  Optional<SeedRunResult> after(Ladder ladder, Call call, RunResult outcome) {
    if (!call.has(SEED)) {
      return Optional.empty();
    }
    SeedRunResult seeded =
        SeedCommand.seed(
            ladder, call, call.has(ApplyOptionsReader.TO) ? SeedOptions.FITTING : SeedOptions.ALL);
    if (!call.isJson()) {
      call.terminal().out().println();
      new SeedView(call.terminal()).show(seeded);
    }
    return Optional.of(seeded);
  }
}
