package org.wornladder.cli.view;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.wornladder.ProjectException;
import org.wornladder.RefusedException;
import org.wornladder.RefusedException.Refusal;
import org.wornladder.StatementFailedException;
import org.wornladder.StatementFailedException.Failure;
import org.wornladder.sql.Place;

class TextTest {
  @Test
  void controlCharactersAreShownAndNotObeyed() {
    assertThat(SafeText.line("plain")).isEqualTo("plain");
    assertThat(SafeText.line("a\u001b[31mb\r\n\tc\u0000"))
        .isEqualTo("a\\u001b[31mb\\r\\n\\tc\\u0000");
    assertThat(SafeText.line("x\u202ey\u2066z\u009b")).isEqualTo("x\\u202ey\\u2066z\\u009b");
    assertThat(SafeText.lines("a\r\nb\tc\u0007")).isEqualTo("a\nb\tc\\u0007");
    assertThat(SafeText.line("größe 中文 🍎")).isEqualTo("größe 中文 🍎");
  }

  @ParameterizedTest
  @CsvSource({"abc, 3", "größe, 5", "中文, 4", "e\u0301, 1"})
  void widthsAreThoseOfATerminal(String text, int width) {
    assertThat(SafeText.width(text)).isEqualTo(width);
  }

  @ParameterizedTest
  @CsvSource({"orchards, 8, orchards", "orchards, 5, orch…", "中文字, 4, 中…", "a b c d, 4, a b…"})
  void longTextIsCutWithAnEllipsis(String text, int width, String cut) {
    assertThat(SafeText.cut(text, width, "…")).isEqualTo(cut);
    assertThat(SafeText.width(SafeText.cut(text, width, "…"))).isLessThanOrEqualTo(width);
  }

  @Test
  void columnsLineUpAndAreWrappedOnlyForATerminal() {
    Columns columns =
        new Columns()
            .header("table", "rows", "columns")
            .figures(1)
            .row("bin", "12", "code, weight_kg, orchard")
            .row("orchard", "3", "id")
            .detail("a detail of several words");
    assertThat(columns.lines(2, Screen.plain().terminal()))
        .containsExactly(
            "  table    rows  columns",
            "  bin        12  code, weight_kg, orchard",
            "  orchard     3  id",
            "      a detail of several words");
    assertThat(columns.lines(2, Screen.wide(28).terminal()))
        .containsExactly(
            "  table    rows  columns",
            "  bin        12  code,",
            "                 weight_kg,",
            "                 orchard",
            "  orchard     3  id",
            "      a detail of several",
            "      words");
    assertThat(columns.lines(0, Screen.coloured().terminal()).get(0)).startsWith("\u001b[2m");
  }

  @ParameterizedTest
  @CsvSource({"0, <1 ms", "999, 999 ms", "1000, 1.0 s", "59999, 60.0 s", "130000, 2 min 10 s"})
  void durationsHaveUnits(long milliseconds, String text) {
    assertThat(Durations.text(milliseconds)).isEqualTo(text);
  }

  @Test
  void keywordsAreSetOffOnAColourTerminalAlone() {
    String sql = "SELECT 'select', code -- from\nFROM bin";
    assertThat(SqlText.lines(sql, new Colors(Screen.plain().terminal())))
        .containsExactly("SELECT 'select', code -- from", "FROM bin");
    assertThat(SqlText.lines(sql, new Colors(Screen.coloured().terminal())))
        .containsExactly(
            "\u001b[36mSELECT\u001b[0m 'select', code -- from", "\u001b[36mFROM\u001b[0m bin");
  }

  @Test
  void jsonKeepsItsOrderAndEscapes() {
    Screen screen = Screen.plain();
    new Json()
        .put("b", "quote \" and \u001b")
        .put("a", List.of(new Json().put("n", 7L), new Json().put("t", true)))
        .put("none", Optional.empty())
        .put("some", Optional.of("x"))
        .write(screen.terminal().out());
    assertThat(screen.out())
        .isEqualToIgnoringWhitespace(
            "{ \"b\" : \"quote \\\" and \\u001B\", \"a\" : [ { \"n\" : 7 }, { \"t\" : true } ], \"none\" : null, \"some\" : \"x\" }");
  }

  @Test
  void errorsSayWhatWhereAndNext() {
    Screen screen = Screen.plain();
    ErrorView view = new ErrorView(screen.terminal(), false, false, java.util.Set.of());
    view.show(
        ProjectException.of(new Place("rungs/0001-x.sql", 3, 1), "this is wrong", "mend it"), 2);
    view.show(
        new RefusedException(
            List.of(
                new Refusal("first", "here", "do this; or do that"),
                new Refusal("second", "", ""))),
        3);
    Failure failure =
        new Failure(
            "dev",
            "0002",
            "rungs/0002-y.sql:4:1",
            Optional.of("SELECT\n  1"),
            "no such table: z",
            Optional.empty(),
            "nothing of it",
            1);
    view.show(
        new StatementFailedException(
            failure, org.wornladder.Advice.hint("mend the statement"), null),
        5);
    assertThat(screen.err())
        .isEqualTo(
            """
            ladder: this is wrong
              where  rungs/0001-x.sql:3:1
              next   mend it
            ladder: first
              where  here
              next   do this
              or     do that
            ladder: second
            ladder: 0002 failed on dev: no such table: z
              where  rungs/0002-y.sql:4:1
                     SELECT
                       1
              left   nothing of it
              next   mend the statement
            """);
    assertThat(screen.out()).isEmpty();
  }

  @Test
  void longWaysOnAreBrokenBetweenWordsForATerminal() {
    Screen screen = Screen.wide(40);
    String next = "put the old text back and write the change as a new rung, then apply";
    new ErrorView(screen.terminal(), false, false, java.util.Set.of())
        .show(RefusedException.of("worn", "x", next), 3);
    assertThat(screen.err().lines()).allMatch(line -> line.length() <= 40);
    assertThat(screen.err().replaceAll("\\s+", " ")).contains(next);
  }
}
