package org.wornladder.cli.view;

import java.io.PrintStream;
import java.util.ArrayList;
import java.util.List;
import org.wornladder.Against;
import org.wornladder.CheckReport.Finding;
import org.wornladder.DriftReport;
import org.wornladder.RefusedException.Refusal;
import org.wornladder.SeedDrift;
import org.wornladder.SeedResult;
import org.wornladder.change.Difference;
import org.wornladder.cli.Terminal;

/** Whether a database is what its history says: structure, files and journal. */
public final class DriftView {
  private final Colors paint;
  private final PrintStream out;
  private final DifferenceView differences;

  public DriftView(Terminal terminal) {
    paint = new Colors(terminal);
    out = terminal.out();
    differences = new DifferenceView(terminal, "expected", "found", "missing", "unexpected");
  }

  public void show(DriftReport drift) {
    out.println(
        paint.strong(drift.environment())
            + paint.faint("  " + drift.engine() + " " + SafeText.line(drift.address())));
    out.println();
    out.println(paint.strong("Structure  ") + structure(drift));
    if (!drift.structure().isEmpty()) {
      out.println();
      differences.lines(drift.structure()).forEach(out::println);
      out.println();
      next(drift).forEach(line -> out.println(line));
      out.println();
    }
    NotReadable.lines(drift.hidden(), paint).forEach(out::println);
    out.println(paint.strong("Files      ") + files(drift));
    for (FindingGroup group : FindingGroup.of(drift.files())) {
      for (Finding finding : group.shown()) {
        out.println(
            "  "
                + paint.bad(SafeText.line(finding.what()))
                + "  "
                + SafeText.line(finding.where()));
      }
      group.rest().ifPresent(rest -> out.println("  " + rest));
      out.println(paint.faint("      next: ") + SafeText.line(AdviceText.of(group.advice())));
    }
    out.println(paint.strong("Journal    ") + journal(drift));
    seeds(drift);
    out.println();
    String says =
        switch (drift.against()) {
          case EXPECTED -> " what its history says";
          case RUNGS -> " what the rungs build";
          case SCHEMA -> " what schema/ declares";
        };
    boolean sure = !drift.isCleanButForSeeds() || drift.hidden().isEmpty();
    boolean rowsAlone = drift.isCleanButForSeeds() && !drift.seeds().isClean();
    out.println(
        drift.environment()
            + (drift.isCleanButForSeeds() ? " is" : " is not")
            + says
            + (sure ? "." : ", as far as this user may see.")
            + (rowsAlone ? " Its rows are not what the seeds say." : ""));
  }

  private void seeds(DriftReport drift) {
    SeedDrift seeds = drift.seeds();
    if (seeds.seeds() == 0) {
      return;
    }
    out.println(paint.strong("Seeds      ") + seedsLine(seeds));
    for (SeedResult result : seeds.differing()) {
      out.println("  " + paint.warning(SafeText.line(result.label())) + ": " + rows(result));
    }
    for (Refusal finding : seeds.findings()) {
      out.println(
          "  " + paint.bad(SafeText.line(finding.what())) + "  " + SafeText.line(finding.where()));
      if (!finding.advice().isEmpty()) {
        out.println(paint.faint("      next: ") + SafeText.line(AdviceText.of(finding.advice())));
      }
    }
    if (!seeds.differing().isEmpty()) {
      String seed = "ladder seed " + drift.environment();
      out.println(
          paint.faint("  next: ") + seed + " --dry-run shows the rows, " + seed + " writes them");
    }
  }

  private static String seedsLine(SeedDrift seeds) {
    String found =
        seeds.isClean()
            ? "the rows are what the files say"
            : PlanView.count(seeds.differing().size() + seeds.findings().size(), "finding");
    return seeds.waiting().isEmpty()
        ? found
        : found + "; waiting for a rung: " + SafeText.line(String.join(", ", seeds.waiting()));
  }

  /** What of a seed's rows is not as it should be. */
  private static String rows(SeedResult result) {
    if (result.statements() > 0) {
      return "the script was changed, or never ran here";
    }
    List<String> parts = new ArrayList<>();
    if (result.counts().added() > 0) {
      parts.add(result.counts().added() + " missing");
    }
    if (result.counts().updated() > 0) {
      parts.add(result.counts().updated() + " different");
    }
    if (result.counts().deleted() > 0) {
      parts.add(result.counts().deleted() + " unexpected");
    }
    return String.join(", ", parts);
  }

