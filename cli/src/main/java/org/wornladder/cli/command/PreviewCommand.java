package org.wornladder.cli.command;

import org.wornladder.cli.ExitCode;
import org.wornladder.cli.view.PlanMarkdown;
import org.wornladder.cli.view.PlanView;
import org.wornladder.execution.Plan;
import picocli.CommandLine.Model.CommandSpec;

/** Prints the plan that apply would run. */
final class PreviewCommand implements Command {
  @Override
  public void describe(CommandSpec spec) {
    Options.environment(spec, "The environment; the default one otherwise.");
    ApplyOptionsReader.describe(spec);
    Options.formats(spec);
  }

  @Override
  public int run(Call call) {
    String format = call.format(Call.TEXT, Call.JSON, Call.MARKDOWN);
    Plan plan = call.ladder().preview(call.environment(), ApplyOptionsReader.read(call));
    show(call, format, plan, plan.together() ? " --together" : "");
    return ExitCode.DONE;
  }

  /**
   * @param options what the command that runs the plan takes beside its environment
   */
  static void show(Call call, String format, Plan plan, String options) {
    PlanView view = new PlanView(call.terminal());
    switch (format) {
      case Call.JSON -> view.json(plan);
      case Call.MARKDOWN -> new PlanMarkdown(call.terminal().out(), plan).show();
      default -> view.show(plan, options);
    }
  }
}
