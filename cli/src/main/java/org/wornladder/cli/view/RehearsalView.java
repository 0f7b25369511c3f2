package org.wornladder.cli.view;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import org.wornladder.RehearsalReport;
import org.wornladder.RehearsalReport.BrokenCaller;
import org.wornladder.RehearsalReport.OfRung;
import org.wornladder.RehearsalReport.OfStatement;
import org.wornladder.RehearsalReport.Size;
import org.wornladder.RehearsalReport.Untried;
import org.wornladder.RehearsalReport.WholeTable;
import org.wornladder.cli.Terminal;

/** What a rehearsal proved, rung by rung. */
public final class RehearsalView {
  private static final String DETAIL = "      ";

  private final Terminal terminal;
  private final Page page;
  private final Colors colors;

  public RehearsalView(Terminal terminal) {
    this.terminal = terminal;
    page = new Page(terminal);
    colors = page.colors();
  }

  public void show(RehearsalReport report) {
    page.subject(report.environment(), "rehearsed in a scratch database", "");
    page.line(colors.faint("  begins with " + SafeText.line(report.start())));
    report.notes().forEach(note -> page.line(colors.warning("  note  ") + SafeText.line(note)));
    page.gap();
    report.rungs().forEach(rung -> rung(rung, report.environment()));
    for (Untried rung : report.untried()) {
      page.line(
          colors.strong(SafeText.line(rung.label()))
              + "  "
              + SafeText.line(rung.about())
              + "  "
              + colors.warning("not tried"));
    }
    for (String fault : report.standing()) {
      page.line(colors.bad("  NOT proved  ") + SafeText.line(fault));
    }
    callers(report);
    page.verdict(verdict(report));
  }

  private void callers(RehearsalReport report) {
    if (report.callers() == 0) {
      return;
    }
    page.gap();
    page.heading("Callers", report.keepsCallers() ? "all work behind each rung as before" : "");
    for (OfRung rung : report.rungs()) {
      String after = " after " + rung.label() + ": ";
      rung.brokenCallers().forEach(one -> caller(colors.bad("no longer works"), one, after));
      rung.newCallers().forEach(one -> caller(colors.faint("works only now "), one, after));
    }
    report
        .neverWorking()
        .forEach(one -> caller(colors.warning("never works    "), one, ", before and after: "));
  }

  private void caller(String word, BrokenCaller caller, String when) {
    page.line("  " + word + "  " + SafeText.line(caller.place() + when + caller.reason()));
  }

  private void rung(OfRung rung, String environment) {
    String times = times(rung);
    page.line(
        colors.strong(SafeText.line(rung.label()))
            + "  "
            + SafeText.line(rung.about())
            + (times.isEmpty() ? "" : "  " + colors.faint(times))
            + "  "
            + (rung.isProved() ? colors.good(proof(rung)) : colors.bad("NOT proved")));
    rung.faults().forEach(fault -> detail(colors.bad("fails   "), fault));
    page.lines(
        new DifferenceView(terminal, DETAIL.length() - 2, "expected", "found", "missing", "left")
            .lines(rung.differences()));
    rung.lost().forEach(lost -> detail(colors.warning("lost    "), lost + " do not come back"));
    rung.oneWay().ifPresent(reason -> detail(colors.warning("one-way "), reason));
    for (OfStatement statement : rung.statements()) {
      if (!statement.effects().isEmpty()) {
        detail(
            colors.faint("line " + statement.line() + "  "),
            String.join(", ", statement.effects()));
      }
      for (WholeTable table : statement.whole()) {
        there(table, environment).ifPresent(size -> detail(colors.faint("there   "), size));
      }
    }
  }

  private static Optional<String> there(WholeTable table, String environment) {
    return table.there().map(size -> table.name() + " has " + words(size, environment));
  }

  private static String words(Size size, String environment) {
    return PlanView.count(size.rows(), "row")
        + (size.bytes().isPresent() ? ", " + RiskLines.size(size.bytes().getAsLong()) : "")
        + " on "
        + environment
        + (size.millis().isPresent()
            ? ": some " + Durations.text(size.millis().getAsLong()) + " there (an estimate)"
            : "");
  }

  private void detail(String word, String text) {
    int room = terminal.outIsTerminal() ? terminal.width() - 16 : Integer.MAX_VALUE;
    String before = DETAIL + word + " ";
    for (String part : Wrapping.words(SafeText.line(text), room)) {
      page.line(before + part);
      before = " ".repeat(DETAIL.length() + 9);
    }
  }

  private static String proof(OfRung rung) {
    return rung.oneWay().isPresent() ? "up runs" : "proved";
  }

  private static String times(OfRung rung) {
    List<String> times = new ArrayList<>();
    time("up", rung.up(), times);
    time("down", rung.down(), times);
    time("up again", rung.again(), times);
    return String.join("  ", times);
  }

  private static void time(String word, OptionalLong millis, List<String> times) {
    millis.ifPresent(one -> times.add(word + " " + Durations.text(one)));
  }

  private static String verdict(RehearsalReport report) {
    long good = report.rungs().stream().filter(OfRung::isProved).count();
    long oneWay =
        report.rungs().stream().filter(one -> one.isProved() && one.oneWay().isPresent()).count();
    int all = report.rungs().size() + report.untried().size();
    if (all == 0) {
      return report.isProved() ? "No rung waits: there is nothing to prove." : "NOT proved.";
    }
    String count = good == all ? "" : good + " of ";
    String ways = oneWay == 0 ? "" : ", " + oneWay + " of them one-way";
    return count + PlanView.count(all, "rung") + " proved" + ways + ".";
  }

