package org.wornladder.cli.command;

import org.wornladder.Preview;
import org.wornladder.cli.ExitCode;
import org.wornladder.cli.view.PlanMarkdown;
import org.wornladder.cli.view.PlanView;
import picocli.CommandLine.Model.CommandSpec;

/** Prints the plan that apply would run. */
final class PreviewCommand implements Command {
  @Override
  public void describe(CommandSpec spec) {
    Options.environment(spec, "The environment; the default one otherwise.");
    ApplyOptionsReader.describe(spec);
    spec.addOption(
        Options.flag(Options.SHOW_ROWS, "Show the keys of rows that stand against a change."));
    Options.formats(spec);
  }

  @Override
  public int run(Call call) {
    String format = call.format(Call.TEXT, Call.JSON, Call.MARKDOWN);
    Preview preview =
        call.ladder()
            .preview(
                call.environment(), ApplyOptionsReader.read(call), call.has(Options.SHOW_ROWS));
    show(call, format, preview, preview.plan().together() ? " --together" : "");
    call.terminal().flush();
    if (preview.refusal().isEmpty()) {
      return ExitCode.DONE;
    }
    if (format.equals(Call.JSON)) {
      return ExitCode.of(preview.refusal().get());
    }
    throw preview.refusal().get();
  }

  /**
   * @param options what the command that runs the plan takes beside its environment
   */
  static void show(Call call, String format, Preview preview, String options) {
    PlanView view = new PlanView(call.terminal());
    switch (format) {
      case Call.JSON -> view.json(preview);
      case Call.MARKDOWN -> new PlanMarkdown(call.terminal().out(), preview.plan()).show();
      default -> view.show(preview, options);
    }
  }
}
