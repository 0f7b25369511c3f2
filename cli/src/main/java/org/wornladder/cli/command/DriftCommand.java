package org.wornladder.cli.command;

import java.util.ArrayList;
import java.util.List;
import org.wornladder.Against;
import org.wornladder.DriftReport;
import org.wornladder.DriftRung;
import org.wornladder.Ladder;
import org.wornladder.MendScript;
import org.wornladder.cli.ExitCode;
import org.wornladder.cli.view.DriftView;
import org.wornladder.cli.view.MendView;
import org.wornladder.cli.view.ProgressView;
import org.wornladder.project.SettingsLists;
import picocli.CommandLine.Model.CommandSpec;

/** Compares what is in a database with what its history says. */
final class DriftCommand implements Command {
  private static final String FORGIVE = "--forgive";
  private static final String AGAINST = "--against";
  private static final String MEND = "--mend";
  private static final String AS_RUNG = "--as-rung";

  @Override
  public void describe(CommandSpec spec) {
    Options.environment(spec, "The environment; the default one otherwise.");
    spec.addOption(
        Options.texts(
            FORGIVE,
            "KIND:NAME",
            "Leave this to others from now on: adds it to ignore: in ladder.yaml first."));
    spec.addOption(
        Options.text(
            AGAINST,
            "expected|rungs|schema",
            "Compare it with what its history says (the default), what the rungs build, or what"
                + " schema/ declares; the last two run the files in a scratch database."));
    spec.addOption(
        Options.text(
            MEND, "FILE", "Write the SQL that brings the database back, and run nothing."));
    spec.addOption(
        Options.text(
            AS_RUNG,
            "WORDS…",
            "Make what was found part of the ladder: write a rung, recorded as in place there."));
    Options.further(spec);
    Options.rights(spec);
    Options.change(spec);
    Options.formats(spec);
  }

  @Override
  public int run(Call call) {
    String format = call.format(Call.TEXT, Call.JSON, Call.MARKDOWN);
    if (!call.further().isEmpty() && !call.has(AS_RUNG)) {
      throw call.wrong(
          "drift looks at one environment, not at '" + call.further().get(0) + "' too");
    }
    for (String pattern : call.texts(FORGIVE)) {
      SettingsLists.ignore(call.projectFolder(), pattern);
    }
    Against against = against(call);
    if (call.has(AS_RUNG)) {
      return asRung(call, against);
    }
    Ladder ladder = call.ladder();
    if (call.has(MEND)) {
      return mend(call, ladder, against);
    }
    DriftReport drift = ladder.drift(call.environment(), against, call.has(Options.RIGHTS));
    DriftView view = new DriftView(call.terminal(), Call.guarded(ladder));
    switch (format) {
      case Call.JSON -> view.json(drift);
      case Call.MARKDOWN -> view.markdown(drift);
      default -> view.show(drift);
    }
    return drift.isClean() ? ExitCode.DONE : ExitCode.FOUND;
  }

  private static Against against(Call call) {
    String word = call.text(AGAINST).orElse(Against.EXPECTED.label());
    for (Against against : Against.values()) {
      if (against.label().equals(word)) {
        return against;
      }
    }
    throw call.wrong("--against is expected, rungs or schema, not '" + word + "'");
  }

  private static int mend(Call call, Ladder ladder, Against against) {
    OutputFile file = OutputFile.of(call, MEND);
    MendScript mending = ladder.mendScript(call.environment(), against, call.has(Options.RIGHTS));
    MendView view = new MendView(call.terminal());
    file.write(MendView.script(mending, against));
    if (call.format(Call.TEXT, Call.JSON, Call.MARKDOWN).equals(Call.JSON)) {
      view.json(mending, file.name());
    } else {
      view.show(mending, file.name());
    }
    return mending.leftOut().isEmpty() ? ExitCode.DONE : ExitCode.FOUND;
  }

  private static String words(Call call) {
    List<String> words = new ArrayList<>(List.of(call.text(AS_RUNG).orElseThrow()));
    words.addAll(call.further());
    return String.join(" ", words);
  }

  private static int asRung(Call call, Against against) {
    if (against != Against.EXPECTED) {
      throw call.wrong("--as-rung writes what differs from the history: leave --against out");
    }
    Ladder ladder = call.ladder();
    DriftRung official;
    try (ProgressView progress = new ProgressView(call.terminal(), () -> false)) {
      official =
          ladder.driftAsRung(call.environment(), words(call), new AskingApproval(call), progress);
    }
    MendView view = new MendView(call.terminal());
    if (call.format(Call.TEXT, Call.JSON, Call.MARKDOWN).equals(Call.JSON)) {
      view.json(official);
    } else {
      view.show(official);
    }
    return official.leftOut().isEmpty() ? ExitCode.DONE : ExitCode.FOUND;
  }
}
