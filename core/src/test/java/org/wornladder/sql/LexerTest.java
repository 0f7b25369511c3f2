package org.wornladder.sql;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class LexerTest {
  private static final List<String> PIECES =
      List.of(
          "SELECT",
          " ",
          "\r\n",
          "\uFEFF",
          "'it''s'",
          "E'a\\'b'",
          "\"n\"",
          "`n`",
          "[n]",
          "$$x;$$",
          "$t$y$t$",
          "-- c\n",
          "--\n",
          "# c\n",
          "/* c */",
          "/*! c */",
          "/*+ h */",
          ";",
          ";;",
          "1.5e-3",
          "0xFF",
          "1..2",
          "a$b",
          "é",
          "<=",
          "->>",
          "::",
          "||",
          "=-1",
          "(",
          ")",
          "DELIMITER //\n",
          "//",
          "BEGIN",
          "END",
          "COPY a FROM stdin;\n1\n\\.\n",
          ".5",
          "@x",
          "?",
          "\t",
          "//c\n",
          "\u4e2d");

  /**
   * Joined, the tokens are the text: for ten thousand texts made of odd pieces, in every dialect.
   */
  @Test
  void tokensLeaveNothingOut() {
    Random random = new Random(2026);
    int read = 0;
    for (int i = 0; i < 10_000; i++) {
      StringBuilder text = new StringBuilder();
      for (int j = random.nextInt(12); j >= 0; j--) {
        text.append(PIECES.get(random.nextInt(PIECES.size())));
      }
      for (Dialect dialect : Dialects.ALL) {
        read += isWholeOrUnended(text.toString(), dialect);
      }
    }
    assertThat(read).isGreaterThan(20_000);
  }

  private static int isWholeOrUnended(String text, Dialect dialect) {
    try {
      assertThat(joined(text, dialect)).isEqualTo(text);
      return 1;
    } catch (SqlTextException e) {
      assertThat(e.offset()).isBetween(0, text.length());
      return 0;
    }
  }

  private static String joined(String text, Dialect dialect) {
    StringBuilder joined = new StringBuilder();
    int end = 0;
    for (Token token : Lexer.tokens(text, dialect)) {
      assertThat(token.start()).isEqualTo(end);
      assertThat(token.end()).isGreaterThan(token.start());
      end = token.end();
      joined.append(token.in(text));
    }
    return joined.toString();
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '~',
      value = {
        "sqlite|a=-1|WORD MARK MARK NUMBER",
        "postgres|a<->b|WORD MARK WORD",
        "postgres|U&'x' UESCAPE|STRING BLANK WORD",
        "mariadb|/*!50100 x */|LIVE_COMMENT",
        "mariadb|5--6|NUMBER MARK MARK NUMBER",
        "sqlite|5--6|NUMBER LINE_COMMENT",
        "mariadb|\"a\\\"b\"|QUOTED_NAME",
        "h2|1//c|NUMBER LINE_COMMENT",
        "sqlite|x'ab'|STRING",
        "postgres|$1|MARK NUMBER"
      })
  void kinds(String dialect, String text, String kinds) {
    List<Token> tokens = Lexer.tokens(text, Dialects.named(dialect).orElseThrow());
    assertThat(String.join(" ", tokens.stream().map(token -> token.kind().name()).toList()))
        .isEqualTo(kinds);
  }

  @Test
  void twoPointsAreARangeAndNoPartOfANumber() {
    assertThat(Lexer.tokens("1..3", Dialects.MARIADB).get(0).in("1..3")).isEqualTo("1");
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "SELECT 1;",
        "SELECT   1",
        "SELECT 1 -- one",
        "-- first\nSELECT\n\n1;;",
        "\uFEFFSELECT 1;\r\n"
      })
  void layoutAndCommentsDoNotCount(String text) {
    assertThat(of(text)).isEqualTo(of("SELECT 1"));
  }

  @ParameterizedTest
  @ValueSource(
      strings = {"select 1", "SELECT 2", "SELECT '1'", "SELECT 1; SELECT 1", "SELECT /*+ x */ 1"})
  void meaningCounts(String text) {
    assertThat(of(text)).isNotEqualTo(of("SELECT 1"));
  }

  @Test
  void lineEndsInStringsCountAsOne() {
    assertThat(of("SELECT 'a\r\nb'")).isEqualTo(of("SELECT 'a\nb'"));
    assertThat(of("SELECT 'a  b'")).isNotEqualTo(of("SELECT 'a b'"));
  }

  @Test
  void textThatCannotBeReadCountsAsItStands() {
    assertThat(of("SELECT 'it\\'s'")).isNotEqualTo(of("SELECT  'it\\'s'"));
  }

  private static String of(String text) {
    return new Fingerprint().script(text, Dialects.NEUTRAL).hex();
  }
}
