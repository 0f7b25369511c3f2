package org.wornladder.cli.view;

import java.util.ArrayList;
import java.util.List;
import org.wornladder.cli.Terminal;

/** Lines in columns: as wide as their longest cell, the last one cut to the terminal. */
final class Grid {
  private static final String GAP = "  ";

  private final List<List<String>> rows = new ArrayList<>();
  private boolean headed;
  private final List<Integer> widths = new ArrayList<>();

  /** Adds a line of cleaned cells. */
  Grid row(String... cells) {
    return row(List.of(cells));
  }

  /** Adds the line that names the columns; the first one. */
  Grid header(List<String> cells) {
    headed = true;
    return row(cells);
  }

  Grid row(List<String> cells) {
    rows.add(cells);
    for (int i = 0; i < cells.size(); i++) {
      int width = SafeText.width(cells.get(i));
      if (i < widths.size()) {
        widths.set(i, Math.max(widths.get(i), width));
      } else {
        widths.add(width);
      }
    }
    return this;
  }

  /** The lines, indented; cut to a terminal, whole where nobody looks at one. */
  List<String> lines(String indent, Terminal terminal) {
    Colors paint = new Colors(terminal);
    String ellipsis = paint.ellipsis();
    int width = terminal.outIsTerminal() ? terminal.width() : Integer.MAX_VALUE;
    List<String> lines = new ArrayList<>();
    for (List<String> row : rows) {
      StringBuilder line = new StringBuilder(indent);
      for (int i = 0; i < row.size(); i++) {
        boolean last = i == row.size() - 1;
        line.append(last ? row.get(i) : SafeText.pad(row.get(i), widths.get(i)) + GAP);
      }
      String cut = SafeText.cut(line.toString().stripTrailing(), width, ellipsis);
      lines.add(headed && lines.isEmpty() ? paint.faint(cut) : cut);
    }
    return lines;
  }
}
