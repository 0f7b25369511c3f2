package org.wornladder.cli.command;

import java.util.Optional;
import org.wornladder.Approval;
import org.wornladder.Ladder;
import org.wornladder.RunListener;
import org.wornladder.RunResult;
import org.wornladder.SeedRunResult;
import org.wornladder.cli.ExitCode;
import org.wornladder.cli.view.ProgressView;
import org.wornladder.cli.view.RunResultView;

/** What apply and rollback have in common: progress, approval, the line at the end. */
abstract class ChangeCommand implements Command {
  /** Makes the change. */
  abstract RunResult change(Ladder ladder, Call call, Approval approval, RunListener listener);

  /** What follows a change that was made whole; empty if nothing is to. */
  Optional<SeedRunResult> after(Ladder ladder, Call call, RunResult outcome) {
    return Optional.empty();
  }

  /** What is done in place of the change, with its exit code; empty for the change itself. */
  Optional<Integer> instead(Call call) {
    return Optional.empty();
  }

  @Override
  public final int run(Call call) {
    Optional<Integer> instead = instead(call);
    if (instead.isPresent()) {
      return instead.get();
    }
    boolean json = call.isJson();
    Ladder ladder = call.ladder();
    RunResult outcome;
    try (StopSignal stop = StopSignal.install();
        ProgressView progress = new ProgressView(call.terminal(), stop::isWanted)) {
      outcome = change(ladder, call, new AskingApproval(call), progress);
    }
    RunResultView view = new RunResultView(call.terminal());
    if (!json) {
      view.show(outcome, ladder.project().label(outcome.at()));
      call.terminal().flush();
    }
    Optional<SeedRunResult> seeded =
        outcome.stopped() ? Optional.empty() : after(ladder, call, outcome);
    if (json) {
      view.json(outcome, seeded);
    }
    call.terminal().flush();
    return ExitCode.DONE;
  }
}
