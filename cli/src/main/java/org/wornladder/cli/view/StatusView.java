package org.wornladder.cli.view;

import java.io.PrintStream;
import java.util.List;
import java.util.Map;
import org.wornladder.Status;
import org.wornladder.Status.Line;
import org.wornladder.Status.State;
import org.wornladder.cli.Terminal;

/** Draws the ladder, newest rung on top; the drawing of a rung shows its state. */
public final class StatusView {
  /** Rungs in place beyond so many are counted, not drawn, unless all are wanted. */
  private static final int NEWEST_DRAWN = 25;

  private static final int MARGIN = 2;
  private static final int RUNG = 7;
  private static final int END = 26;
  private static final int LEAST = 8;
  private static final int NARROW = 76;
  private static final int MOST_STATE = 36;
  private static final String GAP = "  ";

  private static final Map<State, String> DRAWN =
      Map.of(
          State.IN_PLACE, "┣━━━━━┫",
          State.PASSED_OVER, "┠─────┨",
          State.WAITING, "┃     ┃",
          State.LATE, "┃     ┃",
          State.WORN, "┣╍ ╍ ╍┫",
          State.ABSENT, "┣━━━━━┫",
          State.FAILED, "┣━   ━┫",
          State.STUCK, "┣━╸ ╺━┫");
  private static final Map<State, String> PLAIN =
      Map.of(
          State.IN_PLACE, "|=====|",
          State.PASSED_OVER, "|-----|",
          State.WAITING, "|     |",
          State.LATE, "|     |",
          State.WORN, "|- - -|",
          State.ABSENT, "|=====|",
          State.FAILED, "|=   =|",
          State.STUCK, "|==/==|");

  private final Terminal terminal;
  private final Colors paint;
  private final PrintStream out;

  public StatusView(Terminal terminal) {
    this.terminal = terminal;
    this.paint = new Colors(terminal);
    this.out = terminal.out();
  }

  /**
   * @param all whether every rung is drawn; otherwise long runs of old ones in place are counted
   */
  public void show(Status status, String projectLabelOfTop, boolean all) {
    String there = status.isThere() ? "" : " (not there yet; apply makes it)";
    out.println(
        paint.strong(SafeText.line(status.project()) + " on " + status.environment())
            + paint.faint("  " + status.engine() + " " + SafeText.line(status.address()) + there));
    out.println();
    if (status.rungs().isEmpty()) {
      out.println("  No rung yet (a rung is one versioned migration). Next: ladder new WORDS");
    } else {
      draw(status, all);
    }
    standing(status);
    out.println();
    summary(status, projectLabelOfTop);
  }

  private void draw(Status status, boolean all) {
    List<Line> rungs = status.rungs();
    Widths widths = widths(rungs);
    int inPlace = 0;
    int hidden = 0;
    for (int i = rungs.size() - 1; i >= 0; i--) {
      Line line = rungs.get(i);
      boolean quiet = line.state() == State.IN_PLACE || line.state() == State.PASSED_OVER;
      if (quiet && ++inPlace > NEWEST_DRAWN && !all) {
        hidden++;
        continue;
      }
      hidden(hidden);
      hidden = 0;
      out.println(line(line, widths));
    }
    hidden(hidden);
  }

  private void hidden(int count) {
    if (count > 0) {
      String rails = paint.sign("┇     ┇", ":     :");
      String words = count + (count == 1 ? " more in place" : " more in place; --all draws them");
      out.println("  " + paint.faint(rails + "  " + words));
    }
  }

  /** How wide the columns are that differ from ladder to ladder. */
  private record Widths(int label, int about, int state, boolean times) {}

  private Widths widths(List<Line> rungs) {
    int label = 4;
    int about = LEAST;
    int state = LEAST;
    boolean ran = false;
    for (Line line : rungs) {
      label = Math.max(label, line.label().length());
      about = Math.max(about, SafeText.width(SafeText.line(line.about())));
      state = Math.max(state, SafeText.width(state(line)));
      ran |= line.at().isPresent();
    }
    if (!terminal.outIsTerminal()) {
      return new Widths(label, about, state, true);
    }
    int fixed = MARGIN + RUNG + GAP.length() + label + GAP.length() + GAP.length();
    // On a narrow terminal what a rung is counts for more than when it ran.
    boolean times = ran && terminal.width() >= NARROW;
    int room = terminal.width() - fixed - (times ? END + GAP.length() : 0);
    int words = Math.min(about, Math.max(LEAST, room - Math.min(state, MOST_STATE)));
    return new Widths(label, words, Math.max(LEAST, Math.min(state, room - words)), times);
  }

