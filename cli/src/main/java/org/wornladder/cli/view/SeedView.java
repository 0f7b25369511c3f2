package org.wornladder.cli.view;

import java.io.PrintStream;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.wornladder.PulledSeed;
import org.wornladder.RowChange;
import org.wornladder.SeedCounts;
import org.wornladder.SeedResult;
import org.wornladder.SeedRunResult;
import org.wornladder.cli.Terminal;

/** What seeding did, or would do, table by table; row by row where rows are told. */
public final class SeedView {
  private static final int LONGEST_VALUE = 60;

  private final Terminal terminal;
  private final Colors paint;
  private final PrintStream out;

  public SeedView(Terminal terminal) {
    this.terminal = terminal;
    paint = new Colors(terminal);
    out = terminal.out();
  }

  public void show(SeedRunResult outcome) {
    String name = paint.strong(outcome.environment());
    if (outcome.results().isEmpty()) {
      out.println("There is no seed for " + name + ": write one under seeds: in ladder.yaml.");
      return;
    }
    for (SeedResult result : outcome.results()) {
      out.println("  " + line(result));
      result.changes().forEach(this::change);
      long told = result.changes().size();
      long all = result.counts().added() + result.counts().updated() + result.counts().deleted();
      if (told > 0 && told < all) {
        out.println(paint.faint("      and " + (all - told) + " rows more: --show N shows them"));
      }
    }
    out.println(end(outcome, name));
  }

  /** Files that rows were written back to. */
  public void show(List<PulledSeed> pulled) {
    for (PulledSeed one : pulled) {
      out.println(
          "  wrote  " + SafeText.line(one.file()) + "  " + PlanView.count(one.rows(), "row"));
    }
  }

  public void json(List<PulledSeed> pulled) {
    new Json()
        .put(
            "files",
            pulled.stream()
                .map(one -> new Json().put("file", one.file()).put("rows", one.rows()))
                .toList())
        .write(out);
  }

  private String line(SeedResult result) {
    String label = paint.strong(SafeText.line(result.label())) + ": ";
    if (result.isQuiet() && result.counts().unchanged() == 0) {
      return label + "nothing to do";
    }
    return result.statements() > 0
        ? label + PlanView.count(result.statements(), "statement")
        : label + result.counts().text();
  }

  private static String end(SeedRunResult outcome, String name) {
    if (outcome.isQuiet()) {
      return name + " has what the seeds say. Nothing changed.";
    }
    return outcome.written()
        ? name + " is seeded, in " + outcome.elapsedMs() + " ms."
        : "Nothing was written on " + name + " yet.";
  }

  private void change(RowChange change) {
    String mark =
        switch (change.kind()) {
          case ADDED -> paint.good("added   ");
          case UPDATED -> paint.warning("updated ");
          case DELETED -> paint.bad("deleted ");
        };
    String line = change.line() == 0 ? "" : paint.faint("  line " + change.line());
    out.println("      " + mark + " " + SafeText.line(change.key()) + line);
    int width = change.fields().stream().mapToInt(field -> field.column().length()).max().orElse(0);
    for (RowChange.Field field : change.fields()) {
      String before = change.kind() == RowChange.Kind.ADDED ? "" : value(field.before()) + arrow();
      out.println(
          "          "
              + SafeText.pad(SafeText.line(field.column()), Math.min(width, LONGEST_VALUE))
              + "  "
              + before
              + value(field.after()));
    }
  }

  private String arrow() {
    return terminal.unicode() ? " → " : " -> ";
  }

  private String value(Optional<String> value) {
    if (value.isEmpty()) {
      return paint.faint("NULL");
    }
    String text = SafeText.line(value.get());
    if (text.isEmpty()) {
      return "''";
    }
    return text.length() > LONGEST_VALUE
        ? text.substring(0, LONGEST_VALUE) + (terminal.unicode() ? "…" : "...")
        : text;
  }

  public void json(SeedRunResult outcome) {
    of(outcome).write(out);
  }

  static Json of(SeedRunResult outcome) {
    return new Json()
        .put("environment", outcome.environment())
        .put("written", outcome.written())
        .put("elapsed_ms", outcome.elapsedMs())
        .put("seeds", outcome.results().stream().map(SeedView::json).toList());
  }

  static Json json(SeedResult result) {
    SeedCounts counts = result.counts();
    return new Json()
        .put("name", result.label())
        .put("file", result.file())
        .put("fingerprint", result.fingerprint())
        .put("added", counts.added())
        .put("updated", counts.updated())
        .put("deleted", counts.deleted())
        .put("unchanged", counts.unchanged())
        .put("statements", result.statements())
        .put("rows", result.changes().stream().map(SeedView::json).toList());
  }

  private static Json json(RowChange change) {
    List<Json> fields =
        change.fields().stream()
            .map(
                field ->
                    new Json()
                        .put("column", field.column())
                        .put("before", field.before())
                        .put("after", field.after()))
            .toList();
    return new Json()
        .put("change", change.kind().name().toLowerCase(Locale.ROOT))
        .put("line", change.line())
        .put("key", change.key())
        .put("fields", fields);
  }
}
