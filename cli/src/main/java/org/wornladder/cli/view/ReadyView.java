package org.wornladder.cli.view;

import org.wornladder.Status;
import org.wornladder.cli.Terminal;

/** Whether an application may start on a database. */
public final class ReadyView {
  private static final String IN_PLACE = "in place";

  private final Terminal terminal;

  public ReadyView(Terminal terminal) {
    this.terminal = terminal;
  }

  /** Whether no rung waits or is half way, and every standing script is as its file says. */
  public static boolean isReady(Status status) {
    return status.isThere()
        && status.waiting() == 0
        && status.rungs().stream().noneMatch(line -> line.state() == Status.State.RUNNING)
        && changedScripts(status) == 0;
  }

  private static long changedScripts(Status status) {
    return status.standing().stream().filter(one -> !one.state().equals(IN_PLACE)).count();
  }

  public void show(Status status) {
    Page page = new Page(terminal);
    if (isReady(status)) {
      page.verdict(status.environment() + " is ready: nothing waits.");
      return;
    }
    long scripts = changedScripts(status);
    page.verdict(
        status.environment()
            + " is not ready: "
            + PlanView.count(status.waiting(), "rung")
            + (scripts == 0 ? "" : " and " + PlanView.count(scripts, "standing script"))
            + (status.waiting() + scripts == 1 ? " waits." : " wait."));
    page.next("ladder apply " + Commands.word(status.environment()));
  }

  public void json(Status status) {
    new Json()
        .put("environment", status.environment())
        .put("ready", isReady(status))
        .put("waiting", status.waiting())
        .put("standing_waiting", changedScripts(status))
        .write(terminal.out());
  }
}
