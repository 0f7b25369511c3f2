package org.wornladder.cli.view;

import java.util.List;
import org.wornladder.AdoptResult;
import org.wornladder.change.LeftOut;
import org.wornladder.cli.Terminal;

/** What became of a database that was to be taken under management. */
public final class AdoptView {
  private static final int MOST_FILES = 12;
  private static final String SCHEMA = "schema/";

  private final Colors colors;
  private final Terminal terminal;
  private final Page page;
  private final DifferenceView differences;

  public AdoptView(Terminal terminal) {
    this.terminal = terminal;
    page = new Page(terminal);
    colors = page.colors();
    differences = new DifferenceView(terminal, "the rung", "found", "missing", "not expected");
  }

  public void show(AdoptResult adoption) {
    String name = adoption.environment();
    if (!adoption.differences().isEmpty()) {
      page.heading(name, "is not what " + SafeText.line(adoption.rung()) + " builds:");
      page.gap();
      page.lines(differences.lines(adoption.differences()));
      page.lines(NotReadable.kinds(adoption.unseen(), colors));
      page.verdict(
          "Nothing was recorded. Change the database first, or leave objects to others with"
              + " --except KIND:NAME.");
      return;
    }
    List<String> files = adoption.files();
    List<String> schema = files.stream().filter(file -> file.startsWith(SCHEMA)).toList();
    schema.stream().limit(MOST_FILES).forEach(this::wrote);
    if (schema.size() > MOST_FILES) {
      page.line("  wrote  " + (schema.size() - MOST_FILES) + " more in " + SCHEMA);
    }
    files.stream().filter(file -> !file.startsWith(SCHEMA)).forEach(this::wrote);
    if (!files.isEmpty()) {
      wrote(adoption.rung());
    }
    page.gap();
    adoption.leftOut().forEach(left -> page.line(NotReadable.leftOut(left, colors)));
    page.lines(NotReadable.kinds(adoption.unseen(), colors));
    page.verdict(
        name
            + " is on record: "
            + PlanView.count(adoption.objects(), "object")
            + ", and "
            + SafeText.line(adoption.rung())
            + " is recorded as in place. Nothing was run there.");
    page.next(
        files.isEmpty()
            ? "ladder status " + name
            : "read the rung, commit it, and adopt the other environments");
  }

  private void wrote(String file) {
    page.line("  wrote  " + SafeText.line(file));
  }

  private static String named(LeftOut left) {
    return SafeText.line(left.difference().description());
  }

  public void json(AdoptResult adoption) {
    new Json()
        .put("environment", adoption.environment())
        .put("marked", adoption.differences().isEmpty())
        .put("rung", adoption.rung())
        .put("files", adoption.files())
        .put("objects", adoption.objects())
        .put("left_out", adoption.leftOut().stream().map(AdoptView::named).toList())
        .put("not_readable", adoption.unseen())
        .put(
            "differences",
            new DifferenceView(terminal, "the rung", "found", "missing", "unexpected")
                .json(adoption.differences()))
        .write(terminal.out());
  }
}