  private String line(Line line, Widths widths) {
    String rung = paint.sign(DRAWN.get(line.state()), PLAIN.get(line.state()));
    String about = SafeText.cut(SafeText.line(line.about()), widths.about(), paint.ellipsis());
    String state = SafeText.cut(state(line), widths.state(), paint.ellipsis());
    String end = widths.times() ? end(line) : "";
    String text =
        " ".repeat(MARGIN)
            + painted(line.state(), rung)
            + GAP
            + SafeText.pad(line.label(), widths.label())
            + GAP
            + SafeText.pad(about, widths.about())
            + GAP
            + painted(line.state(), end.isEmpty() ? state : SafeText.pad(state, widths.state()))
            + (end.isEmpty() ? "" : GAP + paint.faint(end));
    return text.stripTrailing();
  }

  private static String state(Line line) {
    String detail = line.detail().isEmpty() ? "" : ": " + line.detail();
    String word = line.state() == State.ABSENT ? "absent" : line.state().word();
    String way = line.oneWay() && line.state() != State.PASSED_OVER ? ", one-way" : "";
    return SafeText.line(word + way + detail);
  }

  /** When it ran and how long it took: the parts that are the same width on every line. */
  private static String end(Line line) {
    return line.at()
        .map(at -> at.substring(0, 10) + " " + at.substring(11, 16) + duration(line.elapsedMs()))
        .orElse("");
  }

  private static String duration(long milliseconds) {
    String text = milliseconds < 10_000 ? milliseconds + " ms" : milliseconds / 1000 + " s";
    return " ".repeat(Math.max(1, 10 - text.length())) + text;
  }

  private String painted(State state, String text) {
    return switch (state) {
      case IN_PLACE -> paint.good(text);
      case PASSED_OVER, WAITING -> text;
      case LATE, WORN, ABSENT -> paint.warning(text);
      case FAILED, STUCK -> paint.bad(text);
    };
  }

  private void standing(Status status) {
    for (Status.Standing script : status.standing()) {
      String state = script.state();
      String painted = state.equals("in place") ? paint.good(state) : paint.warning(state);
      String about =
          script.about().equals(script.name()) ? "" : "  " + SafeText.line(script.about());
      out.println(
          "  "
              + paint.faint("standing")
              + " "
              + SafeText.line(script.name())
              + "  "
              + painted
              + paint.faint(about));
    }
  }

  private void summary(Status status, String top) {
    String name = status.environment();
    String at = status.at() == 0 ? name + " has no rung in place." : name + " is at " + top + ".";
    String waiting =
        switch ((int) Math.min(2, status.waiting())) {
          case 0 -> " Nothing waits.";
          case 1 -> " 1 rung waits: ladder apply " + name;
          default -> " " + status.waiting() + " rungs wait: ladder apply " + name;
        };
    out.println(at + waiting);
    List<Line> needing = status.needingPerson();
    if (!needing.isEmpty()) {
      String labels = String.join(", ", needing.stream().map(Line::label).limit(10).toList());
      out.println(
          paint.warning(
              "Needs you: " + labels + ". ladder check --against " + name + " says why."));
    }
  }

  public void json(Status status) {
    new Json()
        .put("project", status.project())
        .put("environment", status.environment())
        .put("engine", status.engine())
        .put("database", status.address())
        .put("database_exists", status.isThere())
        .put("at", status.at())
        .put("waiting", status.waiting())
        .put("rungs", status.rungs().stream().map(StatusView::json).toList())
        .put(
            "standing",
            status.standing().stream()
                .map(
                    script ->
                        new Json()
                            .put("name", script.name())
                            .put("about", script.about())
                            .put("state", script.state().replace(' ', '_')))
                .toList())
        .write(out);
  }

  private static Json json(Line line) {
    return new Json()
        .put("number", line.number())
        .put("about", line.about())
        .put("state", line.state().name().toLowerCase(java.util.Locale.ROOT))
        .put("detail", line.detail())
        .put("at", line.at())
        .put("elapsed_ms", line.elapsedMs())
        .put("one_way", line.oneWay());
  }
}
