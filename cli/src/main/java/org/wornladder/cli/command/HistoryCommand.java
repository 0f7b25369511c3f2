package org.wornladder.cli.command;

import java.util.Optional;
import java.util.regex.Pattern;
import org.wornladder.JournalReport;
import org.wornladder.Ladder;
import org.wornladder.cli.ExitCode;
import org.wornladder.cli.view.HistoryView;
import picocli.CommandLine.Model.CommandSpec;

/** Lists the journal. */
final class HistoryCommand implements Command {
  private static final String HEAD = "--head";
  private static final String SINCE = "--since";
  private static final String CSV = "csv";

  /** As the journal has it, or its beginning: a date, with a time of day or without. */
  private static final Pattern MOMENT =
      Pattern.compile("\\d{4}-\\d\\d-\\d\\d([T ]\\d\\d:\\d\\d(:\\d\\d)?Z?)?");

  @Override
  public void describe(CommandSpec spec) {
    Options.environment(spec, "The environment; the default one otherwise.");
    spec.addOption(
        Options.flag(HEAD, "Only the last entry's number and hash, to be kept elsewhere."));
    spec.addOption(
        Options.text(
            SINCE, "TIME", "Only entries since then, in UTC: 2026-08-31, or 2026-08-31T06:30."));
    Options.format(spec, Call.TEXT, Call.JSON, CSV);
  }

  @Override
  public int run(Call call) {
    String format = call.format(Call.TEXT, Call.JSON, CSV);
    Optional<String> since = call.text(SINCE).map(text -> moment(call, text));
    Ladder ladder = call.ladder();
    JournalReport report = ladder.history(call.environment());
    HistoryView view = new HistoryView(call.terminal(), since);
    if (format.equals(Call.JSON)) {
      view.json(report);
    } else if (format.equals(CSV)) {
      view.csv(report);
    } else if (call.has(HEAD)) {
      view.head(report);
    } else {
      view.show(report, ladder.project());
    }
    return report.history().broken().isPresent() ? ExitCode.FOUND : ExitCode.DONE;
  }

  private static String moment(Call call, String text) {
    if (!MOMENT.matcher(text).matches()) {
      throw call.wrong(SINCE + " wants a time such as 2026-08-31 or 2026-08-31T06:30");
    }
    return text.replace(' ', 'T').replace("Z", "");
  }
}
