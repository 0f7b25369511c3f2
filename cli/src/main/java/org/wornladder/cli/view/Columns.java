package org.wornladder.cli.view;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.OptionalInt;
import java.util.Set;
import java.util.stream.IntStream;
import org.wornladder.cli.Terminal;

/**
 * A table without frames: columns as wide as their longest cell, two blanks between them, words to
 * the left and figures to the right. On a terminal that is too narrow one column is wrapped.
 */
final class Columns {
  private static final String GAP = "  ";
  private static final int NARROWEST = 8;

  private final List<Row> rows = new ArrayList<>();
  private final Set<Integer> figures = new HashSet<>();
  private boolean headed;
  private int detailIndent = 4;
  private OptionalInt flexible = OptionalInt.empty();

  /** Cells, and details that are printed below them. */
  private record Row(List<String> cells, List<String> details) {}

  /** Adds the line that names the columns; the first one. */
  Columns header(String... cells) {
    headed = true;
    return row(cells);
  }

  /** Makes a column one of figures. */
  Columns figures(int column) {
    figures.add(column);
    return this;
  }

  /** Names the column that is wrapped where the terminal is too narrow; otherwise the last. */
  Columns wrapped(int column) {
    flexible = OptionalInt.of(column);
    return this;
  }

  /** Sets how far details are indented beyond the lines; four if not set. */
  Columns detailsAt(int indent) {
    detailIndent = indent;
    return this;
  }

  /** Adds a line of safe cells. */
  Columns row(String... cells) {
    return row(List.of(cells));
  }

  Columns row(List<String> cells) {
    rows.add(new Row(List.copyOf(cells), new ArrayList<>()));
    return this;
  }

  /** Adds a line without columns. */
  Columns line(String text) {
    rows.add(new Row(List.of(), new ArrayList<>(List.of(text))));
    return this;
  }

  /** Adds a detail below the last line, unless it is empty. */
  Columns detail(String text) {
    if (!text.isEmpty()) {
      rows.get(rows.size() - 1).details().add(text);
    }
    return this;
  }

  /** The lines, indented. Nothing is wrapped where no terminal shows them. */
  List<String> lines(int indent, Terminal terminal) {
    Colors colors = new Colors(terminal);
    int columns = rows.stream().mapToInt(row -> row.cells().size()).max().orElse(0);
    int[] widths = IntStream.range(0, columns).map(this::width).toArray();
    int wrapped = flexible.orElse(columns - 1);
    int screen = terminal.outIsTerminal() ? terminal.width() : Integer.MAX_VALUE;
    if (columns > 0) {
      int all = indent + IntStream.of(widths).sum() + GAP.length() * (columns - 1);
      int room = widths[wrapped] - Math.max(0, all - screen);
      widths[wrapped] = Math.min(widths[wrapped], Math.max(NARROWEST, room));
    }
    List<String> lines = new ArrayList<>();
    for (Row row : rows) {
      boolean faint = headed && lines.isEmpty();
      List<String> cells = row.cells().isEmpty() ? List.of() : lines(row.cells(), widths, wrapped);
      for (String line : cells) {
        String text = (" ".repeat(indent) + line).stripTrailing();
        lines.add(faint ? colors.faint(text) : text);
      }
      String margin = " ".repeat(indent + (row.cells().isEmpty() ? 0 : detailIndent));
      for (String detail : row.details()) {
        for (String part : Wrapping.words(detail, screen - margin.length())) {
          lines.add(margin + part);
        }
      }
    }
    return lines;
  }

  private List<String> lines(List<String> cells, int[] widths, int wrapped) {
    List<String> parts =
        wrapped < cells.size() ? Wrapping.words(cells.get(wrapped), widths[wrapped]) : List.of("");
    List<String> lines = new ArrayList<>();
    for (int part = 0; part < parts.size(); part++) {
      List<String> line = new ArrayList<>();
      for (int i = 0; i < cells.size(); i++) {
        String text = i == wrapped ? parts.get(part) : part == 0 ? cells.get(i) : "";
        line.add(
            figures.contains(i)
                ? SafeText.padLeft(text, widths[i])
                : SafeText.pad(text, widths[i]));
      }
      lines.add(String.join(GAP, line));
    }
    return lines;
  }

  private int width(int column) {
    return rows.stream()
        .map(Row::cells)
        .filter(cells -> column < cells.size())
        .mapToInt(cells -> SafeText.width(cells.get(column)))
        .max()
        .orElse(0);
  }
}
