package org.wornladder.cli.view;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.wornladder.Against;
import org.wornladder.DriftRung;
import org.wornladder.MendScript;
import org.wornladder.change.Difference;
import org.wornladder.change.LeftOut;
import org.wornladder.change.VisibleDifferences;
import org.wornladder.cli.Terminal;
import org.wornladder.project.CommandDraft;
import org.wornladder.sql.Dialect;

/** The script or rung that settles what a database differs in. */
public final class MendView {
  private final Colors colors;
  private final Terminal terminal;
  private final Page page;

  public MendView(Terminal terminal) {
    this.terminal = terminal;
    page = new Page(terminal);
    colors = page.colors();
  }

  /** The script that brings a database back, for a person to read and run. */
  public static String script(MendScript mending, Against against) {
    String to =
        switch (against) {
          case EXPECTED -> "what its history says";
          case RUNGS -> "what the rungs build";
          case SCHEMA -> "what schema/ declares";
        };
    String about = "Brings " + mending.environment() + " back to " + to;
    List<String> remarks = new ArrayList<>();
    remarks.add("Read it before you run it: what it drops is gone.");
    mending.losses().forEach(loss -> remarks.add("Loses " + SafeText.line(loss)));
    mending.leftOut().forEach(left -> remarks.add("Not settled here: " + words(left)));
    mending
        .hidden()
        .forEach(
            hidden ->
                remarks.add("Not compared, since this user may not see it: " + words(hidden)));
    if (mending.dialect().has(Dialect.Trait.JSON)) {
      Optional<String> oneWay = Optional.of("it restores what was there");
      return new CommandDraft(mending.statements(), List.of(), oneWay, remarks).text(about);
    }
    StringBuilder text = new StringBuilder("-- " + about + ".\n");
    remarks.forEach(remark -> text.append("-- ").append(remark).append('\n'));
    return text + "\n" + mending.script();
  }

  private static String words(LeftOut left) {
    return words(left.difference()) + ": " + left.reason();
  }

  private static List<String> names(List<LeftOut> all) {
    return all.stream().map(left -> left.difference().description()).toList();
  }

  private static String words(Difference difference) {
    return SafeText.line(difference.description());
  }

  public void show(MendScript mending, String file) {
    for (String loss : mending.losses()) {
      page.line(colors.bad("  loses     ") + SafeText.line(loss));
    }
    leftOut(mending.leftOut());
    hidden(mending.hidden());
    page.verdict(
        PlanView.count(mending.statements().size(), "statement")
            + " in "
            + SafeText.line(file)
            + "; nothing was run.");
    page.next(
        "read it, run it with the database's own shell, then ladder drift "
            + mending.environment());
  }

  private void leftOut(List<LeftOut> all) {
    for (LeftOut left : all) {
      page.line(NotReadable.leftOut(left, colors));
    }
  }

  private void hidden(List<Difference> differences) {
    page.lines(NotReadable.lines(VisibleDifferences.names(differences), colors));
  }

  public void show(DriftRung rung) {
    leftOut(rung.leftOut());
    hidden(rung.hidden());
    for (DriftRung.OfStanding one : rung.standing()) {
      page.line(
          colors.warning("  left to   ")
              + SafeText.line(one.file())
              + ": "
              + words(one.difference())
              + "; put what the database has into that file, or bring the database back with"
              + " ladder drift "
              + rung.environment()
              + " --mend FILE");
    }
    for (LeftOut oneWay : rung.oneWay()) {
      page.line(colors.warning("  one-way  ") + "the way down lacks " + words(oneWay));
    }
    page.verdict(
        "Wrote "
            + SafeText.line(rung.file())
            + " and recorded it as in place on "
            + rung.environment()
            + ": "
            + PlanView.count(rung.written().size(), "difference")
            + ".");
    page.next("read the rung, commit it, and apply it elsewhere");
  }

  public void json(MendScript mending, String file) {
    new Json()
        .put("environment", mending.environment())
        .put("file", file)
        .put("statements", mending.statements())
        .put("losses", mending.losses())
        .put("left_out", names(mending.leftOut()))
        .put("reasons", NotReadable.reasons(mending.leftOut()))
        .put("not_readable", VisibleDifferences.names(mending.hidden()))
        .write(terminal.out());
  }

  public void json(DriftRung official) {
    new Json()
        .put("environment", official.environment())
        .put("file", official.file())
        .put("made_official", VisibleDifferences.names(official.written()))
        .put("left_out", names(official.leftOut()))
        .put("reasons", NotReadable.reasons(official.leftOut()))
        .put("not_readable", VisibleDifferences.names(official.hidden()))
        .put(
            "standing",
            official.standing().stream()
                .map(
                    one ->
                        new Json()
                            .put("file", one.file())
                            .put("difference", one.difference().description()))
                .toList())
        .put("one_way", names(official.oneWay()))
        .write(terminal.out());
  }
}
