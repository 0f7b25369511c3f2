package org.wornladder.cli.view;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.wornladder.Status;
import org.wornladder.Status.Line;
import org.wornladder.Status.State;

class StatusViewTest {
  private static Line line(long number, State state, String about) {
    Optional<String> at =
        state.waits() ? Optional.empty() : Optional.of("2026-11-23T07:14:38.042Z");
    return new Line(
        number, "%04d".formatted(number), about, state, "", at, 12, false, Optional.empty());
  }

  private static Status status(List<Line> lines) {
    List<Status.Standing> standing =
        List.of(new Status.Standing("stock", "Bins in store", "changed"));
    return new Status(
        "hollowfield",
        "live",
        "sqlite",
        "live.db",
        true,
        true,
        lines,
        standing,
        2,
        Optional.empty());
  }

  private static String drawn(Screen screen, Status status) {
    new StatusView(screen.terminal()).show(status, "0002", false);
    return screen.out();
  }

  @ParameterizedTest
  @EnumSource(State.class)
  void everyStateIsDrawnAndSaidInAWord(State state) {
    Status status = status(List.of(line(1, state, "Orchards")));
    String word = state == State.ABSENT ? "absent" : state.label();
    String unicode = drawn(Screen.wide(100), status);
    assertThat(unicode).contains(word).containsPattern("[┣┠┃].{5}[┫┨┃]");
    String plain = drawn(Screen.plain(), status);
    assertThat(plain).contains(word).containsPattern("\\|.{5}\\|");
    assertThat(plain.chars()).allMatch(c -> c < 128);
    assertThat(drawn(Screen.coloured(), status).replaceAll("\u001b\\[\\d+m", ""))
        .isEqualTo(unicode);
  }

  @ParameterizedTest
  @ValueSource(ints = {44, 60, 80, 100, 140})
  void theLadderFitsTheTerminal(int width) {
    List<Line> lines = new ArrayList<>();
    lines.add(line(1, State.IN_PLACE, "A short one"));
    lines.add(
        line(
            2,
            State.PASSED_OVER,
            "A long one about cold rooms, their doors, 中文 and what is kept ".repeat(3)));
    lines.add(
        new Line(
            3,
            "0003",
            "Bins",
            State.STUCK,
            "on its way up, statement 12 in doubt",
            Optional.of("2026-11-23T07:14:38.042Z"),
            99_000,
            true,
            Optional.empty()));
    String out = drawn(Screen.wide(width), status(lines));
    List<String> ladder = out.lines().filter(row -> row.startsWith("  ")).toList();
    assertThat(ladder).hasSizeGreaterThan(3).allMatch(row -> SafeText.width(row) <= width);
    assertThat(ladder.get(0)).contains("0003", "Bins", "stuck");
    // Nothing is cut: what does not fit is wrapped.
    assertThat(out.replaceAll("[^\\p{L}]+", " "))
        .contains("statement in doubt", "A long one about");
  }

  @Test
  void theNewestStandsOnTopAndOldOnesInPlaceAreCounted() {
    List<Line> lines = new ArrayList<>();
    for (int i = 1; i <= 60; i++) {
      lines.add(line(i, i == 3 ? State.WORN : i > 58 ? State.WAITING : State.IN_PLACE, "Change"));
    }
    String out = drawn(Screen.wide(100), status(lines));
    assertThat(out.indexOf("0060")).isLessThan(out.indexOf("0059"));
    assertThat(out)
        .contains("0003  Change  worn", "2 more in place, --all shows them")
        .doesNotContain("0004");
    assertThat(out).contains("2 rungs wait. 0003 needs you.", "next  ladder check --against live");
  }

  @Test
  void anEmptyLadderSaysWhatToDo() {
    Status empty =
        new Status(
            "hollowfield",
            "dev",
            "sqlite",
            "dev.db",
            false,
            false,
            List.of(),
            List.of(),
            0,
            Optional.empty());
    assertThat(drawn(Screen.plain(), empty))
        .contains(
            "There is no rung yet (a rung is one versioned migration)",
            "not there yet",
            "next  ladder new WORDS");
  }

  @Test
  void standingScriptsStandBelow() {
    assertThat(drawn(Screen.plain(), status(List.of(line(1, State.IN_PLACE, "x")))))
        .contains("standing  stock  changed  Bins in store");
  }
}
