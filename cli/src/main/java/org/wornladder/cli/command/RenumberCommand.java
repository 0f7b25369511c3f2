package org.wornladder.cli.command;

import java.util.HashSet;
import java.util.List;
import org.wornladder.RenumberResult;
import org.wornladder.cli.ExitCode;
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

  private static void check(Call call, List<String> having) {
    String names = String.join(", ", having);
    YesQuestion.ask(
        call,
        "the rung is in place on " + names + ": its journal would change",
        "environment " + names,
        "Give it its new number in the journal of " + names + "?");
  }
}
