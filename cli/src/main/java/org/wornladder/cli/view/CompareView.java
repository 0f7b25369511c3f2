package org.wornladder.cli.view;

import java.io.PrintStream;
import org.wornladder.ComparisonResult;
import org.wornladder.cli.Terminal;

/** The differences of two structures. */
public final class CompareView {
  private static final String COMMON =
      "two engines: tables, columns, keys and views by name, without types and expressions";

  private final Terminal terminal;
  private final PrintStream out;

  public CompareView(Terminal terminal) {
    this.terminal = terminal;
    out = terminal.out();
  }

  public void show(ComparisonResult comparison) {
    String left = SafeText.line(comparison.left());
    String right = SafeText.line(comparison.right());
    Page page = new Page(terminal);
    page.subject(left, "and " + right, "");
    if (comparison.common()) {
      page.line(page.colors().faint("  " + COMMON));
      page.gap();
    }
    page.lines(
        new DifferenceView(terminal, left, right, "only in " + left, "only in " + right)
            .lines(comparison.differences()));
    page.lines(NotReadable.lines(comparison.hidden(), page.colors()));
    page.verdict(
        comparison.differences().isEmpty()
            ? same(comparison)
            : PlanView.count(comparison.differences().size(), "difference") + ".");
  }

  private static String same(ComparisonResult comparison) {
    return comparison.hidden().isEmpty()
        ? "They are the same."
        : "They are the same, as far as they may be read.";
  }

  public void json(ComparisonResult comparison) {
    new Json()
        .put("left", comparison.left())
        .put("right", comparison.right())
        .put("same", comparison.differences().isEmpty())
        .put("common_subset", comparison.common())
        .put(
            "differences",
            new DifferenceView(terminal, "left", "right", "only_left", "only_right")
                .json(comparison.differences()))
        .put("not_readable", comparison.hidden())
        .write(out);
  }

  public void markdown(ComparisonResult comparison) {
    String left = DifferenceView.cell(comparison.left());
    String right = DifferenceView.cell(comparison.right());
    out.println("## " + left + " and " + right);
    out.println();
    if (comparison.common()) {
      out.println("Compared: " + COMMON + ".");
      out.println();
    }
    if (comparison.differences().isEmpty()) {
      out.println(same(comparison));
    } else {
      new DifferenceView(terminal, left, right, "only in " + left, "only in " + right)
          .markdown(comparison.differences())
          .forEach(out::println);
    }
    if (!comparison.hidden().isEmpty()) {
      out.println();
    }
    NotReadable.markdown(comparison.hidden()).forEach(out::println);
  }
}
