package org.wornladder.cli.view;

import java.io.PrintStream;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.wornladder.PulledSeed;
import org.wornladder.RowChange;
import org.wornladder.SeedCounts;
import org.wornladder.SeedResult;
import org.wornladder.SeedRunResult;
import org.wornladder.cli.Terminal;

/** What seeding did, or would do, table by table; row by row where the result lists rows. */
public final class SeedView {
  private static final int LONGEST_VALUE = 60;

  private final Terminal terminal;
  private final Colors colors;
  private final PrintStream out;

  public SeedView(Terminal terminal) {
    this.terminal = terminal;
    colors = new Colors(terminal);
    out = terminal.out();
  }

  public void show(SeedRunResult result) {
    show(result, List.of());
  }

  /**
   * @param only the seeds that were named; none if all were meant
   */
  public void show(SeedRunResult result, List<String> only) {
    Page page = new Page(terminal);
    if (result.results().isEmpty() && result.leftOut().isEmpty()) {
      page.verdict("There is no seed for " + result.environment() + ".");
      page.next("write one under seeds: in ladder.yaml");
      return;
    }
    rows(result);
    out.println();
    page.verdict(verdict(result));
    if (!result.written() && !result.isQuiet()) {
      String named = only.isEmpty() ? "" : " --only " + String.join(",", only);
      page.next("ladder seed " + result.environment() + named);
    }
  }

  /** What was done to each table, or would be. */
  void rows(SeedRunResult outcome) {
    Columns seeds = new Columns();
    for (SeedResult result : outcome.results()) {
      boolean several =
          outcome.results().stream().filter(one -> one.label().equals(result.label())).count() > 1;
      String file = several ? colors.faint("  " + SafeText.line(result.file())) : "";
      seeds.row(colors.strong(SafeText.line(result.label())), what(result) + file);
      result.changes().forEach(change -> change(seeds, change));
      long shown = result.changes().size();
      long all = result.counts().added() + result.counts().updated() + result.counts().deleted();
      if (shown > 0 && shown < all) {
        seeds.detail(colors.faint("and " + (all - shown) + " rows more, --show N shows them"));
      }
    }
    seeds.lines(2, terminal).forEach(out::println);
    if (!outcome.leftOut().isEmpty()) {
      String labels = String.join(", ", outcome.leftOut());
      out.println("  left out: " + SafeText.line(labels) + ", whose tables are not there yet");
    }
  }

  /**
   * Files that rows were written back to.
   *
   * @param written whether they were, or only would be
   * @param again the command that writes them
   */
  public void show(List<PulledSeed> pulled, boolean written, String again) {
    Columns files = new Columns();
    for (PulledSeed one : pulled) {
      files.row(colors.strong(SafeText.line(one.file())), what(one));
    }
    files.lines(2, terminal).forEach(out::println);
    out.println();
    boolean quiet = pulled.stream().allMatch(PulledSeed::isQuiet);
    String verdict =
        quiet
            ? "The files say what the tables hold. Nothing changed."
            : written ? "The files are written." : "Nothing was written yet.";
    Page page = new Page(terminal);
    page.verdict(verdict);
    if (!quiet && !written) {
      page.next(again);
    }
  }

  /** Files that say how rows are made up. */
  public void samples(List<String> files) {
    files.forEach(file -> out.println("  wrote  " + SafeText.line(file)));
    out.println();
    Page page = new Page(terminal);
    page.verdict(files.size() == 1 ? "The guess is written." : "The guesses are written.");
    page.next("edit it, name its table under seeds: in ladder.yaml, then ladder seed");
  }

  /** The same in JSON. */
  public void samplesJson(List<String> files) {
    new Json().put("files", files).write(out);
  }

  private static String what(PulledSeed pulled) {
    List<String> parts = new ArrayList<>();
    part(parts, pulled.added(), "added");
    part(parts, pulled.changed(), "changed");
    part(parts, pulled.removed(), "removed");
    part(parts, pulled.unchanged(), "unchanged");
    return parts.isEmpty() ? "no rows" : String.join(", ", parts);
  }

  private static void part(List<String> parts, long count, String word) {
    if (count > 0) {
      parts.add(count + " " + word);
    }
  }

  public void json(List<PulledSeed> pulled, boolean written) {
    new Json()
        .put("written", written)
        .put("files", pulled.stream().map(SeedView::json).toList())
        .write(out);
  }

  private static Json json(PulledSeed pulled) {
    return new Json()
        .put("file", pulled.file())
        .put("rows", pulled.rows())
        .put("added", pulled.added())
        .put("changed", pulled.changed())
        .put("removed", pulled.removed())
        .put("unchanged", pulled.unchanged());
  }

  private static String what(SeedResult result) {
    if (result.statements() > 0) {
      return PlanView.count(result.statements(), "statement");
    }
    String counts = result.counts().text();
    return counts.isEmpty() ? "nothing to do" : counts;
  }

  private static String verdict(SeedRunResult result) {
    String name = result.environment();
    if (result.isQuiet()) {
      return name + " has what the seeds say. Nothing changed.";
    }
    return result.written()
        ? name + " is seeded, in " + Durations.text(result.elapsedMs()) + "."
        : "Nothing was written on " + name + " yet.";
  }

  private void change(Columns seeds, RowChange change) {
    String mark =
        switch (change.kind()) {
          case ADDED -> colors.good("added  ");
          case UPDATED -> colors.warning("updated");
          case DELETED -> colors.bad("deleted");
        };
    String line = change.line() == 0 ? "" : colors.faint("  line " + change.line());
    seeds.detail(mark + "  " + SafeText.line(change.key()) + line);
    int width = change.fields().stream().mapToInt(field -> field.column().length()).max().orElse(0);
    for (RowChange.Field field : change.fields()) {
      String before = change.kind() == RowChange.Kind.ADDED ? "" : value(field.before()) + arrow();
      seeds.detail(
          "         "
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
      return colors.faint("NULL");
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
        .put("left_out", outcome.leftOut())
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
