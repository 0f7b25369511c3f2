package org.wornladder.cli.command;

import org.wornladder.Ladder;
import org.wornladder.climb.Approval;
import org.wornladder.climb.Listener;
import org.wornladder.climb.Outcome;
import picocli.CommandLine.Model.CommandSpec;

/** Runs the waiting rungs. */
final class ApplyCommand extends ChangeCommand {
  @Override
  public void describe(CommandSpec spec) {
    Options.environment(spec, "The environment; the default one otherwise.");
    ApplyOptionsReader.describe(spec);
    Options.change(spec);
    Options.format(spec);
  }

  @Override
  Outcome change(Ladder ladder, Call call, Approval approval, Listener listener) {
    return ladder.apply(call.environment(), ApplyOptionsReader.read(call), approval, listener);
  }
}
