package org.wornladder.cli.view;

import java.io.PrintStream;
import java.util.List;
import org.wornladder.cli.Terminal;

/**
 * The parts of which every command's text consists: a subject, headings with rows below them, a
 * verdict, and what to type next. Between two parts there is one empty line.
 */
public final class Page {
  private static final String NEXT = "next  ";

  private final Terminal terminal;
  private final Colors colors;
  private final PrintStream out;
  private boolean begun;
  private boolean gap;

  public Page(Terminal terminal) {
    this.terminal = terminal;
    colors = new Colors(terminal);
    out = terminal.out();
  }

  Colors colors() {
    return colors;
  }

  /**
   * The first line: what it is about.
   *
   * @param environment its name
   * @param database its engine and address; may be empty
   * @param right what is said at the right edge; may be empty
   */
  void subject(String environment, String database, String right) {
    String left = environment + (database.isEmpty() ? "" : "  " + database);
    int room = terminal.width() - SafeText.width(left) - SafeText.width(right);
    String between = terminal.outIsTerminal() && room > 2 ? " ".repeat(room) : "  ";
    line(
        colors.strong(environment)
            + (database.isEmpty() ? "" : "  " + colors.faint(database))
            + (right.isEmpty() ? "" : between + right));
    gap();
  }

  /** A heading at the margin, with a summary behind it. */
  void heading(String title, String summary) {
    line(colors.strong(title) + (summary.isEmpty() ? "" : "  " + summary));
  }

  /** A line of the body, as it is. */
  void line(String text) {
    if (gap && begun) {
      out.println();
    }
    gap = false;
    begun = true;
    out.println(text);
  }

  void lines(List<String> lines) {
    lines.forEach(this::line);
  }

  void rows(Columns columns) {
    lines(columns.lines(2, terminal));
  }

  /** Ends a part: an empty line comes before the next one. */
  void gap() {
    gap = true;
  }

  /** The last sentences: what is true of the database now. Wrapped between words. */
  public void verdict(String text) {
    gap();
    int width = terminal.outIsTerminal() ? terminal.width() : Integer.MAX_VALUE;
    lines(Wrapping.words(text, width));
  }

  /** Commands to type next, one a line; nothing if there are none. */
  public void next(List<String> commands) {
    String label = NEXT;
    for (String command : commands) {
      line(colors.faint(label) + command);
      label = " ".repeat(NEXT.length());
    }
  }

  public void next(String command) {
    next(List.of(command));
  }
}