  public void json(RehearsalReport report) {
    new Json()
        .put("environment", report.environment())
        .put("start", report.start())
        .put("proved", report.isProved())
        .put("notes", report.notes())
        .put("rungs", report.rungs().stream().map(this::json).toList())
        .put(
            "untried",
            report.untried().stream()
                .map(
                    one ->
                        new Json()
                            .put("rung", one.label())
                            .put("about", one.about())
                            .put("file", one.file()))
                .toList())
        .put("standing", report.standing())
        .put("callers", report.callers())
        .put("never_working_callers", callers(report.neverWorking()))
        .write(terminal.out());
  }

  private Json json(OfRung rung) {
    return new Json()
        .put("rung", rung.label())
        .put("about", rung.about())
        .put("file", rung.file())
        .put("proved", rung.isProved())
        .put("up_ms", number(rung.up()))
        .put("down_ms", number(rung.down()))
        .put("again_ms", number(rung.again()))
        .put("faults", rung.faults())
        .put("lost", rung.lost())
        .put("one_way", rung.oneWay())
        .put(
            "differences",
            new DifferenceView(terminal, "expected", "found", "missing", "left")
                .json(rung.differences()))
        .put(
            "statements",
            rung.statements().stream()
                .map(
                    one ->
                        new Json()
                            .put("line", one.line())
                            .put("sql", one.text())
                            .put("ms", Math.round(one.millis()))
                            .put("effects", one.effects())
                            .put("whole", one.whole().stream().map(RehearsalView::json).toList()))
                .toList())
        .put("broken_callers", callers(rung.brokenCallers()))
        .put("new_callers", callers(rung.newCallers()));
  }

  private static List<Json> callers(List<BrokenCaller> callers) {
    return callers.stream()
        .map(one -> new Json().put("place", one.place()).put("reason", one.reason()))
        .toList();
  }

  private static Json json(WholeTable table) {
    return new Json()
        .put("table", table.name())
        .put("rows_tried", table.rows())
        .put("rows", table.there().map(Size::rows))
        .put("bytes", table.there().flatMap(size -> number(size.bytes())))
        .put("estimated_ms", table.there().flatMap(size -> number(size.millis())));
  }

  private static Optional<Long> number(OptionalLong value) {
    return value.isPresent() ? Optional.of(value.getAsLong()) : Optional.empty();
  }

  public void markdown(RehearsalReport report) {
    List<String> lines = new ArrayList<>();
    lines.add("## Rehearsal: " + DifferenceView.cell(report.environment()));
    lines.add("");
    lines.add("| rung | proof | |");
    lines.add("|---|---|---|");
    for (OfRung rung : report.rungs()) {
      List<String> remarks = new ArrayList<>(rung.faults());
      rung.brokenCallers().forEach(one -> remarks.add(one.place() + ": " + one.reason()));
      rung.lost().forEach(lost -> remarks.add(lost + " do not come back"));
      for (OfStatement one : rung.statements()) {
        if (!one.effects().isEmpty()) {
          remarks.add("line " + one.line() + ": " + String.join(", ", one.effects()));
        }
        one.whole().forEach(table -> there(table, report.environment()).ifPresent(remarks::add));
      }
      lines.add(
          "| %s %s | %s | %s |"
              .formatted(
                  rung.label(),
                  DifferenceView.cell(rung.about()),
                  rung.isProved() ? proof(rung) : "**NOT proved**",
                  String.join("<br>", remarks.stream().map(DifferenceView::cell).toList())));
    }
    for (Untried rung : report.untried()) {
      lines.add(
          "| %s %s | not tried | |".formatted(rung.label(), DifferenceView.cell(rung.about())));
    }
    for (OfRung rung : report.rungs()) {
      if (!rung.differences().isEmpty()) {
        lines.addAll(List.of("", "Differences that " + rung.label() + " leaves:", ""));
        lines.addAll(
            new DifferenceView(terminal, "expected", "found", "missing", "left")
                .markdown(rung.differences()));
      }
    }
    report
        .standing()
        .forEach(
            fault -> lines.addAll(List.of("", "**NOT proved** " + DifferenceView.cell(fault))));
    lines.addAll(List.of("", verdict(report)));
    lines.forEach(terminal.out()::println);
  }

  /** For continuous integration. */
  public void junit(RehearsalReport report) {
    JunitXml xml = new JunitXml("rehearse " + report.environment());
    for (OfRung rung : report.rungs()) {
      xml.add(
          rung.file(),
          rung.label() + " " + rung.about(),
          rung.up().orElse(0) + rung.down().orElse(0) + rung.again().orElse(0),
          rung.faults());
      for (BrokenCaller caller : rung.brokenCallers()) {
        xml.add(caller.place(), "after " + rung.label(), 0, List.of(caller.reason()));
      }
    }
    for (Untried rung : report.untried()) {
      xml.skip(rung.file(), rung.label() + " " + rung.about(), "an earlier rung is not in place");
    }
    if (!report.standing().isEmpty() || report.rungs().isEmpty()) {
      xml.add("standing", "standing scripts and reference data", 0, report.standing());
    }
    terminal.out().println(xml.text());
  }
}
