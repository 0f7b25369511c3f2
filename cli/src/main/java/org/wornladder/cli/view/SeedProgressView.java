package org.wornladder.cli.view;

import java.io.PrintStream;
import java.util.Optional;
import java.util.function.BooleanSupplier;
import me.tongfei.progressbar.ProgressBar;
import org.wornladder.SeedListener;
import org.wornladder.cli.Terminal;

/** Says how far seeding is: a bar for large files, on a terminal. */
public final class SeedProgressView implements SeedListener, AutoCloseable {
  /** Files that are read at once need no bar; in bytes. */
  private static final long WORTH_A_BAR = 1 << 20;

  /** So do few rows that are made up. */
  private static final long ROWS_WORTH_A_BAR = 10_000;

  private final Terminal terminal;
  private final PrintStream err;
  private final BooleanSupplier stop;
  private Optional<ProgressBar> bar = Optional.empty();
  private String shown = "";

  /**
   * @param stop whether the work is asked to end
   */
  public SeedProgressView(Terminal terminal, BooleanSupplier stop) {
    this.terminal = terminal;
    this.err = terminal.err();
    this.stop = stop;
  }

  @Override
  public void waiting(String holder) {
    ProgressBars.waiting(err, holder);
  }

  @Override
  public void reading(String label, long bytes, long size) {
    boolean small = size > 0 ? size < WORTH_A_BAR : bytes < ROWS_WORTH_A_BAR;
    if (!terminal.errIsTerminal() || small) {
      return;
    }
    if (!shown.equals(label)) {
      close();
      shown = label;
      bar =
          Optional.of(
              ProgressBars.bar(terminal, label, size > 0 ? size : -1)
                  .setUnit(size > 0 ? " MB" : " rows", size > 0 ? 1 << 20 : 1)
                  .build());
    }
    bar.ifPresent(running -> running.stepTo(bytes));
  }

  @Override
  public void unread(String table, String rule) {
    close();
    err.println(
        "note: the rows of " + SafeText.line(table) + " may not obey " + SafeText.line(rule));
    err.flush();
  }

  @Override
  public void writing(String label) {
    bar.ifPresent(running -> running.setExtraMessage("writing " + SafeText.line(label)));
  }

  @Override
  public boolean wantsStop() {
    return stop.getAsBoolean();
  }

  @Override
  public void close() {
    bar.ifPresent(ProgressBar::close);
    bar = Optional.empty();
    shown = "";
    err.flush();
  }
}