  /** The ways on. Where nothing is on record yet, to bring it back would be to drop all of it. */
  private List<String> next(DriftReport drift) {
    String ladder = "ladder drift " + drift.environment();
    String next = paint.faint("  next: ");
    if (drift.entries() == 0) {
      return List.of(
          next
              + "ladder adopt "
              + drift.environment()
              + " takes what stands there under management");
    }
    List<String> lines = new ArrayList<>();
    lines.add(next + ladder + " --mend FILE writes the SQL that brings it back");
    if (drift.against() == Against.EXPECTED) {
      Difference first = drift.structure().get(0);
      String pattern = first.kind().word() + ":" + SafeText.line(first.fullName());
      lines.add(
          "        --as-rung WORDS makes it official; --forgive \""
              + pattern
              + "\" leaves it to others");
    }
    return lines;
  }

  private static String structure(DriftReport drift) {
    if (!drift.isThere()) {
      return "no database there yet; apply makes it";
    }
    if (!drift.known()) {
      return "not known: no run kept what should stand there; the next one does";
    }
    int count = drift.structure().size();
    String ignored =
        drift.ignored() == 0 ? "" : ", " + drift.ignored() + " more that ladder.yaml ignores";
    String good =
        switch (drift.against()) {
          case EXPECTED -> "as expected";
          case RUNGS -> "as the rungs build it";
          case SCHEMA -> "as schema/ declares it";
        };
    return (count == 0 ? good : PlanView.count(count, "difference")) + ignored;
  }

  private static String files(DriftReport drift) {
    return drift.files().isEmpty()
        ? "as they ran"
        : PlanView.count(drift.files().size(), "finding");
  }

  private String journal(DriftReport drift) {
    return drift
        .broken()
        .map(
            broken ->
                paint.bad("the chain is broken at entry " + broken.entry())
                    + ": "
                    + SafeText.line(broken.reason()))
        .orElse(
            drift.entries() == 0
                ? "empty"
                : drift.entries()
                    + (drift.entries() == 1 ? " entry" : " entries")
                    + ", the chain holds");
  }

  public void json(DriftReport drift) {
    new Json()
        .put("environment", drift.environment())
        .put("engine", drift.engine())
        .put("database", drift.address())
        .put("database_exists", drift.isThere())
        .put("clean", drift.isClean())
        .put("against", drift.against().word())
        .put("expectation_known", drift.known())
        .put("structure", differences.json(drift.structure()))
        .put("ignored", drift.ignored())
        .put("not_readable", drift.hidden())
        .put("files", drift.files().stream().map(CheckView::json).toList())
        .put(
            "journal",
            new Json()
                .put("entries", drift.entries())
                .put("broken_at", drift.broken().map(broken -> (Object) broken.entry()))
                .put("reason", drift.broken().map(broken -> (Object) broken.reason())))
        .put("seeds", seedsJson(drift.seeds()))
        .write(out);
  }

  private static Json seedsJson(SeedDrift seeds) {
    return new Json()
        .put("count", seeds.seeds())
        .put("waiting", seeds.waiting())
        .put("differing", seeds.differing().stream().map(SeedView::json).toList())
        .put(
            "findings",
            seeds.findings().stream()
                .map(
                    finding ->
                        new Json()
                            .put("what", finding.what())
                            .put("where", finding.where())
                            .put("next", AdviceText.of(finding.advice())))
                .toList());
  }

  public void markdown(DriftReport drift) {
    out.println("## DriftReport on " + DifferenceView.cell(drift.environment()));
    out.println();
    out.println("**Structure:** " + DifferenceView.cell(structure(drift)));
    out.println();
    if (!drift.structure().isEmpty()) {
      differences.markdown(drift.structure()).forEach(out::println);
      out.println();
    }
    NotReadable.markdown(drift.hidden()).forEach(out::println);
    out.println("**Files:** " + DifferenceView.cell(files(drift)));
    out.println();
    for (FindingGroup group : FindingGroup.of(drift.files())) {
      for (Finding finding : group.shown()) {
        String line = finding.what() + ": " + finding.where();
        out.println("- " + DifferenceView.cell(line));
      }
      group.rest().ifPresent(rest -> out.println("- " + rest));
    }
    if (!drift.files().isEmpty()) {
      out.println();
    }
    String broken =
        drift
            .broken()
            .map(found -> "the chain is broken at entry " + found.entry() + ": " + found.reason())
            .orElse("the chain holds");
    out.println("**Journal:** " + DifferenceView.cell(broken));
    SeedDrift seeds = drift.seeds();
    if (seeds.seeds() > 0) {
      out.println();
      out.println("**Seeds:** " + DifferenceView.cell(seedsLine(seeds)));
      for (SeedResult result : seeds.differing()) {
        String row = result.label() + ": " + rows(result);
        out.println("- " + DifferenceView.cell(row));
      }
      for (Refusal finding : seeds.findings()) {
        out.println("- " + DifferenceView.cell(finding.what() + ": " + finding.where()));
      }
    }
  }
}
