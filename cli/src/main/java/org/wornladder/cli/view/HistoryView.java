package org.wornladder.cli.view;

import java.util.List;
import java.util.function.LongFunction;
import org.wornladder.JournalReport;
import org.wornladder.cli.Terminal;
import org.wornladder.journal.Entry;
import org.wornladder.journal.History;

/** The journal, entry by entry, the newest last. */
public final class HistoryView {
  private final Terminal terminal;
  private final Colors paint;

  public HistoryView(Terminal terminal) {
    this.terminal = terminal;
    this.paint = new Colors(terminal);
  }

  /**
   * @param label how a rung's number is written
   */
  public void show(JournalReport report, LongFunction<String> label) {
    List<Entry> entries = report.history().entries();
    terminal
        .out()
        .println(
            paint.strong(report.environment())
                + paint.faint("  " + SafeText.line(report.address())));
    if (entries.isEmpty()) {
      terminal.out().println("Nothing has run here yet.");
    } else {
      terminal.out().println();
      grid(entries, label).lines("  ", terminal).forEach(terminal.out()::println);
    }
    terminal.out().println();
    report.history().broken().ifPresentOrElse(this::broken, () -> proven(entries.size()));
  }

  private Grid grid(List<Entry> entries, LongFunction<String> label) {
    Grid grid = new Grid();
    grid.header(List.of("entry", "time (UTC)", "event", "what", "took", "who", ""));
    for (Entry entry : entries) {
      String subject =
          entry.subject().rung() == 0
              ? entry.subject().name()
              : label.apply(entry.subject().rung()) + " " + entry.subject().name();
      String statement =
          entry.note().statement() > 0 ? " statement " + entry.note().statement() : "";
      grid.row(
          Long.toString(entry.number()),
          entry.at().substring(0, 10) + " " + entry.at().substring(11, 19),
          entry.event().shown(),
          SafeText.cut(SafeText.line(subject + statement), 34, paint.ellipsis()),
          entry.note().elapsedMs() > 0 ? entry.note().elapsedMs() + " ms" : "",
          SafeText.line(entry.who().osUser() + "@" + entry.who().host()),
          SafeText.line(entry.note().text()));
    }
    return grid;
  }

  private void proven(int entries) {
    if (entries > 0) {
      terminal
          .out()
          .println(
              (entries == 1 ? "1 entry" : entries + " entries, each following from the one before")
                  + ".");
    }
  }

  private void broken(History.Break broken) {
    terminal
        .out()
        .println(
            paint.bad("The chain is broken at entry " + broken.entry() + ": ")
                + broken.reason()
                + ". apply refuses until it is known who wrote to the table.");
  }

  public void json(JournalReport report) {
    new Json()
        .put("environment", report.environment())
        .put("database", report.address())
        .put("database_exists", report.isThere())
        .put("chain_broken_at", report.history().broken().map(broken -> (Object) broken.entry()))
        .put("chain_broken_because", report.history().broken().map(History.Break::reason))
        .put("entries", report.history().entries().stream().map(HistoryView::json).toList())
        .write(terminal.out());
  }

  private static Json json(Entry entry) {
    return new Json()
        .put("entry", entry.number())
        .put("at", entry.at())
        .put("event", entry.event().word())
        .put("rung", entry.subject().rung())
        .put("name", entry.subject().name())
        .put("up_fingerprint", entry.subject().upFingerprint())
        .put("down_fingerprint", entry.subject().downFingerprint())
        .put("statement", entry.note().statement())
        .put("elapsed_ms", entry.note().elapsedMs())
        .put("database_user", entry.who().databaseUser())
        .put("os_user", entry.who().osUser())
        .put("host", entry.who().host())
        .put("session", entry.who().session())
        .put("tool", entry.tool())
        .put("note", entry.note().text())
        .put("hash", entry.hash());
  }
}
