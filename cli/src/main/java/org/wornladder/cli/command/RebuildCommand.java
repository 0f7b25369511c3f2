package org.wornladder.cli.command;

import java.util.Optional;
import java.util.OptionalLong;
import org.wornladder.Ladder;
import org.wornladder.RebuildApproval;
import org.wornladder.RebuildLoss;
import org.wornladder.RebuildOptions;
import org.wornladder.RebuildResult;
import org.wornladder.RefusedException;
import org.wornladder.cli.ExitCode;
import org.wornladder.cli.Terminal;
import org.wornladder.cli.view.ProgressView;
import org.wornladder.cli.view.RebuildView;
import org.wornladder.cli.view.SeedProgressView;
import picocli.CommandLine.Model.CommandSpec;

/** A fresh start. */
final class RebuildCommand implements Command {
  private static final String NO_SEED = "--no-seed";
  private static final String TO = "--to";

  @Override
  public void describe(CommandSpec spec) {
    Options.environment(spec, "A disposable environment; the default one otherwise.");
    spec.addOption(
        Options.text(
            TO, "NUMBER", "Apply up to this rung, and seed the tables that are there then."));
    spec.addOption(Options.flag(NO_SEED, "Do not seed in the end."));
    spec.addOption(Options.flag(Options.YES, "Empty it without a question."));
    spec.addOption(
        Options.text(
            Options.CONFIRM,
            "DATABASE",
            "The database's own name: the yes for one that holds things and no journal of this"
                + " project."));
    spec.addOption(Options.lockWait());
    Options.format(spec);
  }

  @Override
  public int run(Call call) {
    boolean json = call.isJson();
    OptionalLong to =
        call.text(TO).map(text -> OptionalLong.of(call.number(text))).orElse(OptionalLong.empty());
    RebuildOptions options = new RebuildOptions(to, !call.has(NO_SEED));
    Ladder ladder = call.ladder();
    RebuildResult rebuilt;
    try (StopSignal stop = StopSignal.install();
        ProgressView progress = new ProgressView(call.terminal(), stop::isWanted);
        SeedProgressView seeding = new SeedProgressView(call.terminal(), stop::isWanted)) {
      rebuilt =
          ladder.rebuild(call.environment(), options, loss -> check(call, loss), progress, seeding);
    }
    RebuildView view = new RebuildView(call.terminal());
    if (json) {
      view.json(rebuilt);
    } else {
      view.show(rebuilt, ladder.project().label(rebuilt.applied().at()));
    }
    call.terminal().flush();
    return ExitCode.DONE;
  }

  /** Asks the person at the terminal, where there is one and the options do not answer already. */
  private static void check(Call call, RebuildLoss loss) {
    Terminal terminal = call.terminal();
    Optional<String> confirmed = call.text(Options.CONFIRM);
    boolean yes = call.has(Options.YES);
    boolean canAsk = terminal.inIsTerminal() && terminal.errIsTerminal() && !call.wantsJson();
    if (canAsk && !loss.isNothing() && !loss.isStrange() && confirmed.isEmpty() && !yes) {
      String question =
          "Take " + loss.text() + " out of " + loss.environment() + ", with all rows? [y/N] ";
      yes = terminal.agrees(question);
      if (!yes) {
        throw RefusedException.of(
            "not confirmed; nothing was changed", "environment " + loss.environment(), "");
      }
    }
    RebuildApproval.given(confirmed, yes).check(loss);
  }
}
