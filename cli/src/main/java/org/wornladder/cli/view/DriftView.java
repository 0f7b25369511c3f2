package org.wornladder.cli.view;

import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import org.wornladder.Advice;
import org.wornladder.Against;
import org.wornladder.CheckReport.Finding;
import org.wornladder.DriftReport;
import org.wornladder.RefusedException.Refusal;
import org.wornladder.SeedDrift;
import org.wornladder.SeedResult;
import org.wornladder.change.Difference;
import org.wornladder.cli.Terminal;
import org.wornladder.sql.Dialects;

/** Whether a database is what its history says: structure, files, journal and rows. */
public final class DriftView {
  private static final int TITLE = "Structure".length();

  private final Terminal terminal;
  private final Set<String> guarded;
  private final Page page;
  private final Colors colors;
  private final DifferenceView differences;

  /**
   * @param guarded the names of the guarded environments
   */
  public DriftView(Terminal terminal, Set<String> guarded) {
    this.guarded = guarded;
    this.terminal = terminal;
    page = new Page(terminal);
    colors = page.colors();
    differences = new DifferenceView(terminal, "expected", "found", "missing", "not expected");
  }

  public void show(DriftReport drift) {
    page.subject(
        SafeText.line(drift.environment()),
        drift.engine() + " " + SafeText.line(drift.address()),
        "");
    heading("Structure", structure(drift));
    page.lines(differences.lines(drift.structure()));
    page.lines(NotReadable.lines(drift.hidden(), colors));
    if (!drift.structure().isEmpty() || !drift.hidden().isEmpty()) {
      page.gap();
    }
    heading("Files", files(drift));
    for (FindingGroup group : FindingGroup.of(drift.files())) {
      group.shown().forEach(finding -> finding(finding.what(), finding.where()));
      group.rest().ifPresent(rest -> page.line("  " + rest));
      advice(group.advice());
    }
    heading("Journal", journal(drift));
    seeds(drift);
    page.verdict(verdict(drift));
    page.next(next(drift));
  }

  private void heading(String title, String summary) {
    page.heading(SafeText.pad(title, TITLE), summary);
  }

  private void finding(String what, String where) {
    page.line("  " + colors.bad(SafeText.line(what)) + "  " + colors.faint(SafeText.line(where)));
  }

  private void advice(Advice advice) {
    if (!advice.isEmpty()) {
      page.line(colors.faint("      next  ") + SafeText.line(AdviceText.of(advice, guarded)));
    }
  }

  private static String verdict(DriftReport drift) {
    String says =
        switch (drift.against()) {
          case EXPECTED -> " what its history says";
          case RUNGS -> " what the rungs build";
          case SCHEMA -> " what schema/ declares";
        };
    if (!drift.known() && drift.structure().isEmpty()) {
      return "Whether " + drift.environment() + " is" + says + " cannot be said.";
    }
    boolean sure = !drift.isCleanButForSeeds() || drift.hidden().isEmpty();
    return drift.environment()
        + (drift.isCleanButForSeeds() ? " is" : " is not")
        + says
        + (sure ? "." : ", as far as this user may see.")
        + (drift.isCleanButForSeeds() ? rows(drift.seeds()) : "");
  }

  /** What is to be said of the rows where all else is as it should be. */
  private static String rows(SeedDrift seeds) {
    if (!seeds.differing().isEmpty()) {
      return " Its rows are not what the seeds say.";
    }
    return seeds.findings().isEmpty()
        ? ""
        : " It cannot be said whether its rows are what the seeds say.";
  }

