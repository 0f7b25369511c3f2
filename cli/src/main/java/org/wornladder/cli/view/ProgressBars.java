package org.wornladder.cli.view;

import java.io.PrintStream;
import me.tongfei.progressbar.ConsoleProgressBarConsumer;
import me.tongfei.progressbar.ProgressBarBuilder;
import me.tongfei.progressbar.ProgressBarStyle;
import org.wornladder.cli.Terminal;

/** What all that says how far a long work is has in common. */
final class ProgressBars {
  private ProgressBars() {}

  /**
   * A bar that is still to be built.
   *
   * @param most where it ends; -1 where nobody knows
   */
  static ProgressBarBuilder bar(Terminal terminal, String name, long most) {
    return new ProgressBarBuilder()
        .setTaskName(SafeText.line(name))
        .setInitialMax(most)
        .setStyle(terminal.unicode() ? ProgressBarStyle.UNICODE_BLOCK : ProgressBarStyle.ASCII)
        .setUpdateIntervalMillis(100)
        .setConsumer(new ConsoleProgressBarConsumer(terminal.err(), terminal.width()));
  }

  /** Says who holds the lock. */
  static void waiting(PrintStream err, String holder) {
    err.println("waiting for " + SafeText.line(holder) + ", which is changing this database");
    err.flush();
  }
}
