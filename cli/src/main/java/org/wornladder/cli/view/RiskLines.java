package org.wornladder.cli.view;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import org.wornladder.FoundRisk;
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

  /** The same with what the database says of them. */
  static List<String> found(List<FoundRisk> risks, Terminal terminal) {
    return of(risks.stream().map(RiskLines::answered).toList(), terminal);
  }

  private static Risk answered(FoundRisk found) {
    Risk risk = found.risk();
    String rows = found.rows().isEmpty() ? "" : " (" + rows(found) + " now)";
    String examples =
        found.examples().isEmpty() ? "" : ", such as " + String.join("; ", found.examples());
    return new Risk(
        risk.kind(),
        risk.subject(),
        risk.reason()
            + rows
            + examples
            + (found.accepted() ? ", accepted" : "")
            + (found.line().isPresent() ? ", line " + found.line().getAsInt() : ""),
        risk.rows(),
        found.accepted() ? "" : risk.instead());
  }

  private static String rows(FoundRisk found) {
    long rows = found.rows().getAsLong();
    return (rows == 0 ? "no row" : PlanView.count(rows, "row"))
        + (found.bytes().isPresent() ? ", " + size(found.bytes().getAsLong()) : "");
  }

  static String size(long bytes) {
    if (bytes < 1_000) {
      return bytes + " bytes";
    }
    return bytes < 1_000_000 ? bytes / 1_000 + " kB" : bytes / 1_000_000 + " MB";
  }

  static List<Json> foundJson(List<FoundRisk> risks) {
    return risks.stream()
        .map(
            found ->
                new Json()
                    .put("number", found.rung())
                    .put("line", boxed(found.line()))
                    .put("risk", found.risk().kind().label())
                    .put("object", found.risk().subject())
                    .put("reason", found.risk().reason())
                    .put("instead", found.risk().instead())
                    .put("accepted", found.accepted())
                    .put(
                        "rows",
                        found.rows().isPresent()
                            ? Optional.of(found.rows().getAsLong())
                            : Optional.empty())
                    .put(
                        "bytes",
                        found.bytes().isPresent()
                            ? Optional.of(found.bytes().getAsLong())
                            : Optional.empty())
                    .put("examples", found.examples()))
        .toList();
  }

  private static Optional<Integer> boxed(OptionalInt number) {
    return number.isPresent() ? Optional.of(number.getAsInt()) : Optional.empty();
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
