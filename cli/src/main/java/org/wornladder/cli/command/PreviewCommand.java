package org.wornladder.cli.command;

import java.util.ArrayList;
import java.util.List;
import org.wornladder.ClientSqlScript;
import org.wornladder.Preview;
import org.wornladder.cli.ExitCode;
import org.wornladder.cli.view.Page;
import org.wornladder.cli.view.PlanMarkdown;
import org.wornladder.cli.view.PlanView;
import picocli.CommandLine.Model.CommandSpec;

/** Prints the plan that apply would run. */
final class PreviewCommand implements Command {
  private static final String SCRIPT = "--script";
  private static final String SEED = "--seed";
  private static final String DOWN = "--down";

  @Override
  public void describe(CommandSpec spec) {
    Options.environment(spec, "The environment; the default one otherwise.");
    ApplyOptionsReader.describe(spec);
    spec.addOption(Options.flag(Options.YES, "Write over a script that is there."));
    spec.addOption(
        Options.flag(Options.SHOW_ROWS, "Show the keys of rows that stand against a change."));
    spec.addOption(
        Options.text(
            SCRIPT,
            "FILE",
            "Write it as one SQL script for the database's own client, with the journal's entries."));
    spec.addOption(
        Options.flag(
            DOWN, "With --script: one that takes the last rung back, or those above --to."));
    spec.addOption(Options.flag(SEED, "With --script: the reference data as well."));
    Options.formats(spec);
  }

  @Override
  public int run(Call call) {
    if (call.has(SCRIPT)) {
      return script(call);
    }
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

  private static int script(Call call) {
    ClientSqlScript script =
        call.ladder().script(call.environment(), ApplyOptionsReader.read(call), content(call));
    OutputFile file = OutputFile.of(call, SCRIPT);
    file.write(script.text());
    Page page = new Page(call.terminal());
    page.verdict(
        "Wrote "
            + file.name()
            + " with "
            + script.rungs().size()
            + (script.rungs().size() == 1 ? " rung" : " rungs")
            + "; nothing was run.");
    List<String> next = new ArrayList<>();
    if (!script.variables().isEmpty()) {
      next.add(given(script, file.name()) + "  gives it what it does not hold");
    }
    next.add(
        "read it, run it with the database's own client, then ladder status "
            + script.environment());
    page.next(next);
    return ExitCode.DONE;
  }

  private static ClientSqlScript.Content content(Call call) {
    if (call.has(DOWN) && call.has(SEED)) {
      throw call.wrong("--down and --seed cannot stand together");
    }
    return call.has(DOWN)
        ? ClientSqlScript.Content.DOWN
        : call.has(SEED) ? ClientSqlScript.Content.UP_AND_SEEDS : ClientSqlScript.Content.UP;
  }

  /** How the client is given the values of its variables. */
  private static String given(ClientSqlScript script, String file) {
    StringBuilder command = new StringBuilder();
    for (String name : script.variables()) {
      command.append(
          switch (script.engine()) {
            case "postgres" -> " -v " + name + "=VALUE";
            case "mariadb" -> (command.isEmpty() ? "" : "; ") + "SET @" + name + " = 'VALUE'";
            default -> " -cmd \".parameter set @" + name + " 'VALUE'\"";
          });
    }
    return switch (script.engine()) {
      case "postgres" -> "psql" + command + " -f " + file;
      case "mariadb" -> "mariadb --init-command=\"" + command + "\" < " + file;
      default -> "sqlite3" + command + " DATABASE < " + file;
    };
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
