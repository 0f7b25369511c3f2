package org.wornladder.cli.command;

import java.util.Optional;
import org.wornladder.Ladder;
import org.wornladder.cli.view.SeedView;
import org.wornladder.climb.Approval;
import org.wornladder.climb.Listener;
import org.wornladder.climb.Outcome;
import org.wornladder.seed.SeedOptions;
import org.wornladder.seed.SeedOutcome;
import picocli.CommandLine.Model.CommandSpec;

/** Runs the waiting rungs. */
final class ApplyCommand extends ChangeCommand {
  private static final String SEED = "--seed";

  @Override
  public void describe(CommandSpec spec) {
    Options.environment(spec, "The environment; the default one otherwise.");
    ApplyOptionsReader.describe(spec);
    spec.addOption(Options.flag(SEED, "Seed behind it, as ladder seed does."));
    Options.change(spec);
    Options.format(spec);
  }

  @Override
  Outcome change(Ladder ladder, Call call, Approval approval, Listener listener) {
    return ladder.apply(call.environment(), ApplyOptionsReader.read(call), approval, listener);
  }

  @Override
  Optional<SeedOutcome> after(Ladder ladder, Call call, Outcome outcome) {
    if (!call.has(SEED)) {
      return Optional.empty();
    }
    SeedOutcome seeded = SeedCommand.seed(ladder, call, SeedOptions.ALL);
    if (!call.isJson()) {
      new SeedView(call.terminal()).show(seeded);
    }
    return Optional.of(seeded);
  }
}
