package org.wornladder.cli.command;

import java.util.Optional;
import org.wornladder.RefusedException;
import org.wornladder.SeedApproval;
import org.wornladder.SeedRunResult;
import org.wornladder.cli.Terminal;
import org.wornladder.cli.view.SeedView;
import org.wornladder.project.Environment;

/** Asks the person at the terminal before rows of a guarded environment are changed. */
final class AskingSeedApproval implements SeedApproval {
  private final Call call;
  private final Runnable beforeAsking;

  /**
   * @param beforeAsking clears the terminal of what is drawn there
   */
  AskingSeedApproval(Call call, Runnable beforeAsking) {
    this.call = call;
    this.beforeAsking = beforeAsking;
  }

  @Override
  public void check(SeedRunResult planned, Environment environment) {
    Optional<String> confirmed = call.text(Options.CONFIRM);
    Terminal terminal = call.terminal();
    boolean canAsk = terminal.inIsTerminal() && terminal.errIsTerminal() && !call.wantsJson();
    if (canAsk && confirmed.isEmpty() && environment.settings().guarded()) {
      beforeAsking.run();
      new SeedView(terminal).show(planned);
      terminal.flush();
      String name = environment.name();
      confirmed = terminal.ask(name + " is guarded. Type its name to go on: ");
      if (confirmed.filter(name::equals).isEmpty()) {
        throw RefusedException.of("not confirmed; nothing was changed", "environment " + name, "");
      }
    }
    SeedApproval.given(confirmed).check(planned, environment);
  }
}
