package org.wornladder.cli.view;

import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.wornladder.RunResult;
import org.wornladder.SeedRunResult;
import org.wornladder.change.StructureSummary;
import org.wornladder.cli.Terminal;
import org.wornladder.execution.Step;
import org.wornladder.project.Direction;

/** What a run did, in one line or as JSON. */
public final class RunResultView {
  private final Terminal terminal;

  public RunResultView(Terminal terminal) {
    this.terminal = terminal;
  }

  /**
   * @param at the label of the highest rung in place
   */
  public void show(RunResult outcome, String at) {
    String name = outcome.plan().environment();
    String place =
        outcome.at() == 0 ? name + " has no rung in place." : name + " is at " + at + ".";
    if (outcome.plan().isEmpty()) {
      String nothing =
          outcome.plan().direction() == Direction.UP ? " Nothing waits." : " Nothing to take back.";
      terminal.out().println(place + nothing);
      return;
    }
    String stopped = outcome.stopped() ? " Stopped before the plan was done; apply goes on." : "";
    terminal
        .out()
        .println(
            place
                + " "
                + what(outcome)
                + " in "
                + outcome.elapsedMs()
                + " ms. Structure: "
                + outcome.structure().text()
                + "."
                + stopped);
  }

  private static String what(RunResult outcome) {
    String rungs = PlanView.count(outcome.rungsRun(), "rung");
    boolean standing =
        outcome.done().stream().anyMatch(done -> done.step() instanceof Step.OfStanding);
    if (outcome.rungsRun() == 0 && standing) {
      return "Standing scripts";
    }
    return rungs + (standing ? " and standing scripts" : "");
  }

  /**
   * @param seeded what was seeded behind it; empty if nothing was to be
   */
  public void json(RunResult outcome, Optional<SeedRunResult> seeded) {
    Json json = of(outcome);
    if (seeded.isPresent()) {
      json.put("seeded", SeedView.of(seeded.get()));
    }
    json.write(terminal.out());
  }

  static Json of(RunResult outcome) {
    return new Json()
        .put("environment", outcome.plan().environment())
        .put("direction", outcome.plan().direction().word())
        .put("at", outcome.at())
        .put("elapsed_ms", outcome.elapsedMs())
        .put("stopped", outcome.stopped())
        .put("steps", outcome.done().stream().map(RunResultView::json).toList())
        .put("structure", structure(outcome.structure()));
  }

  private static Json json(RunResult.Done done) {
    Json json = new Json();
    if (done.step() instanceof Step.OfRung rung) {
      json.put("kind", "rung").put("number", rung.number());
    } else {
      json.put("kind", "standing");
    }
    return json.put("about", done.step().about())
        .put("result", done.result().name().toLowerCase(Locale.ROOT))
        .put("detail", done.detail())
        .put("elapsed_ms", done.elapsedMs());
  }

  private static List<Json> structure(StructureSummary summary) {
    return summary.counts().stream()
        .map(
            count ->
                new Json()
                    .put("kind", count.kind().word().replace(' ', '_'))
                    .put("added", count.added())
                    .put("removed", count.removed())
                    .put("changed", count.changed()))
        .toList();
  }
}
