package org.wornladder.cli.command;

import org.wornladder.cli.ExitCode;
import org.wornladder.cli.view.PlanView;
import org.wornladder.climb.Plan;
import org.wornladder.engine.Access;
import picocli.CommandLine.Model.CommandSpec;

/** Prints the plan that apply would run. */
final class PreviewCommand implements Command {
  @Override
  public void describe(CommandSpec spec) {
    Options.environment(spec, "The environment; the default one otherwise.");
    ApplyOptionsReader.describe(spec);
    Options.format(spec);
  }

  @Override
  public int run(Call call) {
    Plan plan = call.ladder(Access.READ).preview(call.environment(), ApplyOptionsReader.read(call));
    PlanView view = new PlanView(call.terminal());
    if (call.isJson()) {
      view.json(plan);
    } else {
      view.show(plan);
    }
    return ExitCode.DONE;
  }
}
