package org.wornladder.cli.view;

import de.siegmar.fastcsv.writer.CsvWriter;
import de.siegmar.fastcsv.writer.LineDelimiter;
import java.io.IOException;
import java.io.StringWriter;
import java.io.UncheckedIOException;
import java.util.List;
import java.util.Optional;
import org.wornladder.JournalReport;
import org.wornladder.cli.Terminal;
import org.wornladder.journal.Entry;
import org.wornladder.journal.History;
import org.wornladder.project.Project;
import org.wornladder.project.Rung;

/** The journal, entry by entry, the newest last. */
public final class HistoryView {
  private static final int NUMBER = 0;
  private static final int WHAT = 3;
  private static final int TOOK = 4;
  private static final int DETAILS = "entry  ".length();

  private final Terminal terminal;
  private final Page page;
  private final Colors colors;
  private final Optional<String> since;

  /**
   * @param since the beginning of the first moment that is shown, in UTC; empty for all
   */
  public HistoryView(Terminal terminal, Optional<String> since) {
    this.since = since;
    this.terminal = terminal;
    page = new Page(terminal);
    colors = page.colors();
  }

  /**
   * @param project for the numbers and descriptions of rungs
   */
  public void show(JournalReport report, Project project) {
    List<Entry> entries = shown(report);
    page.subject(
        SafeText.line(report.environment()),
        SafeText.line(report.address()),
        entries.isEmpty() ? "" : PlanView.count(entries.size(), "entry", "entries"));
    if (!entries.isEmpty()) {
      page.rows(columns(entries, project));
    }
    report
        .running()
        .ifPresent(who -> page.line(colors.strong("running") + "  " + SafeText.line(who)));
    page.verdict(verdict(report, entries.size()));
    if (report.history().broken().isPresent()) {
      page.next(
          "find out who wrote to the tables; then ladder settle "
              + report.environment()
              + " --accept-journal --because TEXT");
    }
  }

  /** The chain is checked from the beginning whatever is shown. */
  private List<Entry> shown(JournalReport report) {
    return report.history().entries().stream()
        .filter(entry -> since.isEmpty() || entry.at().compareTo(since.get()) >= 0)
        .toList();
  }

  /** For auditors: a line an entry (RFC 4180). */
  public void csv(JournalReport report) {
    StringWriter text = new StringWriter();
    try (CsvWriter csv = CsvWriter.builder().lineDelimiter(LineDelimiter.LF).build(text)) {
      csv.writeRecord(
          "entry",
          "at",
          "event",
          "rung",
          "name",
          "statement",
          "elapsed_ms",
          "database_user",
          "os_user",
          "host",
          "session",
          "tool",
          "note",
          "hash");
      for (Entry entry : shown(report)) {
        csv.writeRecord(
            Long.toString(entry.number()),
            entry.at(),
            entry.event().label(),
            Long.toString(entry.subject().rung()),
            entry.subject().name(),
            Integer.toString(entry.note().statement()),
            Long.toString(entry.note().elapsedMs()),
            entry.who().databaseUser(),
            entry.who().osUser(),
            entry.who().host(),
            entry.who().session(),
            entry.tool(),
            entry.note().text(),
            entry.hash());
      }
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    terminal.out().print(text);
  }

  /** The head alone; where the chain is broken, that in its place. */
  public void head(JournalReport report) {
    if (report.history().broken().isPresent()) {
      page.verdict(verdict(report, report.history().entries().size()));
    } else {
      terminal.out().println(report.head().text());
    }
  }

  private Columns columns(List<Entry> entries, Project project) {
    Columns columns = new Columns().figures(NUMBER).figures(TOOK).wrapped(WHAT).detailsAt(DETAILS);
    columns.header("entry", "time (UTC)", "event", "what", "took", "who");
    for (Entry entry : entries) {
      columns.row(
          Long.toString(entry.number()),
          entry.at().substring(0, 10) + " " + entry.at().substring(11, 19),
          entry.event().shown(),
          SafeText.line(what(entry, project)),
          took(entry),
          SafeText.line(entry.who().osUser() + "@" + entry.who().host()));
      columns.detail(colors.faint(SafeText.line(entry.note().text())));
    }
    return columns;
  }

  private static String took(Entry entry) {
    boolean ran =
        switch (entry.event()) {
          case APPLIED, ROLLED_BACK, STATEMENT_DONE, STANDING_RUN, STANDING_REMOVED, SEEDED -> true;
          default -> false;
        };
    long elapsed = entry.note().elapsedMs();
    return ran || elapsed > 0 ? Durations.text(elapsed) : "";
  }

  private static String what(Entry entry, Project project) {
    long number = entry.subject().rung();
    if (number == 0) {
      return entry.subject().name();
    }
    String about = project.rung(number).map(Rung::about).orElse(entry.subject().name());
    String statement =
        entry.note().statement() > 0 ? ", statement " + entry.note().statement() : "";
    return project.label(number) + " " + about + statement;
  }

  private String verdict(JournalReport report, int entries) {
    if (report.history().broken().isPresent()) {
      History.Break broken = report.history().broken().get();
      return "The chain is broken at entry "
          + broken.entry()
          + ": "
          + broken.reason()
          + ". Nothing runs here until a person has settled it.";
    }
    return switch (Math.min(2, entries)) {
      case 0 ->
          since.isEmpty() || report.history().entries().isEmpty()
              ? "Nothing has run here yet."
              : "Nothing has run here since " + SafeText.line(since.get()) + ".";
      case 1 -> "1 entry.";
      default -> entries + " entries, each following from the one before.";
    };
  }

  public void json(JournalReport report) {
    new Json()
        .put("environment", report.environment())
        .put("database", report.address())
        .put("database_exists", report.isThere())
        .put("chain_broken_at", report.history().broken().map(broken -> (Object) broken.entry()))
        .put("chain_broken_because", report.history().broken().map(History.Break::reason))
        .put("running", report.running())
        .put(
            "head",
            new Json().put("number", report.head().number()).put("hash", report.head().hash()))
        .put("entries", shown(report).stream().map(HistoryView::json).toList())
        .write(terminal.out());
  }

  private static Json json(Entry entry) {
    return new Json()
        .put("entry", entry.number())
        .put("at", entry.at())
        .put("event", entry.event().label())
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