  private void seeds(DriftReport drift) {
    SeedDrift seeds = drift.seeds();
    if (seeds.seeds() == 0) {
      return;
    }
    heading("Rows", seedsLine(seeds));
    for (SeedResult result : seeds.differing()) {
      page.line("  " + colors.warning(SafeText.line(result.label())) + "  " + rows(result));
    }
    for (Refusal finding : seeds.findings()) {
      finding(finding.what(), finding.where());
      advice(finding.advice());
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

  /** Where nothing is on record yet, to bring it back would be to drop all of it. */
  private static List<String> next(DriftReport drift) {
    String environment = drift.environment();
    List<String> commands = new ArrayList<>();
    if (!drift.structure().isEmpty() && drift.entries() == 0) {
      commands.add("ladder adopt " + environment + "  takes what is there under management");
    } else if (!drift.known()) {
      commands.add("ladder drift " + environment + " --against rungs  compares with the files");
    } else if (!drift.structure().isEmpty()) {
      String drifts = "ladder drift " + environment;
      boolean commandsOfDocuments = drift.engine().equals(Dialects.DOCUMENT.name());
      commands.add(
          drifts
              + (commandsOfDocuments
                  ? " --mend mend.json  writes the commands that bring it back"
                  : " --mend mend.sql  writes the SQL that brings it back"));
      if (drift.against() == Against.EXPECTED) {
        Difference first = drift.structure().get(0);
        String pattern = first.kind().label() + ":" + SafeText.line(first.fullName());
        commands.add(drifts + " --as-rung \"found on " + environment + "\"  makes it a rung");
        commands.add(drifts + " --forgive \"" + pattern + "\"  leaves it to others");
      }
    }
    if (!drift.seeds().differing().isEmpty()) {
      commands.add("ladder seed " + environment + " --dry-run  shows the rows");
    }
    return commands;
  }

  private static String structure(DriftReport drift) {
    if (!drift.isThere()) {
      return "no database there yet; apply makes it";
    }
    if (!drift.known()) {
      return "not known: the journal has entries, but what runs saved in its snapshot table is lost";
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
                colors.bad("the chain is broken at entry " + broken.entry())
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
        .put("against", drift.against().label())
        .put("expectation_known", drift.known())
        .put("structure", json(drift.structure()))
        .put("ignored", drift.ignored())
        .put("not_readable", drift.hidden())
        .put(
            "files",
            drift.files().stream().map(finding -> CheckView.json(finding, guarded)).toList())
        .put(
            "journal",
            new Json()
                .put("entries", drift.entries())
                .put("broken_at", drift.broken().map(broken -> (Object) broken.entry()))
                .put("reason", drift.broken().map(broken -> (Object) broken.reason())))
        .put("seeds", seedsJson(drift.seeds()))
        .write(terminal.out());
  }

  private List<Json> json(List<Difference> structure) {
    return new DifferenceView(terminal, "expected", "found", "missing", "unexpected")
        .json(structure);
  }

  private Json seedsJson(SeedDrift seeds) {
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
                            .put("next", AdviceText.of(finding.advice(), guarded)))
                .toList());
  }

  public void markdown(DriftReport drift) {
    terminal.out().println("## Drift on " + DifferenceView.cell(drift.environment()));
    terminal.out().println();
    terminal.out().println("**Structure:** " + DifferenceView.cell(structure(drift)));
    terminal.out().println();
    if (!drift.structure().isEmpty()) {
      differences.markdown(drift.structure()).forEach(terminal.out()::println);
      terminal.out().println();
    }
    NotReadable.markdown(drift.hidden()).forEach(terminal.out()::println);
    terminal.out().println("**Files:** " + DifferenceView.cell(files(drift)));
    terminal.out().println();
    for (FindingGroup group : FindingGroup.of(drift.files())) {
      for (Finding finding : group.shown()) {
        String line = finding.what() + ": " + finding.where();
        terminal.out().println("- " + DifferenceView.cell(line));
      }
      group.rest().ifPresent(rest -> terminal.out().println("- " + rest));
    }
    if (!drift.files().isEmpty()) {
      terminal.out().println();
    }
    String broken =
        drift
            .broken()
            .map(found -> "the chain is broken at entry " + found.entry() + ": " + found.reason())
            .orElse("the chain holds");
    terminal.out().println("**Journal:** " + DifferenceView.cell(broken));
    SeedDrift seeds = drift.seeds();
    if (seeds.seeds() > 0) {
      terminal.out().println();
      terminal.out().println("**Seeds:** " + DifferenceView.cell(seedsLine(seeds)));
      for (SeedResult result : seeds.differing()) {
        String row = result.label() + ": " + rows(result);
        terminal.out().println("- " + DifferenceView.cell(row));
      }
      for (Refusal finding : seeds.findings()) {
        terminal.out().println("- " + DifferenceView.cell(finding.what() + ": " + finding.where()));
      }
    }
  }
}
