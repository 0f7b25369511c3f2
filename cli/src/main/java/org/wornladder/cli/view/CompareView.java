package org.wornladder.cli.view;

import java.io.PrintStream;
import org.wornladder.ComparisonResult;
import org.wornladder.cli.Terminal;

/** Two structures beside each other. */
public final class CompareView {
  private static final String COMMON =
      "two engines: tables, columns, keys and views by name, without types and expressions";

  private final Terminal terminal;
  private final Colors paint;
  private final PrintStream out;

  public CompareView(Terminal terminal) {
    this.terminal = terminal;
    paint = new Colors(terminal);
    out = terminal.out();
  }

  public void show(ComparisonResult comparison) {
    String left = SafeText.line(comparison.left());
    String right = SafeText.line(comparison.right());
    out.println(paint.strong(left) + "  beside  " + paint.strong(right));
    if (comparison.common()) {
      out.println(paint.faint("  " + COMMON));
    }
    out.println();
    new DifferenceView(terminal, left, right, "only in " + left, "only in " + right)
        .lines(comparison.differences())
        .forEach(out::println);
    NotReadable.lines(comparison.hidden(), paint).forEach(out::println);
    out.println(comparison.differences().isEmpty() ? same(comparison) : count(comparison));
  }

  private static String same(ComparisonResult comparison) {
    return comparison.hidden().isEmpty()
        ? "They are the same."
        : "They are the same, as far as they may be read.";
  }

  private static String count(ComparisonResult comparison) {
    return "\n" + PlanView.count(comparison.differences().size(), "difference") + ".";
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
    out.println("## " + left + " beside " + right);
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
