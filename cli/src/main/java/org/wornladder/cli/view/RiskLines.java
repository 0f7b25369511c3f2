package org.wornladder.cli.view;

import java.util.ArrayList;
import java.util.List;
import org.wornladder.change.Risk;
import org.wornladder.cli.Terminal;

/** Risks for people: each one in its word, with what to do instead below it. */
final class RiskLines {
  private static final int WORD = "breaks-old-code".length();

  private RiskLines() {}

  static List<String> of(List<Risk> risks, Terminal terminal) {
    Colors colors = new Colors(terminal);
    String below = " ".repeat(2 + WORD + 2);
    int room = (terminal.outIsTerminal() ? terminal.width() : Integer.MAX_VALUE) - below.length();
    List<String> lines = new ArrayList<>();
    for (Risk risk : risks) {
      String word = "  " + colors.risk(SafeText.pad(risk.kind().label(), WORD)) + "  ";
      for (String part :
          Wrapping.words(SafeText.line(risk.subject() + ": " + risk.reason()), room)) {
        lines.add(word + part);
        word = below;
      }
      if (!risk.instead().isEmpty()) {
        for (String part : Wrapping.words("instead: " + SafeText.line(risk.instead()), room)) {
          lines.add(below + colors.faint(part));
        }
      }
    }
    return lines;
  }

  static List<Json> json(List<Risk> risks) {
    return risks.stream()
        .map(
            risk ->
                new Json()
                    .put("risk", risk.kind().label())
                    .put("object", risk.subject())
                    .put("reason", risk.reason())
                    .put("instead", risk.instead()))
        .toList();
  }
}
