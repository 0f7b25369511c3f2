package org.wornladder.cli.command;

import org.wornladder.Ladder;
import org.wornladder.cli.ExitCode;
import org.wornladder.cli.view.SeedProgressView;
import org.wornladder.cli.view.SeedView;
import org.wornladder.engine.Access;
import org.wornladder.seed.SeedOptions;
import org.wornladder.seed.SeedOutcome;
import picocli.CommandLine.Model.CommandSpec;

/** Brings reference data to what the files say. */
final class SeedCommand implements Command {
  private static final String DRY_RUN = "--dry-run";
  private static final String ONLY = "--only";
  private static final String ROWS = "--rows";
  private static final int ROWS_SHOWN = 50;

  @Override
  public void describe(CommandSpec spec) {
    Options.environment(spec, "The environment; the default one otherwise.");
    spec.addOption(
        Options.flag(DRY_RUN, "Show the rows that would change, field by field; write nothing."));
    spec.addOption(Options.texts(ONLY, "TABLE,…", "These seeds alone; may be repeated."));
    spec.addOption(
        Options.text(
            ROWS, "N", "With --dry-run: how many rows to show of each table; 50 otherwise."));
    Options.change(spec);
    Options.format(spec);
  }

  @Override
  public int run(Call call) {
    boolean json = call.isJson();
    boolean dryRun = call.has(DRY_RUN);
    SeedOptions options =
        new SeedOptions(call.listed(ONLY), dryRun, dryRun ? call.count(ROWS, 0, ROWS_SHOWN) : 0);
    Ladder ladder = call.ladder(dryRun ? Access.READ : Access.WRITE);
    SeedOutcome outcome = seed(ladder, call, options);
    SeedView view = new SeedView(call.terminal());
    if (json) {
      view.json(outcome);
    } else {
      view.show(outcome);
    }
    call.terminal().flush();
    return ExitCode.DONE;
  }

  static SeedOutcome seed(Ladder ladder, Call call, SeedOptions options) {
    try (StopSignal stop = StopSignal.install();
        SeedProgressView progress = new SeedProgressView(call.terminal(), stop::isWanted)) {
      return ladder.seed(
          call.environment(), options, new AskingSeedApproval(call, progress::close), progress);
    }
  }
}
