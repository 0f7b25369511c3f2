package org.wornladder.cli.command;

import java.util.Optional;
import java.util.OptionalLong;
import org.wornladder.ApplyOptions;
import org.wornladder.AtticChoice;
import org.wornladder.cli.Terminal;
import org.wornladder.cli.view.SafeText;
import picocli.CommandLine.Model.CommandSpec;

/** The options that preview and apply share. */
final class ApplyOptionsReader {
  static final String TO = "--to";
  private static final String TOGETHER = "--together";
  private static final String ATTIC = "--attic";
  private static final String DESPITE_DRIFT = "--despite-drift";

  private ApplyOptionsReader() {}

  static void describe(CommandSpec spec) {
    spec.addOption(Options.text(TO, "NUMBER", "Stop after this rung."));
    spec.addOption(
        Options.text(
            DESPITE_DRIFT,
            "REASON",
            "Go on in a guarded environment that is not what its history says."));
    spec.addOption(
        Options.text(ATTIC, "on|off", "Keep aside what rungs erase, whatever the settings say."));
    spec.addOption(Options.flag(TOGETHER, "All waiting rungs in one transaction: all or none."));
  }

  static ApplyOptions read(Call call) {
    OptionalLong to =
        call.text(TO).map(text -> OptionalLong.of(call.number(text))).orElse(OptionalLong.empty());
    return new ApplyOptions(
        to, call.has(TOGETHER), despiteDrift(call), attic(call), question(call));
  }

  private static Optional<Boolean> attic(Call call) {
    Optional<String> word = call.text(ATTIC);
    if (word.filter(one -> !one.equals("on") && !one.equals("off")).isPresent()) {
      throw call.wrong(ATTIC + " is on or off");
    }
    return word.map("on"::equals);
  }

  /** Asks at the terminal where the settings leave it open, and there is one. */
  private static AtticChoice question(Call call) {
    Terminal terminal = call.terminal();
    if (!terminal.inIsTerminal() || !terminal.errIsTerminal() || call.wantsJson()) {
      return AtticChoice.OPEN;
    }
    return (environment, erased) ->
        Optional.of(
            terminal.agrees(
                "On %s this goes: %s. Keep it in the attic? [y/N] "
                    .formatted(environment, SafeText.line(String.join(", ", erased)))));
  }

  private static Optional<String> despiteDrift(Call call) {
    Optional<String> reason = call.text(DESPITE_DRIFT).map(String::strip);
    if (reason.filter(String::isEmpty).isPresent()) {
      throw call.wrong(DESPITE_DRIFT + " wants a reason");
    }
    return reason;
  }
}
