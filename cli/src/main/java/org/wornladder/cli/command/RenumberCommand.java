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
              .renumber(words.get(0), new HashSet<>(call.texts(Options.CONFIRM)), progress);
    }
    String recorded =
        moved.recorded().isEmpty()
            ? ""
            : "; on the record of " + String.join(", ", moved.recorded());
    new Page(call.terminal()).verdict(moved.from() + " is now " + moved.file() + recorded + ".");
    return ExitCode.DONE;
  }
}
