package org.wornladder.cli.view;

import java.io.PrintStream;
import java.util.List;
import org.wornladder.AdoptResult;
import org.wornladder.cli.Terminal;
import org.wornladder.schema.Element;

/** What became of a database that was to be taken under management. */
public final class AdoptView {
  private static final int MOST_FILES = 12;
  private static final String SCHEMA = "schema/";

  private final Colors paint;
  private final PrintStream out;
  private final DifferenceView differences;

  public AdoptView(Terminal terminal) {
    paint = new Colors(terminal);
    out = terminal.out();
    differences = new DifferenceView(terminal, "the rung", "found", "missing", "unexpected");
  }

  public void show(AdoptResult adoption) {
    String name = adoption.environment();
    if (!adoption.differences().isEmpty()) {
      NotReadable.sorts(adoption.unseen(), paint).forEach(out::println);
      out.println(
          paint.strong(name) + " is not what " + SafeText.line(adoption.rung()) + " builds:");
      out.println();
      differences.lines(adoption.differences()).forEach(out::println);
      out.println();
      out.println(
          "Nothing was marked. Bring it there first, or leave a thing to others with --except KIND:NAME.");
      return;
    }
    List<String> files = adoption.files();
    List<String> schema = files.stream().filter(file -> file.startsWith(SCHEMA)).toList();
    schema.stream().limit(MOST_FILES).forEach(this::wrote);
    if (schema.size() > MOST_FILES) {
      out.println("  wrote  " + (schema.size() - MOST_FILES) + " more in " + SCHEMA);
    }
    files.stream().filter(file -> !file.startsWith(SCHEMA)).forEach(this::wrote);
    if (!files.isEmpty()) {
      wrote(adoption.rung());
      out.println();
    }
    for (Element left : adoption.leftOut()) {
      out.println(NotReadable.leftOut(left, paint));
    }
    NotReadable.sorts(adoption.unseen(), paint).forEach(out::println);
    out.println(
        paint.strong(name)
            + " is on record: "
            + PlanView.count(adoption.objects(), "object")
            + ", and "
            + SafeText.line(adoption.rung())
            + " is marked as in place. Nothing was run there.");
    out.println(
        paint.faint("  next: ")
            + (files.isEmpty()
                ? "ladder status " + name
                : "read the rung, commit it, and adopt the other environments"));
  }

  private void wrote(String file) {
    out.println("  wrote  " + SafeText.line(file));
  }

  private static String thing(Element element) {
    return element.kind().word() + " " + SafeText.line(element.name());
  }

  public void json(AdoptResult adoption) {
    new Json()
        .put("environment", adoption.environment())
        .put("marked", adoption.differences().isEmpty())
        .put("rung", adoption.rung())
        .put("files", adoption.files())
        .put("objects", adoption.objects())
        .put("left_out", adoption.leftOut().stream().map(AdoptView::thing).toList())
        .put("not_readable", adoption.unseen())
        .put("differences", differences.json(adoption.differences()))
        .write(out);
  }
}
