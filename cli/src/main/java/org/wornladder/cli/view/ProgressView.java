package org.wornladder.cli.view;

import java.io.PrintStream;
import java.time.Duration;
import java.util.Optional;
import java.util.function.BooleanSupplier;
import me.tongfei.progressbar.ProgressBar;
import org.wornladder.RebuildLoss;
import org.wornladder.RunListener;
import org.wornladder.RunResult;
import org.wornladder.cli.Terminal;
import org.wornladder.execution.Plan;
import org.wornladder.execution.Step;
import org.wornladder.sql.Statement;

/** Says how far a run is: a line a step, or a bar for long runs on a terminal. */
public final class ProgressView implements RunListener, AutoCloseable {
  /** With more steps than these a bar says more than lines. */
  private static final int LINES_AT_MOST = 30;

  private static final int LABEL = "standing".length();
  private static final int WORD = "passed over".length();
  private static final int DURATION = "10 min 59 s".length() - 2;

  private final Terminal terminal;
  private final Colors colors;
  private final PrintStream err;
  private final BooleanSupplier stop;
  private Optional<ProgressBar> bar = Optional.empty();
  private Optional<ProgressBar> batches = Optional.empty();
  private int about;
  private boolean together;
  private int lines;

  /**
   * @param stop whether the run is asked to end after the step that is running
   */
  public ProgressView(Terminal terminal, BooleanSupplier stop) {
    this.terminal = terminal;
    this.colors = new Colors(terminal);
    this.err = terminal.err();
    this.stop = stop;
  }

  @Override
  public void waiting(String holder) {
    ProgressBars.waiting(err, holder);
  }

  @Override
  public void retrying(Step step, int attempt, String words) {
    String line = step.label() + " could not get what it needs (" + words + "); trying again";
    err.println(SafeText.line(line));
    err.flush();
  }

  /** With the rate and the time that is left, which the bar works out. */
  @Override
  public void batchDone(Step step, long done, long total) {
    if (!terminal.errIsTerminal()) {
      return;
    }
    if (batches.isEmpty()) {
      batches =
          Optional.of(
              ProgressBars.bar(terminal, step.label(), total)
                  .setUnit(" rows", 1)
                  .showSpeed()
                  .startsFrom(done, Duration.ZERO)
                  .build());
    }
    batches.get().maxHint(total);
    batches.get().stepTo(done);
  }

  private void endBatches() {
    batches.ifPresent(ProgressBar::close);
    batches = Optional.empty();
  }

  @Override
  public void broughtBack(String words) {
    err.println("  attic     " + SafeText.line(words));
    lines++;
  }

  @Override
  public void emptied(RebuildLoss loss) {
    if (!loss.isNothing()) {
      err.println("  " + colors.warning("emptied") + "  " + loss.text());
      lines++;
    }
  }

  @Override
  public void started(Plan plan) {
    together = plan.together();
    plan.notes().forEach(note -> err.println("note: " + SafeText.line(NoteText.of(note, plan))));
    about =
        plan.steps().stream()
            .mapToInt(step -> SafeText.width(SafeText.line(step.about())))
            .max()
            .orElse(0);
    if (terminal.errIsTerminal() && plan.steps().size() > LINES_AT_MOST) {
      bar =
          Optional.of(ProgressBars.bar(terminal, plan.environment(), plan.steps().size()).build());
    }
  }

  @Override
  public void statementStarted(Step step, Statement statement) {
    bar.ifPresent(running -> running.setExtraMessage(step.label()));
  }

  @Override
  public void stepDone(RunResult.Done done, int index) {
    endBatches();
    if (bar.isPresent()) {
      bar.get().stepTo(index);
      return;
    }
    String word =
        switch (done.result()) {
          // Of all or nothing, nothing is applied before the end.
          case APPLIED -> together ? "ran" : colors.good("applied");
          case ROLLED_BACK -> colors.good("rolled back");
          case PASSED_OVER -> colors.warning("passed over");
          case STANDING_RUN -> colors.good("run");
          case STANDING_TAKEN_DOWN -> colors.warning("taken down");
        };
    String line =
        "  "
            + SafeText.pad(done.step().label(), LABEL)
            + "  "
            + SafeText.pad(word, WORD)
            + "  "
            + SafeText.pad(SafeText.line(done.step().about()), about)
            + "  "
            + colors.faint(SafeText.padLeft(Durations.text(done.elapsedMs()), DURATION));
    err.println(line);
    if (!done.detail().isEmpty()) {
      err.println("      " + colors.faint(SafeText.line(done.detail())));
    }
    lines++;
  }

  @Override
  public boolean wantsStop() {
    return stop.getAsBoolean();
  }

  @Override
  public void close() {
    endBatches();
    bar.ifPresent(ProgressBar::close);
    bar = Optional.empty();
    if (lines > 0 && terminal.errIsTerminal()) {
      err.println();
    }
    err.flush();
  }
}
