package org.wornladder.cli.command;

import org.wornladder.Advice;
import org.wornladder.RefusedException;
import org.wornladder.cli.Terminal;

/** A yes that a command wants: by {@code --yes}, or from the person at the terminal. */
final class YesQuestion {
  private YesQuestion() {}

  /**
   * Returns if the answer is yes.
   *
   * @param reason what needs confirmation; the message of the refusal without a terminal
   * @param place where, for a refusal
   * @param question what the person is asked
   * @throws RefusedException if the answer is no, or there is no terminal to ask at
   */
  static void ask(Call call, String reason, String place, String question) {
    if (call.has(Options.YES)) {
      return;
    }
    Terminal terminal = call.terminal();
    if (!terminal.inIsTerminal() || !terminal.errIsTerminal() || call.wantsJson()) {
      throw RefusedException.of(
          reason + ", and there is no terminal to ask at", place, Advice.of(Advice.Code.ADD_YES));
    }
    terminal.flush();
    if (!terminal.agrees(question + " [y/N] ")) {
      throw RefusedException.of("not confirmed; nothing was changed", place, "");
    }
  }
}
