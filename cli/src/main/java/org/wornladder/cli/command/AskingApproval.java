package org.wornladder.cli.command;

import java.util.List;
import java.util.Optional;
import org.wornladder.AcceptedFileApproval;
import org.wornladder.Approval;
import org.wornladder.RefusedException;
import org.wornladder.cli.Terminal;
import org.wornladder.cli.view.AcceptedFileView;
import org.wornladder.cli.view.PlanView;
import org.wornladder.execution.AcceptedFile;
import org.wornladder.execution.Plan;
import org.wornladder.execution.Step;
import org.wornladder.project.Direction;
import org.wornladder.project.Environment;

/** Asks the person at the terminal, where there is one and the options do not answer already. */
final class AskingApproval implements Approval, AcceptedFileApproval {
  private final Call call;
  private final Terminal terminal;

  AskingApproval(Call call) {
    this.call = call;
    this.terminal = call.terminal();
  }

  @Override
  public void check(Plan plan, Environment environment) {
    Optional<String> confirmed = call.text(Options.CONFIRM);
    boolean yes = call.has(Options.YES);
    if (canAsk() && confirmed.isEmpty()) {
      if (environment.settings().guarded()) {
        confirmed = askForName(plan, environment.name());
      } else if (!yes
          && plan.direction() == Direction.DOWN
          && !environment.settings().disposable()) {
        yes = askForYes(plan, environment.name());
        if (!yes) {
          throw notMeant(environment.name());
        }
      }
    }
    Approval.given(confirmed, yes).check(plan, environment);
  }

  @Override
  public void check(AcceptedFile file) {
    new AcceptedFileView(terminal).show(file);
    terminal.flush();
    boolean yes = call.has(Options.YES);
    if (!yes && canAsk()) {
      yes = terminal.agrees("Go on with the file like this? [y/N] ");
    }
    AcceptedFileApproval.given(yes).check(file);
  }

  private boolean canAsk() {
    return terminal.inIsTerminal() && terminal.errIsTerminal() && !call.wantsJson();
  }

  private Optional<String> askForName(Plan plan, String name) {
    new PlanView(terminal).showSteps(plan);
    terminal.out().println();
    terminal.flush();
    String question = name + " is guarded. Type its name to go on: ";
    Optional<String> answer = terminal.ask(question);
    if (answer.filter(name::equals).isEmpty()) {
      throw notMeant(name);
    }
    return answer;
  }

  private boolean askForYes(Plan plan, String name) {
    new PlanView(terminal).showSteps(plan);
    terminal.out().println();
    terminal.flush();
    List<String> labels = plan.steps().stream().map(Step::label).toList();
    String question = "Take back " + String.join(", ", labels) + " on " + name + "? [y/N] ";
    return terminal.agrees(question);
  }

  private static RefusedException notMeant(String name) {
    return RefusedException.of("not confirmed; nothing was changed", "environment " + name, "");
  }
}
