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
  public void show(RunResult result, String at) {
    Page page = new Page(terminal);
    page.verdict(verdict(result, at));
    if (result.stopped()) {
      page.next(
          Commands.confirmed(
              (result.plan().direction() == Direction.UP ? "ladder apply " : "ladder rollback ")
                  + result.plan().environment(),
              Commands.guarded(result.plan().environment(), result.plan().guarded())));
    }
  }

  /** Where the database is now, and what was done to bring it there. */
  static String verdict(RunResult result, String at) {
    String name = result.plan().environment();
    String place = result.at() == 0 ? name + " has no rung in place." : name + " is at " + at + ".";
    if (result.plan().isEmpty()) {
      return place
          + (result.plan().direction() == Direction.UP
              ? " Nothing waits."
              : " Nothing to take back.");
    }
    return place
        + " "
        + what(result)
        + " in "
        + Durations.text(result.elapsedMs())
        + ": "
        + result.structure().text()
        + "."
        + (result.stopped() ? " Stopped before the plan was done." : "");
  }

  private static String what(RunResult result) {
    boolean standing =
        result.done().stream().anyMatch(done -> done.step() instanceof Step.OfStanding);
    if (result.rungsRun() == 0 && standing) {
      return "Standing scripts";
    }
    return PlanView.count(result.rungsRun(), "rung") + (standing ? " and standing scripts" : "");
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
        .put("direction", outcome.plan().direction().label())
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
                    .put("kind", count.kind().label().replace(' ', '_'))
                    .put("added", count.added())
                    .put("removed", count.removed())
                    .put("changed", count.changed()))
        .toList();
  }
}
