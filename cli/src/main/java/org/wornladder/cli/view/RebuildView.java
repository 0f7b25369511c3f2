package org.wornladder.cli.view;

import org.wornladder.RebuildResult;
import org.wornladder.cli.Terminal;

/** What a fresh start did. */
public final class RebuildView {
  private final Terminal terminal;

  public RebuildView(Terminal terminal) {
    this.terminal = terminal;
  }

  /**
   * @param at the label of the highest rung in place
   */
  public void show(RebuildResult rebuilt, String at) {
    rebuilt
        .seeded()
        .filter(seeded -> !seeded.results().isEmpty() || !seeded.leftOut().isEmpty())
        .ifPresent(
            seeded -> {
              new SeedView(terminal).rows(seeded);
              terminal.out().println();
            });
    String name = rebuilt.loss().environment();
    String before = rebuilt.loss().isNothing() ? name + " was empty. " : name + " was emptied. ";
    String seeded =
        rebuilt.seeded().filter(one -> !one.isQuiet()).isPresent() ? " Its rows are seeded." : "";
    new Page(terminal).verdict(before + RunResultView.verdict(rebuilt.applied(), at) + seeded);
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
                            .put("kind", one.getKey().label().replace(' ', '_'))
                            .put("count", one.getValue()))
                .toList())
        .put("applied", RunResultView.of(rebuilt.applied()))
        .put("seeded", rebuilt.seeded().map(SeedView::of))
        .write(terminal.out());
  }
}
