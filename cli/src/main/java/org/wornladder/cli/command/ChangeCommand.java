package org.wornladder.cli.command;

import org.wornladder.Ladder;
import org.wornladder.cli.ExitCode;
import org.wornladder.cli.view.OutcomeView;
import org.wornladder.cli.view.ProgressView;
import org.wornladder.climb.Approval;
import org.wornladder.climb.Listener;
import org.wornladder.climb.Outcome;
import org.wornladder.engine.Access;

/** What apply and rollback have in common: progress, approval, the line at the end. */
abstract class ChangeCommand implements Command {
  /** Makes the change. */
  abstract Outcome change(Ladder ladder, Call call, Approval approval, Listener listener);

  @Override
  public final int run(Call call) {
    Ladder ladder = call.ladder(Access.WRITE);
    boolean json = call.isJson();
    Outcome outcome;
    try (StopSignal stop = StopSignal.install();
        ProgressView progress = new ProgressView(call.terminal(), stop::isWanted)) {
      outcome = change(ladder, call, new AskingApproval(call), progress);
    }
    OutcomeView view = new OutcomeView(call.terminal());
    if (json) {
      view.json(outcome);
    } else {
      view.show(outcome, ladder.project().label(outcome.at()));
    }
    call.terminal().flush();
    return ExitCode.DONE;
  }
}
