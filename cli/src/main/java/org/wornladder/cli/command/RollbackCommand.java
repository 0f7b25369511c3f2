package org.wornladder.cli.command;

import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.wornladder.Approval;
import org.wornladder.Ladder;
import org.wornladder.Preview;
import org.wornladder.RollbackOptions;
import org.wornladder.RunListener;
import org.wornladder.RunResult;
import org.wornladder.cli.ExitCode;
import org.wornladder.execution.Plan;
import picocli.CommandLine.Model.CommandSpec;

/** Runs ways down. */
final class RollbackCommand extends ChangeCommand {
  private static final String LAST = "--last";
  private static final String TO = "--to";
  private static final String ABSENT = "--absent";
  private static final String FROM_JOURNAL = "--from-journal";
  private static final String DERIVED = "--derived";
  private static final String DRY_RUN = "--dry-run";

  @Override
  public void describe(CommandSpec spec) {
    Options.environment(spec, "The environment; the default one otherwise.");
    spec.addOption(Options.text(LAST, "N", "Take back the N rungs that ran last; 1 otherwise."));
    spec.addOption(
        Options.text(TO, "NUMBER", "Take back all above this rung, which stays; 0 for all."));
    spec.addOption(Options.flag(ABSENT, "Take back the rungs that this checkout has no file for."));
    spec.addOption(
        Options.flag(
            FROM_JOURNAL,
            "Where the file no longer serves, run the way down that the journal kept."));
    spec.addOption(
        Options.flag(
            DERIVED,
            "Where no way down was written, work it out from the structures before and after."));
    spec.addOption(Options.flag(DRY_RUN, "Show what would be done, and do nothing."));
    Options.change(spec);
    Options.formats(spec);
  }

  @Override
  Optional<Integer> instead(Call call) {
    if (!call.has(DRY_RUN)) {
      return Optional.empty();
    }
    String format = call.format(Call.TEXT, Call.JSON, Call.MARKDOWN);
    Plan plan = call.ladder().previewRollback(call.environment(), options(call));
    PreviewCommand.show(call, format, new Preview(plan, Optional.empty()), selected(call));
    return Optional.of(ExitCode.DONE);
  }

  /** The options that select the rungs, as they were typed. */
  private static String selected(Call call) {
    StringBuilder options = new StringBuilder();
    for (String option : List.of(LAST, TO)) {
      call.text(option)
          .ifPresent(value -> options.append(" ").append(option).append(" ").append(value));
    }
    for (String option : List.of(ABSENT, FROM_JOURNAL, DERIVED)) {
      options.append(call.has(option) ? " " + option : "");
    }
    return options.toString();
  }

  @Override
  RunResult change(Ladder ladder, Call call, Approval approval, RunListener listener) {
    return ladder.rollback(call.environment(), options(call), approval, listener);
  }

  private static RollbackOptions options(Call call) {
    return new RollbackOptions(selection(call), call.has(FROM_JOURNAL), call.has(DERIVED));
  }

  private static RollbackOptions.Selection selection(Call call) {
    if (Stream.of(LAST, TO, ABSENT).filter(call::has).count() > 1) {
      throw call.wrong("--last, --to and --absent exclude each other");
    }
    if (call.has(ABSENT)) {
      return new RollbackOptions.Absent();
    }
    return call.has(TO)
        ? new RollbackOptions.To(call.number(call.text(TO).orElseThrow()))
        : new RollbackOptions.Last(call.count(LAST, 1, 1));
  }
}
