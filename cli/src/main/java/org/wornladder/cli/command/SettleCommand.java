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
  private static final String ACCEPT_JOURNAL = "--accept-journal";
  private static final String BECAUSE = "--because";

  @Override
  public void describe(CommandSpec spec) {
    Options.words(
        spec, "[ENV] [NUMBER]", "0..2", "The environment, if not the default one, and the rung.");
    spec.addOption(
        Options.flag(DONE, "The statement in doubt took effect; apply goes on after it."));
    spec.addOption(
        Options.flag(NOT_DONE, "The statement in doubt did not take effect; apply runs it."));
    spec.addOption(Options.flag(ACCEPT_FILE, "The edited file counts as the one that ran."));
    spec.addOption(
        Options.flag(
            ACCEPT_JOURNAL, "The journal, whose hash chain is broken, is taken as it is."));
    spec.addOption(Options.text(BECAUSE, "TEXT", "Why; it stands in the journal."));
    Options.change(spec);
    Options.database(spec);
  }

  @Override
  public int run(Call call) {
    if (Stream.of(DONE, NOT_DONE, ACCEPT_FILE, ACCEPT_JOURNAL).filter(call::has).count() != 1) {
      throw call.wrong("say one of --done, --not-done, --accept-file, --accept-journal");
    }
    return call.has(ACCEPT_JOURNAL) ? journal(call) : rung(call);
  }

  private static int rung(Call call) {
    List<String> words = call.words();
    if (words.isEmpty() || words.size() > 2) {
      throw call.wrong("name the rung: ladder settle [ENV] NUMBER");
    }
    Optional<String> environment = words.size() == 2 ? Optional.of(words.get(0)) : Optional.empty();
    long number = call.number(words.get(words.size() - 1));
    String because = because(call);
    Ladder ladder = call.ladder();
    AskingApproval approval = new AskingApproval(call);
    try (ProgressView progress = new ProgressView(call.terminal(), () -> false)) {
      if (call.has(ACCEPT_FILE)) {
        ladder.acceptFile(environment, number, because, approval, approval, progress);
      } else {
        Verdict verdict = call.has(DONE) ? Verdict.DONE : Verdict.NOT_DONE;
        ladder.settle(environment, number, verdict, because, approval, progress);
      }
    }
    return settled(call, environment, ladder.project().label(number) + " is settled");
  }

  private static int journal(Call call) {
    if (call.words().size() > 1) {
      throw call.wrong("a journal has no number: ladder settle [ENV] --accept-journal");
    }
    Optional<String> environment = call.words().stream().findFirst();
    String because = because(call);
    try (ProgressView progress = new ProgressView(call.terminal(), () -> false)) {
      call.ladder().acceptJournal(environment, because, new AskingApproval(call), progress);
    }
    return settled(call, environment, "The journal is taken as it is");
  }

  private static int settled(Call call, Optional<String> environment, String what) {
    String name = environment.orElseGet(call.ladder().project().settings()::defaultEnvironment);
    Page page = new Page(call.terminal());
    page.verdict(what + " on " + name + ", on the record.");
    page.next("ladder status " + name);
    return ExitCode.DONE;
  }

  private static String because(Call call) {
    return call.text(BECAUSE)
        .filter(text -> !text.isBlank())
        .orElseThrow(() -> call.wrong("say why, with --because TEXT"));
  }
}
