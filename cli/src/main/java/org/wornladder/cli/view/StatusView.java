package org.wornladder.cli.view;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.wornladder.Status;
import org.wornladder.Status.Line;
import org.wornladder.Status.State;
import org.wornladder.cli.Terminal;

/** Draws the ladder, newest rung on top; the drawing of a rung shows its state. */
public final class StatusView {
  /** Rungs in place beyond so many are counted, not drawn, unless all are wanted. */
  private static final int NEWEST_DRAWN = 25;

  /** On a narrower terminal what a rung is counts for more than when it ran. */
  private static final int ROOM_FOR_TIMES = 76;

  private static final int ABOUT = 2;
  private static final int DETAILS = "┣━━━━━┫  0001  ".length();
  private static final int TOOK = 5;
  private static final int MOST_NAMED = 10;

  private static final Map<State, String> DRAWN =
      Map.of(
          State.IN_PLACE, "┣━━━━━┫",
          State.PASSED_OVER, "┠─────┨",
          State.WAITING, "┃     ┃",
          State.LATE, "┃     ┃",
          State.WORN, "┣╍ ╍ ╍┫",
          State.ABSENT, "┣━━━━━┫",
          State.FAILED, "┣━   ━┫",
          State.STUCK, "┣━╸ ╺━┫",
          State.RUNNING, "┣━╸ ╺━┫");
  private static final Map<State, String> PLAIN =
      Map.of(
          State.IN_PLACE, "|=====|",
          State.PASSED_OVER, "|-----|",
          State.WAITING, "|     |",
          State.LATE, "|     |",
          State.WORN, "|- - -|",
          State.ABSENT, "|=====|",
          State.FAILED, "|=   =|",
          State.STUCK, "|==/==|",
          State.RUNNING, "|==/==|");

  private final Terminal terminal;
  private final Page page;
  private final Colors colors;

  public StatusView(Terminal terminal) {
    this.terminal = terminal;
    page = new Page(terminal);
    colors = page.colors();
  }

  /**
   * @param top the label of the highest rung in place
   * @param all whether every rung is drawn; otherwise long runs of old ones in place are counted
   */
  public void show(Status status, String top, boolean all) {
    String there = status.isThere() ? "" : " (not there yet; apply makes it)";
    page.subject(
        SafeText.line(status.environment()),
        status.engine() + " " + SafeText.line(status.address()) + there,
        position(status, top));
    draw(status, all);
    standing(status);
    status
        .running()
        .ifPresent(
            who -> {
              page.gap();
              page.line(colors.strong("running") + "  " + SafeText.line(who));
            });
    page.verdict(verdict(status, top));
    page.next(next(status));
  }

  private static String position(Status status, String top) {
    String at = status.at() == 0 ? "" : "at " + top;
    String waiting = status.waiting() == 0 ? "" : status.waiting() + " waiting";
    return at.isEmpty() || waiting.isEmpty() ? at + waiting : at + ", " + waiting;
  }

  private void draw(Status status, boolean all) {
    List<Line> rungs = status.rungs();
    Columns drawn = new Columns().wrapped(ABOUT).figures(TOOK).detailsAt(DETAILS);
    int inPlace = 0;
    int hidden = 0;
    for (int i = rungs.size() - 1; i >= 0; i--) {
      Line line = rungs.get(i);
      boolean quiet = line.state() == State.IN_PLACE || line.state() == State.PASSED_OVER;
      if (quiet && ++inPlace > NEWEST_DRAWN && !all) {
        hidden++;
      } else {
        hidden(drawn, hidden);
        hidden = 0;
        drawn.row(row(line)).detail(colors.faint(SafeText.line(line.detail())));
      }
    }
    hidden(drawn, hidden);
    page.rows(drawn);
    page.gap();
  }

  private void hidden(Columns drawn, int count) {
    if (count > 0) {
      String rails = colors.sign("┇     ┇", ":     :");
      drawn.line(colors.faint(rails + "  " + count + " more in place, --all shows them"));
    }
  }

  private List<String> row(Line line) {
    String rung = colors.sign(DRAWN.get(line.state()), PLAIN.get(line.state()));
    List<String> cells =
        new ArrayList<>(
            List.of(
                painted(line.state(), rung),
                line.label(),
                SafeText.line(line.about()),
                painted(line.state(), state(line))));
    if (!terminal.outIsTerminal() || terminal.width() >= ROOM_FOR_TIMES) {
      cells.add(line.at().map(at -> at.substring(0, 10) + " " + at.substring(11, 16)).orElse(""));
      cells.add(line.at().isPresent() ? Durations.text(line.elapsedMs()) : "");
    }
    return cells;
  }

  private static String state(Line line) {
    String word = line.state() == State.ABSENT ? "absent" : line.state().label();
    return word + (line.oneWay() && line.state() != State.PASSED_OVER ? ", one-way" : "");
  }

  private String painted(State state, String text) {
    return switch (state) {
      case IN_PLACE -> colors.good(text);
      case PASSED_OVER, WAITING, RUNNING -> text;
      case LATE, WORN, ABSENT -> colors.warning(text);
      case FAILED, STUCK -> colors.bad(text);
    };
  }

  private void standing(Status status) {
    Columns scripts = new Columns();
    for (Status.Standing script : status.standing()) {
      String state = script.state();
      scripts.row(
          colors.faint("standing"),
          SafeText.line(script.name()),
          state.equals("in place") ? colors.good(state) : colors.warning(state),
          script.about().equals(script.name()) ? "" : SafeText.line(script.about()));
    }
    page.rows(scripts);
  }

  private static String verdict(Status status, String top) {
    String name = status.environment();
    if (status.rungs().isEmpty()) {
      return "There is no rung yet (a rung is one versioned migration).";
    }
    String at = status.at() == 0 ? name + " has no rung in place." : name + " is at " + top + ".";
    String waiting =
        switch ((int) Math.min(2, status.waiting())) {
          case 0 -> standingWaits(status) ? " Standing scripts wait." : " Nothing waits.";
          case 1 -> " 1 rung waits.";
          default -> " " + status.waiting() + " rungs wait.";
        };
    return at + waiting + needing(status.needingPerson());
  }

  private static boolean standingWaits(Status status) {
    return status.standing().stream().anyMatch(script -> !script.state().equals("in place"));
  }

  private static String needing(List<Line> lines) {
    if (lines.isEmpty()) {
      return "";
    }
    String labels = String.join(", ", lines.stream().map(Line::label).limit(MOST_NAMED).toList());
    String more = lines.size() > MOST_NAMED ? " and " + (lines.size() - MOST_NAMED) + " more" : "";
    return " " + labels + more + (lines.size() == 1 ? " needs you." : " need you.");
  }

  private static List<String> next(Status status) {
    String name = status.environment();
    if (status.rungs().isEmpty()) {
      return List.of("ladder new WORDS");
    }
    Set<String> guarded = Commands.guarded(name, status.guarded());
    if (!status.needingPerson().isEmpty()) {
      boolean allStuck = status.needingPerson().stream().allMatch(line -> line.next().isPresent());
      return allStuck
          ? status.needingPerson().stream()
              .map(line -> AdviceText.of(line.next().orElseThrow(), guarded))
              .toList()
          : List.of("ladder check --against " + name);
    }
    return status.running().isPresent() || status.waiting() == 0 && !standingWaits(status)
        ? List.of()
        : List.of(Commands.confirmed("ladder apply " + name, guarded));
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
        .put("running", status.running())
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
        .write(terminal.out());
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
