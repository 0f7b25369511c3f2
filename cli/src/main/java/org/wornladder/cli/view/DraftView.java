package org.wornladder.cli.view;

import java.util.ArrayList;
import java.util.List;
import org.wornladder.DirectChange;
import org.wornladder.Draft;
import org.wornladder.DriftRung;
import org.wornladder.SchemaFileChanges;
import org.wornladder.change.Difference;
import org.wornladder.change.LeftOut;
import org.wornladder.change.RenameCandidate;
import org.wornladder.change.VisibleDifferences;
import org.wornladder.cli.Terminal;

/** A rung that was written from a difference, and what a person must look at in it. */
public final class DraftView {
  private final Terminal terminal;
  private final Page page;
  private final Colors colors;

  public DraftView(Terminal terminal) {
    this.terminal = terminal;
    page = new Page(terminal);
    colors = page.colors();
  }

  /**
   * A draft.
   *
   * @param wanted what it makes the ladder equal to, in a word
   */
  public void show(Draft draft, String wanted) {
    if (draft.written().isEmpty() && draft.file().isEmpty() && draft.leftOut().isEmpty()) {
      notes(draft);
      page.verdict("The ladder builds what " + wanted + " has: there is nothing to draft.");
      return;
    }
    page.subject("draft", "the ladder to " + wanted, "");
    page.lines(
        new DifferenceView(terminal, "ladder", wanted, "goes", "comes").lines(draft.written()));
    if (!draft.risks().isEmpty()) {
      page.gap();
      page.heading("Risks", "");
      page.lines(RiskLines.of(draft.risks(), terminal));
    }
    notes(draft);
    if (draft.file().isEmpty()) {
      page.gap();
      page.lines(SqlText.lines(draft.text().stripTrailing(), colors));
    }
    verdict(draft);
  }

  /** The rungs of a staged change, each as its file is. */
  public void show(List<Draft> stages) {
    if (stages.isEmpty()) {
      page.verdict("The ladder builds what is wanted: there is nothing to draft.");
      return;
    }
    for (Draft stage : stages) {
      page.subject("stage", stage.file().orElse("not written"), "");
      page.lines(SqlText.lines(stage.text().stripTrailing(), colors));
      page.gap();
    }
    notes(stages.get(0));
    boolean written = stages.get(0).file().isPresent();
    page.verdict(
        (written ? "Wrote " : "Nothing was written: ")
            + PlanView.count(stages.size(), "rung")
            + (stages.get(0).notProved().isEmpty()
                ? "; each is proved, up, down and up again."
                : "; NOT proved."));
    if (written) {
      page.next("read them; ladder apply --to NUMBER runs them one release at a time");
    }
  }

  public void json(List<Draft> stages) {
    new Json()
        .put(
            "stages",
            stages.stream()
                .map(stage -> new Json().put("file", stage.file()).put("text", stage.text()))
                .toList())
        .put("not_proved", stages.stream().findFirst().flatMap(Draft::notProved))
        .write(terminal.out());
  }

  private void notes(Draft draft) {
    page.gap();
    for (RenameCandidate candidate : draft.unanswered()) {
      page.line(
          colors.warning("  not sure  ")
              + SafeText.line(
                  "is " + candidate.before() + " now " + candidate.after() + "? If so:"));
      page.line(
          "            --renamed "
              + Commands.word(SafeText.line(candidate.before() + "=" + candidate.after()))
              + "  ("
              + Commands.word(SafeText.line(candidate.before() + "="))
              + " if it is not)");
    }
    for (Difference one : draft.unmapped()) {
      page.line(
          colors.warning("  unmapped  ")
              + SafeText.line(one.description())
              + " stays: no entity class maps it");
      page.line(
          "            "
              + colors.faint("--drop-unmapped ")
              + Commands.word(SafeText.line(one.kind().label() + ":" + one.fullName()))
              + colors.faint(", or --forgive it"));
    }
    draft.leftOut().forEach(left -> page.line(NotReadable.leftOut(left, colors)));
    for (LeftOut left : draft.oneWay()) {
      page.line(
          colors.warning("  one-way   ")
              + "the way down lacks "
              + SafeText.line(left.difference().description() + ": " + left.reason()));
    }
    for (DriftRung.OfStanding one : draft.standing()) {
      page.line(
          colors.faint("  standing  ")
              + SafeText.line(one.difference().description() + " is made by " + one.file()));
    }
    page.lines(NotReadable.lines(VisibleDifferences.names(draft.hidden()), colors));
    draft
        .notProved()
        .ifPresent(reason -> page.line(colors.bad("  not proved  ") + SafeText.line(reason)));
  }

