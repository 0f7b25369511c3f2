package org.wornladder.cli.command;

import java.util.Optional;
import java.util.OptionalLong;
import org.wornladder.ApplyOptions;
import picocli.CommandLine.Model.CommandSpec;

/** The options that preview and apply share. */
final class ApplyOptionsReader {
  static final String TO = "--to";
  private static final String TOGETHER = "--together";
  private static final String DESPITE_DRIFT = "--despite-drift";

  private ApplyOptionsReader() {}

  static void describe(CommandSpec spec) {
    spec.addOption(Options.text(TO, "NUMBER", "Stop after this rung."));
    spec.addOption(
        Options.text(
            DESPITE_DRIFT,
            "REASON",
            "Go on in a guarded environment that is not what its history says."));
    spec.addOption(Options.flag(TOGETHER, "All waiting rungs in one transaction: all or none."));
  }

  static ApplyOptions read(Call call) {
    OptionalLong to =
        call.text(TO).map(text -> OptionalLong.of(call.number(text))).orElse(OptionalLong.empty());
    return new ApplyOptions(to, call.has(TOGETHER), despiteDrift(call));
  }

  private static Optional<String> despiteDrift(Call call) {
    Optional<String> reason = call.text(DESPITE_DRIFT).map(String::strip);
    if (reason.filter(String::isEmpty).isPresent()) {
      throw call.wrong(DESPITE_DRIFT + " wants a reason");
    }
    return reason;
  }
}
