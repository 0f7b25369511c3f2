package org.wornladder.cli.view;

import java.util.List;
import org.wornladder.Fold;
import org.wornladder.cli.Terminal;

/** Rungs that became one. */
public final class FoldView {
  private final Terminal terminal;

  public FoldView(Terminal terminal) {
    this.terminal = terminal;
  }

  public void show(Fold fold) {
    Page page = new Page(terminal);
    Colors colors = page.colors();
    if (!fold.written()) {
      fold.text().lines().forEach(line -> page.line(SafeText.line(line)));
      page.gap();
    }
    int width =
        fold.rows().stream()
            .mapToInt(rows -> SafeText.width(SafeText.line(rows.table())))
            .max()
            .orElse(0);
    for (Fold.Rows rows : fold.rows()) {
      page.line(
          "  "
              + (rows.kept() ? "rows    " : colors.warning("no rows "))
              + "  "
              + SafeText.pad(SafeText.line(rows.table()), width)
              + "  "
              + PlanView.count(rows.count(), "row"));
    }
    for (String environment : fold.unasked()) {
      page.line(colors.warning("  not asked  ") + SafeText.line(environment));
    }
    if (!fold.rows().isEmpty() || !fold.unasked().isEmpty()) {
      page.gap();
    }
    List<String> folded = fold.folded();
    String range = folded.get(0) + " to " + folded.get(folded.size() - 1);
    page.verdict(
        fold.written()
            ? "Wrote %s for %s, proved: it builds the same.%s"
                .formatted(SafeText.line(fold.file()), range, where(fold))
            : "%s would stand for %s, proved. Nothing was written."
                .formatted(SafeText.line(fold.file()), range));
  }

  private static String where(Fold fold) {
    return fold.movedTo().isEmpty()
        ? " Their files are deleted."
        : " Their files are in " + fold.movedTo() + "/.";
  }

  public void json(Fold fold) {
    new Json()
        .put("file", fold.file())
        .put("written", fold.written())
        .put("folded", fold.folded())
        .put("moved_to", fold.movedTo())
        .put(
            "rows",
            fold.rows().stream()
                .map(
                    rows ->
                        new Json()
                            .put("table", rows.table())
                            .put("rows", rows.count())
                            .put("kept", rows.kept()))
                .toList())
        .put("unasked", fold.unasked())
        .put("text", fold.text())
        .write(terminal.out());
  }
}
