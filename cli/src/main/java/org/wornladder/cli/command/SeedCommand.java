package org.wornladder.cli.command;

import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import org.wornladder.Ladder;
import org.wornladder.PullOptions;
import org.wornladder.PulledSeed;
import org.wornladder.SeedOptions;
import org.wornladder.SeedOptions.SampleOrder;
import org.wornladder.SeedRunResult;
import org.wornladder.cli.ExitCode;
import org.wornladder.cli.view.SeedProgressView;
import org.wornladder.cli.view.SeedView;
import picocli.CommandLine.Model.CommandSpec;

/** Brings reference data to what the files say. */
final class SeedCommand implements Command {
  private static final String DRY_RUN = "--dry-run";
  private static final String ONLY = "--only";
  private static final String SHOW = "--show";
  private static final String PULL = "--pull";
  private static final String SAMPLE = "--sample";
  private static final String ROWS = "--rows";
  private static final String WRITE = "--write";
  private static final int ROWS_SHOWN = 50;

  @Override
  public void describe(CommandSpec spec) {
    Options.environment(spec, "The environment; the default one otherwise.");
    spec.addOption(
        Options.flag(DRY_RUN, "Show the rows that would change, field by field; write nothing."));
    spec.addOption(Options.texts(ONLY, "TABLE,…", "These seeds alone; may be repeated."));
    spec.addOption(
        Options.text(
            SHOW, "N", "With --dry-run: how many rows to show of each table; 50 otherwise."));
    spec.addOption(
        Options.texts(
            PULL, "TABLE,…", "Write the rows of the table back to the seed's file instead."));
    spec.addOption(
        Options.texts(
            SAMPLE,
            "TABLE,…",
            "Make rows up for these tables, as their samples say or by a guess."));
    spec.addOption(Options.text(ROWS, "N", "With --sample: how many rows for each."));
    spec.addOption(
        Options.flag(
            WRITE, "With --sample: write the guess to seeds/ to be edited; make no rows."));
    Options.change(spec);
    Options.format(spec);
  }

  @Override
  public int run(Call call) {
    boolean json = call.isJson();
    SeedView view = new SeedView(call.terminal());
    if (call.has(PULL)) {
      return pull(call, view);
    }
    Optional<SampleOrder> sample = sample(call);
    if (call.has(WRITE)) {
      return writeSample(call, sample.orElseThrow(), view);
    }
    boolean dryRun = call.has(DRY_RUN);
    SeedOptions options =
        new SeedOptions(
            call.listed(ONLY), dryRun, dryRun ? call.count(SHOW, 0, ROWS_SHOWN) : 0, false, sample);
    Ladder ladder = call.ladder();
    SeedRunResult outcome = seed(ladder, call, options);
    if (json) {
      view.json(outcome);
    } else {
      view.show(outcome, call.listed(ONLY));
    }
    call.terminal().flush();
    return ExitCode.DONE;
  }

  /** The command that writes what a dry run showed. */
  private static String again(Call call) {
    String environment = call.environment().map(name -> name + " ").orElse("");
    return "ladder seed " + environment + PULL + " " + String.join(",", call.listed(PULL));
  }

  private static int pull(Call call, SeedView view) {
    boolean dryRun = call.has(DRY_RUN);
    List<PulledSeed> pulled =
        call.ladder()
            .pull(
                call.environment(),
                new PullOptions(call.listed(PULL), dryRun),
                new AskingPullApproval(call));
    if (call.isJson()) {
      view.json(pulled, !dryRun);
    } else {
      view.show(pulled, !dryRun, again(call));
    }
    return ExitCode.DONE;
  }

  private static Optional<SampleOrder> sample(Call call) {
    if (call.has(ROWS) && !call.has(SAMPLE)) {
      throw call.wrong(ROWS + " says how many rows --sample makes");
    }
    if (call.has(WRITE) && !call.has(SAMPLE)) {
      throw call.wrong(WRITE + " leaves the guess of --sample as a file");
    }
    int rows = call.count(ROWS, 1, 0);
    return call.has(SAMPLE)
        ? Optional.of(
            new SampleOrder(
                call.listed(SAMPLE), rows == 0 ? OptionalLong.empty() : OptionalLong.of(rows)))
        : Optional.empty();
  }

  private static int writeSample(Call call, SampleOrder order, SeedView view) {
    List<String> files =
        call.ladder().writeSample(call.environment(), order, call.has(Options.YES));
    if (call.isJson()) {
      view.samplesJson(files);
    } else {
      view.samples(files);
    }
    return ExitCode.DONE;
  }

  static SeedRunResult seed(Ladder ladder, Call call, SeedOptions options) {
    try (StopSignal stop = StopSignal.install();
        SeedProgressView progress = new SeedProgressView(call.terminal(), stop::isWanted)) {
      return ladder.seed(
          call.environment(), options, new AskingSeedApproval(call, progress::close), progress);
    }
  }
}
