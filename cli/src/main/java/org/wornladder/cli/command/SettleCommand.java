package org.wornladder.cli.command;

import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.wornladder.Ladder;
import org.wornladder.cli.ExitCode;
import org.wornladder.cli.view.Page;
import org.wornladder.cli.view.ProgressView;
import org.wornladder.execution.ManualResolution.Verdict;
import picocli.CommandLine.Model.CommandSpec;

/** Puts a stuck or worn rung right. */
final class SettleCommand implements Command {
  private static final String DONE = "--done";
  private static final String NOT_DONE = "--not-done";
  private static final String ACCEPT_FILE = "--accept-file";
  private static final String BECAUSE = "--because";

  @Override
  public void describe(CommandSpec spec) {
    Options.words(
        spec, "[ENV] NUMBER", "1..2", "The environment, if not the default one, and the rung.");
    spec.addOption(
        Options.flag(DONE, "The statement in doubt took effect; apply goes on after it."));
    spec.addOption(
        Options.flag(NOT_DONE, "The statement in doubt did not take effect; apply runs it."));
    spec.addOption(Options.flag(ACCEPT_FILE, "The edited file counts as the one that ran."));
    spec.addOption(Options.text(BECAUSE, "TEXT", "Why; it stands in the journal."));
    Options.change(spec);
    Options.database(spec);
  }

  @Override
  public int run(Call call) {
    List<String> words = call.words();
    if (words.isEmpty() || words.size() > 2) {
      throw call.wrong("name the rung: ladder settle [ENV] NUMBER");
    }
    Optional<String> environment = words.size() == 2 ? Optional.of(words.get(0)) : Optional.empty();
    long number = call.number(words.get(words.size() - 1));
    Verdict verdict = verdict(call);
    String because =
        call.text(BECAUSE)
            .filter(text -> !text.isBlank())
            .orElseThrow(() -> call.wrong("say why, with --because TEXT"));
    Ladder ladder = call.ladder();
    try (ProgressView progress = new ProgressView(call.terminal(), () -> false)) {
      ladder.settle(environment, number, verdict, because, new AskingApproval(call), progress);
    }
    String name = environment.orElseGet(ladder.project().settings()::defaultEnvironment);
    Page page = new Page(call.terminal());
    page.verdict(ladder.project().label(number) + " is settled on " + name + ", on the record.");
    page.next("ladder status " + name);
    return ExitCode.DONE;
  }

  private static Verdict verdict(Call call) {
    if (Stream.of(DONE, NOT_DONE, ACCEPT_FILE).filter(call::has).count() != 1) {
      throw call.wrong("say one of --done, --not-done, --accept-file");
    }
    if (call.has(DONE)) {
      return Verdict.DONE;
    }
    return call.has(NOT_DONE) ? Verdict.NOT_DONE : Verdict.ACCEPT_FILE;
  }
}
