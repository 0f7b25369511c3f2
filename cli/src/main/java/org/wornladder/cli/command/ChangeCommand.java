package org.wornladder.cli.command;

import java.util.Optional;
import org.wornladder.Ladder;
import org.wornladder.cli.ExitCode;
import org.wornladder.cli.view.OutcomeView;
import org.wornladder.cli.view.ProgressView;
import org.wornladder.climb.Approval;
import org.wornladder.climb.Listener;
import org.wornladder.climb.Outcome;
import org.wornladder.seed.SeedOutcome;

/** What apply and rollback have in common: progress, approval, the line at the end. */
abstract class ChangeCommand implements Command {
  /** Makes the change. */
  abstract Outcome change(Ladder ladder, Call call, Approval approval, Listener listener);

  /** What follows a change that was made whole; empty if nothing is to. */
  Optional<SeedOutcome> after(Ladder ladder, Call call, Outcome outcome) {
    return Optional.empty();
  }

  @Override
  public final int run(Call call) {
    boolean json = call.isJson();
    Ladder ladder = call.ladder();
    Outcome outcome;
    try (StopSignal stop = StopSignal.install();
        ProgressView progress = new ProgressView(call.terminal(), stop::isWanted)) {
      outcome = change(ladder, call, new AskingApproval(call), progress);
    }
    OutcomeView view = new OutcomeView(call.terminal());
    if (!json) {
      view.show(outcome, ladder.project().label(outcome.at()));
      call.terminal().flush();
    }
    Optional<SeedOutcome> seeded =
        outcome.stopped() ? Optional.empty() : after(ladder, call, outcome);
    if (json) {
      view.json(outcome, seeded);
    }
    call.terminal().flush();
    return ExitCode.DONE;
  }
}
