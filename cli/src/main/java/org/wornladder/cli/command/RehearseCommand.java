package org.wornladder.cli.command;

import java.util.OptionalLong;
import org.wornladder.CapturedCallers;
import org.wornladder.RehearsalReport;
import org.wornladder.RehearseOptions;
import org.wornladder.cli.ExitCode;
import org.wornladder.cli.view.Page;
import org.wornladder.cli.view.RehearsalView;
import org.wornladder.cli.view.SarifView;
import picocli.CommandLine.Model.CommandSpec;

/** Proves waiting rungs in a scratch database. */
final class RehearseCommand implements Command {
  private static final String JUNIT = "junit";
  private static final String FROM_BLANK = "--from-blank";
  private static final String LIVE = "--live";
  private static final String ROWS = "--rows";
  private static final String COPY = "--copy";
  private static final String EXPECTED = "--expected";
  private static final String CAPTURE = "--capture";
  private static final String RUN_CALLERS = "--run-callers";
  private static final String BOTH_WAYS = "--both-ways";

  @Override
  public void describe(CommandSpec spec) {
    Options.environment(
        spec, "The environment whose structure it begins with; the default one otherwise.");
    spec.addOption(
        Options.flag(FROM_BLANK, "Begin with nothing and run all rungs, standing scripts, seeds."));
    spec.addOption(
        Options.flag(LIVE, "Begin with what is in the database, instead of what it should have."));
    spec.addOption(
        Options.text(
            ROWS,
            "N",
            "Make up this many rows for every table, by its sample file or a guess; with --copy,"
                + " copy this many of each table (100 otherwise)."));
    spec.addOption(
        Options.texts(
            COPY,
            "TABLE,…",
            "Copy some of the environment's own rows of these tables, and all that they point to;"
                + " * means any letters."));
    spec.addOption(
        Options.text(
            EXPECTED,
            "FILE",
            "Begin with what this file says that another environment should have; status"
                + " --export-expected writes it."));
    spec.addOption(
        Options.text(
            CAPTURE,
            "FILE",
            "Rehearse nothing: write the statements that the server has counted as callers, such as"
                + " to callers/counted.sql."));
    spec.addOption(Options.flag(Options.YES, "Write over a file that is there."));
    spec.addOption(
        Options.flag(
            RUN_CALLERS,
            "Run the callers, with NULL for each parameter, in a transaction that is rolled back;"
                + " they are prepared alone otherwise."));
    spec.addOption(
        Options.flag(BOTH_WAYS, "The callers must work on the structure before a rung, too."));
    Options.format(spec, Call.TEXT, Call.JSON, Call.MARKDOWN, JUNIT, Call.SARIF);
  }

  @Override
  public int run(Call call) {
    if (call.has(CAPTURE)) {
      return capture(call);
    }
    String format = call.format(Call.TEXT, Call.JSON, Call.MARKDOWN, JUNIT, Call.SARIF);
    if (call.has(EXPECTED) && (call.has(FROM_BLANK) || call.has(LIVE))) {
      throw call.wrong("--expected, --from-blank and --live exclude each other");
    }
    OptionalLong rows =
        call.has(ROWS) ? OptionalLong.of(call.count(ROWS, 1, 1)) : OptionalLong.empty();
    RehearsalReport report =
        call.ladder()
            .rehearse(
                call.environment(),
                new RehearseOptions(
                    call.has(FROM_BLANK),
                    call.has(LIVE),
                    rows,
                    call.listed(COPY),
                    call.has(RUN_CALLERS),
                    call.has(BOTH_WAYS),
                    call.text(EXPECTED).map(call.folder()::resolve)));
    RehearsalView view = new RehearsalView(call.terminal());
    switch (format) {
      case Call.JSON -> view.json(report);
      case Call.MARKDOWN -> view.markdown(report);
      case JUNIT -> view.junit(report);
      case Call.SARIF -> new SarifView(call.terminal()).show(report);
      default -> view.show(report);
    }
    return report.isProved() && report.keepsCallers() ? ExitCode.DONE : ExitCode.FOUND;
  }

  private static int capture(Call call) {
    OutputFile file = OutputFile.of(call, CAPTURE);
    CapturedCallers captured = call.ladder().captureCallers(call.environment());
    file.write(captured.text());
    int count = captured.statements().size();
    Page page = new Page(call.terminal());
    page.verdict(
        "Wrote "
            + file.name()
            + " with "
            + count
            + (count == 1 ? " statement" : " statements")
            + (captured.leftOut() == 0
                ? "."
                : "; " + captured.leftOut() + " more are not counted as a whole.")
            + (captured.isComplete()
                ? ""
                : " The server's statistics were full: rare statements may be missing."));
    page.next("read it, and keep what the application needs; ladder rehearse then tries it");
    return ExitCode.DONE;
  }
}