  private void verdict(Draft draft) {
    String proof =
        draft.written().isEmpty()
            ? ""
            : draft.notProved().isEmpty()
                ? "; both ways are proved in a scratch database"
                : "; NOT proved";
    String made =
        draft.file().map(file -> "Wrote " + SafeText.line(file)).orElse("Nothing was written");
    page.verdict(made + ": " + PlanView.count(draft.written().size(), "difference") + proof + ".");
    if (draft.file().isPresent()) {
      page.next(
          draft.written().isEmpty()
              ? "write its SQL below --| up and --| down, then ladder check"
              : "read it; ladder preview shows what waits");
    }
  }

  public void json(Draft draft) {
    new Json()
        .put("environment", draft.environment())
        .put("file", draft.file())
        .put("text", draft.text())
        .put(
            "differences",
            new DifferenceView(terminal, "ladder", "wanted", "goes", "comes").json(draft.written()))
        .put("risks", RiskLines.json(draft.risks()))
        .put(
            "not_sure",
            draft.unanswered().stream()
                .map(one -> new Json().put("before", one.before()).put("after", one.after()))
                .toList())
        .put("unmapped", draft.unmapped().stream().map(Difference::description).toList())
        .put("left_out", NotReadable.reasons(draft.leftOut()))
        .put("one_way", NotReadable.reasons(draft.oneWay()))
        .put(
            "standing",
            draft.standing().stream()
                .map(
                    one ->
                        new Json()
                            .put("file", one.file())
                            .put("difference", one.difference().description()))
                .toList())
        .put("not_readable", VisibleDifferences.names(draft.hidden()))
        .put("not_proved", draft.notProved())
        .write(terminal.out());
  }

  public void markdown(Draft draft, String wanted) {
    List<String> lines = new ArrayList<>();
    lines.add("## Draft: the ladder to " + DifferenceView.cell(wanted));
    lines.add("");
    lines.addAll(
        new DifferenceView(terminal, "ladder", wanted, "goes", "comes").markdown(draft.written()));
    draft
        .risks()
        .forEach(
            risk ->
                lines.add(
                    "- **"
                        + risk.kind().label()
                        + "** "
                        + DifferenceView.cell(risk.subject() + ": " + risk.reason())));
    lines.addAll(List.of("", "```sql", SafeText.lines(draft.text().stripTrailing()), "```"));
    lines.forEach(terminal.out()::println);
  }

  /** Files of the declared structure that were brought up to date. */
  public void show(SchemaFileChanges changes, String source) {
    changes.written().forEach(file -> page.line(colors.good("  written  ") + SafeText.line(file)));
    changes.deleted().forEach(file -> page.line(colors.bad("  deleted  ") + SafeText.line(file)));
    changes
        .left()
        .forEach(
            one ->
                page.line(
                    colors.warning("  differs  ")
                        + SafeText.line(one.description())
                        + ": it is declared in a file of another name"));
    int files = changes.written().size() + changes.deleted().size();
    page.verdict(
        files == 0 && changes.left().isEmpty()
            ? "schema/ declares what " + source + " has already."
            : PlanView.count(files, "file") + " in schema/ brought to what " + source + " has.");
  }

  public void json(SchemaFileChanges changes) {
    new Json()
        .put("written", changes.written())
        .put("deleted", changes.deleted())
        .put("left", VisibleDifferences.names(changes.left()))
        .write(terminal.out());
  }

  /** What is about to run, or was run, in a database without a rung. */
  public void statements(DirectChange change) {
    for (String statement : change.statements()) {
      page.lines(SqlText.lines("  " + SqlText.terminated(statement), colors));
    }
    change.losses().forEach(loss -> page.line(colors.bad("  loses     ") + SafeText.line(loss)));
    change.leftOut().forEach(left -> page.line(NotReadable.leftOut(left, colors)));
  }

  public void done(DirectChange change) {
    page.verdict(
        change.statements().isEmpty()
            ? change.environment() + " has what schema/ declares: nothing was run."
            : PlanView.count(change.statements().size(), "statement")
                + " run in "
                + change.environment()
                + ", without a rung.");
  }

  public void json(DirectChange change) {
    new Json()
        .put("environment", change.environment())
        .put("statements", change.statements())
        .put("losses", change.losses())
        .put("left_out", NotReadable.reasons(change.leftOut()))
        .write(terminal.out());
  }
}
