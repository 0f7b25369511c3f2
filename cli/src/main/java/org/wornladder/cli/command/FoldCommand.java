package org.wornladder.cli.command;

import java.util.List;
import org.wornladder.Fold;
import org.wornladder.FoldOptions;
import org.wornladder.FoldQuestions;
import org.wornladder.Ladder;
import org.wornladder.cli.ExitCode;
import org.wornladder.cli.view.FoldView;
import org.wornladder.cli.view.SafeText;
import picocli.CommandLine.Model.CommandSpec;

/** Makes one rung of many, for new databases. */
final class FoldCommand implements Command {
  private static final String UP_TO = "--up-to";
  private static final String DELETE = "--delete";
  private static final String WITHOUT_ROWS = "--without-rows";
  private static final String DRY_RUN = "--dry-run";

  @Override
  public void describe(CommandSpec spec) {
    Options.words(spec, "WORDS", "*", "What the one rung is called; 'folded' otherwise.");
    spec.addOption(
        Options.text(UP_TO, "NUMBER", "The highest rung to be folded; all below it are, too."));
    spec.addOption(
        Options.texts(
            WITHOUT_ROWS, "TABLE", "Leave out the rows that the rungs put into this table."));
    spec.addOption(
        Options.flag(DELETE, "Delete the folded files; they move to rungs/folded/ otherwise."));
    spec.addOption(Options.flag(DRY_RUN, "Show what would be written, and write nothing."));
    spec.addOption(
        Options.flag(Options.YES, "Keep all rows and change the files, without asking."));
    Options.format(spec);
    Options.database(spec);
  }

  @Override
  public int run(Call call) {
    boolean json = call.isJson();
    long upTo =
        call.number(
            call.text(UP_TO)
                .orElseThrow(
                    () -> call.wrong("name the highest rung: ladder fold --up-to NUMBER")));
    String words = call.words().isEmpty() ? "folded" : String.join(" ", call.words());
    boolean trial = call.has(DRY_RUN);
    Ladder ladder = call.ladder();
    if (!trial) {
      YesQuestion.ask(
          call,
          "all rungs up to " + upTo + " would become one file",
          "rungs/",
          "Replace all rungs up to " + upTo + " by one?");
    }
    Fold fold =
        ladder.fold(new FoldOptions(upTo, words, call.has(DELETE), !trial), questions(call));
    FoldView view = new FoldView(call.terminal());
    if (json) {
      view.json(fold);
    } else {
      view.show(fold);
    }
    return ExitCode.DONE;
  }

  private static FoldQuestions questions(Call call) {
    List<String> without = call.texts(WITHOUT_ROWS);
    boolean asks =
        call.terminal().inIsTerminal()
            && call.terminal().errIsTerminal()
            && !call.has(Options.YES)
            && !call.wantsJson();
    return (table, rows) ->
        without.stream().noneMatch(table::equalsIgnoreCase)
            && (!asks
                || call.terminal()
                    .agrees(
                        "The rungs leave %d rows in %s. Keep them in the fold? [y/N] "
                            .formatted(rows, SafeText.line(table))));
  }
}
