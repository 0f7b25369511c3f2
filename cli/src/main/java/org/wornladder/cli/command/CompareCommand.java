package org.wornladder.cli.command;

import java.util.List;
import org.wornladder.ComparisonResult;
import org.wornladder.cli.ExitCode;
import org.wornladder.cli.view.CompareView;
import picocli.CommandLine.Model.CommandSpec;

/** Compares two structures with each other. */
final class CompareCommand implements Command {
  @Override
  public void describe(CommandSpec spec) {
    Options.words(
        spec,
        "STRUCTURE",
        "2",
        "Two of: env:NAME, what is there; expected:NAME, what its history says"
            + " should; rungs, what the rungs build; schema, what schema/ declares.");
    Options.rights(spec);
    Options.database(spec);
    Options.formats(spec);
  }

  @Override
  public int run(Call call) {
    String format = call.format(Call.TEXT, Call.JSON, Call.MARKDOWN);
    List<String> named = call.words();
    if (named.size() != 2) {
      throw call.wrong("compare takes two structures, for example env:test env:live");
    }
    ComparisonResult comparison =
        call.ladder().compare(named.get(0), named.get(1), call.has(Options.RIGHTS));
    CompareView view = new CompareView(call.terminal());
    switch (format) {
      case Call.JSON -> view.json(comparison);
      case Call.MARKDOWN -> view.markdown(comparison);
      default -> view.show(comparison);
    }
    return comparison.differences().isEmpty() ? ExitCode.DONE : ExitCode.FOUND;
  }
}
