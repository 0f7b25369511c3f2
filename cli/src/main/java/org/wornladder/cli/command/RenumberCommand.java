package org.wornladder.cli.command;

import java.util.HashSet;
import java.util.List;
import org.wornladder.Advice;
import org.wornladder.RefusedException;
import org.wornladder.RenumberResult;
import org.wornladder.cli.ExitCode;
import org.wornladder.cli.Terminal;
import org.wornladder.cli.view.Page;
import org.wornladder.cli.view.ProgressView;
import picocli.CommandLine.Model.CommandSpec;

/** Moves a rung to the end of the ladder. */
final class RenumberCommand implements Command {
  @Override
  public void describe(CommandSpec spec) {
    Options.words(
        spec,
        "NUMBER",
        "1",
        "The rung; its file, such as rungs/0007-bins.sql, if two have the number.");
    spec.addOption(
        Options.texts(
            Options.CONFIRM,
            "ENV",
            "This environment, which cannot be reached, does not have it."));
    spec.addOption(
        Options.flag(Options.YES, "Change the journals that have the rung, without asking."));
    Options.database(spec);
  }

  @Override
  public int run(Call call) {
    List<String> words = call.words();
    if (words.size() != 1) {
      throw call.wrong("name the rung: ladder renumber NUMBER");
    }
    RenumberResult moved;
    try (ProgressView progress = new ProgressView(call.terminal(), () -> false)) {
      moved =
          call.ladderBuilder()
              .renumber(
                  words.get(0),
                  new HashSet<>(call.texts(Options.CONFIRM)),
                  having -> check(call, having),
                  progress);
    }
    String recorded =
        moved.recorded().isEmpty()
            ? ""
            : "; on the record of " + String.join(", ", moved.recorded());
    new Page(call.terminal()).verdict(moved.from() + " is now " + moved.file() + recorded + ".");
    return ExitCode.DONE;
  }

  /** Asks the person at the terminal, where there is one and the options do not answer already. */
  private static void check(Call call, List<String> having) {
    if (call.has(Options.YES)) {
      return;
    }
    String names = String.join(", ", having);
    Terminal terminal = call.terminal();
    if (!terminal.inIsTerminal() || !terminal.errIsTerminal()) {
      throw RefusedException.of(
          "the rung is in place on "
              + names
              + ": its journal would change, and there is no terminal to ask at",
          "environment " + names,
          Advice.of(Advice.Code.ADD_YES));
    }
    boolean yes = terminal.agrees("Give it its new number in the journal of " + names + "? [y/N] ");
    if (!yes) {
      throw RefusedException.of("not confirmed; nothing was changed", "environment " + names, "");
    }
  }
}
