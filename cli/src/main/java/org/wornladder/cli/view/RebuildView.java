package org.wornladder.cli.view;

import org.wornladder.RebuildResult;
import org.wornladder.cli.Terminal;

/** What a fresh start did. */
public final class RebuildView {
  private final Terminal terminal;
  private final Colors paint;

  public RebuildView(Terminal terminal) {
    this.terminal = terminal;
    paint = new Colors(terminal);
  }

  /**
   * @param at the label of the highest rung in place
   */
  public void show(RebuildResult rebuilt, String at) {
    String name = paint.strong(rebuilt.loss().environment());
    terminal
        .out()
        .println(
            rebuilt.loss().isNothing()
                ? name + " was empty."
                : name + " was emptied: " + rebuilt.loss().text() + ".");
    new RunResultView(terminal).show(rebuilt.applied(), at);
    rebuilt
        .seeded()
        .filter(seeded -> !seeded.results().isEmpty())
        .ifPresent(seeded -> new SeedView(terminal).show(seeded));
  }

  public void json(RebuildResult rebuilt) {
    new Json()
        .put("environment", rebuilt.loss().environment())
        .put("database", rebuilt.loss().database())
        .put(
            "emptied",
            rebuilt.loss().objects().entrySet().stream()
                .map(
                    one ->
                        new Json()
                            .put("kind", one.getKey().word().replace(' ', '_'))
                            .put("count", one.getValue()))
                .toList())
        .put("applied", RunResultView.of(rebuilt.applied()))
        .put("seeded", rebuilt.seeded().map(SeedView::of))
        .write(terminal.out());
  }
}
