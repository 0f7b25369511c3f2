package org.wornladder.cli.view;

import java.util.List;
import org.wornladder.attic.KeptItem;
import org.wornladder.cli.Terminal;

/** What was kept aside of what rungs erased. */
public final class AtticView {
  private final Terminal terminal;
  private final Page page;

  public AtticView(Terminal terminal) {
    this.terminal = terminal;
    page = new Page(terminal);
  }

  public void show(List<KeptItem> items) {
    lines(items);
    page.verdict(
        items.isEmpty() ? "Nothing is kept." : PlanView.count(items.size(), "thing") + " kept.");
    if (!items.isEmpty()) {
      page.next("ladder attic restore " + items.get(items.size() - 1).entry());
    }
  }

  public void emptied(List<KeptItem> items) {
    lines(items);
    page.verdict(
        items.isEmpty()
            ? "Nothing is that old."
            : PlanView.count(items.size(), "thing") + " dropped.");
  }

  public void restored(String words) {
    page.verdict(SafeText.line(words) + ".");
  }

  private void lines(List<KeptItem> items) {
    for (KeptItem item : items) {
      page.line(
          "  %4d  %s  rung %d  %s"
              .formatted(
                  item.entry(),
                  item.at().substring(0, 16).replace('T', ' '),
                  item.rung(),
                  SafeText.line(item.details())));
    }
    if (!items.isEmpty()) {
      page.gap();
    }
  }

  public void json(List<KeptItem> items) {
    new Json()
        .put(
            "items",
            items.stream()
                .map(
                    item ->
                        new Json()
                            .put("entry", item.entry())
                            .put("at", item.at())
                            .put("rung", item.rung())
                            .put("what", item.what().words())
                            .put("table", item.place())
                            .put("details", item.details()))
                .toList())
        .write(terminal.out());
  }
}
