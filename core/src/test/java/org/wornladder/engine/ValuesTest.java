package org.wornladder.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import org.assertj.core.api.ThrowableAssert.ThrowingCallable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Values as files write them. */
class ValuesTest {
  private static void good(ThrowingCallable check) {
    assertThatCode(check).doesNotThrowAnyException();
  }

  private static void bad(ThrowingCallable check) {
    assertThatThrownBy(check).isInstanceOf(BadValueException.class);
  }

  @ParameterizedTest
  @ValueSource(strings = {"2026-01-31", "2024-02-29", "0001-12-01", "9999-12-31"})
  void days(String text) {
    good(() -> Values.checkDate(text));
    good(() -> Values.checkMoment(text));
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "2026-02-29",
        "2026-13-01",
        "2026-00-10",
        "2026-04-31",
        "2026-1-05",
        "20260105",
        "",
        "soon",
        "2026-01-05 ",
        "2026/01/05",
        "2026-01-0x"
      })
  void noDays(String text) {
    bad(() -> Values.checkDate(text));
  }

  @ParameterizedTest
  @CsvSource({
    "2026-08-31T06:30:00Z, 2026-08-31 06:30",
    "2026-08-31 06:30:15.250, 2026-08-31 06:30:15.250",
    "2026-08-31T06:30:15.250+02:00, 2026-08-31 04:30:15.250",
    "2026-08-31T00:30:00+02:00, 2026-08-30 22:30",
    "2026-12-31T23:30:00-0100, 2027-01-01 00:30",
    "2026-08-31T06:30, 2026-08-31 06:30",
    "2026-08-31, 2026-08-31"
  })
  void momentsInOneZone(String text, String expected) throws BadValueException {
    assertThat(Values.withoutZone(text)).isEqualTo(expected);
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "2026-08-31T24:00:00Z", "2026-08-31T06:60Z", "2026-08-31X06:30", "2026-02-30T06:30:00Z",
        "2026-08-31T06:30:00+2:00", "2026-08-31T", "06:30:00", "2026-08-31T06:30:00Zz"
      })
  void noMoments(String text) {
    bad(() -> Values.checkMoment(text));
    bad(() -> Values.withoutZone(text));
  }

  @ParameterizedTest
  @ValueSource(strings = {"0", "-1", "+7", "1.5", ".5", "5.", "-0.25", "1e10", "1.5E-3", "007"})
  void numbers(String text) {
    good(() -> Values.checkNumber(text));
  }

  @ParameterizedTest
  @ValueSource(strings = {"", "-", ".", "1,5", "1.2.3", "0x10", "NaN", "1e", "e5", "1 000", "１"})
  void noNumbers(String text) {
    bad(() -> Values.checkNumber(text));
    bad(() -> Values.checkWhole(text));
  }

  @Test
  void wholeNumbersOf64Bits() throws BadValueException {
    assertThat(Values.whole("9223372036854775807")).isEqualTo(Long.MAX_VALUE);
    assertThat(Values.whole("-9223372036854775808")).isEqualTo(Long.MIN_VALUE);
    bad(() -> Values.whole("9223372036854775808"));
    bad(() -> Values.whole("1.0"));
  }

  @Test
  void truth() throws BadValueException {
    for (String text : new String[] {"true", "TRUE", "t", "1"}) {
      assertThat(Values.truth(text)).isTrue();
    }
    for (String text : new String[] {"false", "False", "0", "f"}) {
      assertThat(Values.truth(text)).isFalse();
    }
    bad(() -> Values.truth(""));
    bad(() -> Values.truth("2"));
    bad(() -> Values.truth("yes"));
  }

  @Test
  void bytes() throws BadValueException {
    byte[] all = new byte[256];
    for (int i = 0; i < all.length; i++) {
      all[i] = (byte) i;
    }
    assertThat(Values.bytes(Values.base64(all))).isEqualTo(all);
    assertThat(Values.bytes("base64:")).isEmpty();
    assertThat(Values.bytes("base64:AAEC\n AwQ=")).containsExactly(0, 1, 2, 3, 4);
    bad(() -> Values.bytes("AAEC"));
    bad(() -> Values.bytes("base64:!!"));
  }

  @ParameterizedTest
  @CsvSource({"1, 1", "10, 1", "1.50, 2", "123456789012345.6, 16", "0.00012, 2", "-12.3, 3"})
  void digitsThatCount(String number, int digits) {
    assertThat(Values.digits(number)).isEqualTo(digits);
  }

  @Test
  void lists() throws BadValueException {
    assertThat(JsonLists.read("[\"a\", null, 7, [true]]").toString())
        .isEqualTo("[a, null, 7, [true]]");
    assertThat(JsonLists.write("a\"b", null, 7, new Object[] {true}))
        .isEqualTo("[\"a\\\"b\",null,7,[true]]");
    for (String text : new String[] {"", "a", "{}", "[{}]", "[", "7"}) {
      bad(() -> JsonLists.read(text));
    }
  }

  @ParameterizedTest
  @CsvSource({
    "2026-08-31T06:30:00Z, 2026-08-31 06:30:00",
    "2026-08-31 06:30:00+00, 2026-08-31 06:30:00",
    "2026-08-31T06:30:00.500+00:00, 2026-08-31 06:30:00.5",
    "2026-08-31 06:30:00.000000, 2026-08-31 06:30:00",
    "2026-08-31T06:30, 2026-08-31 06:30:00",
    "2026-08-31, 2026-08-31 00:00:00",
    "2026-08-31T06:30:00+02:00, 2026-08-31 06:30:00+02:00",
    "06:30, 06:30:00",
    "06:30:10.50, 06:30:10.5",
    "infinity, infinity",
    "12345678901, 12345678901",
    "'', ''"
  })
  void timesInUtcHaveOneText(String text, String canonical) {
    assertThat(Values.canonicalTime(text)).isEqualTo(canonical);
  }
}
