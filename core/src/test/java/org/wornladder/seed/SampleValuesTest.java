package org.wornladder.seed;

import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.time.Duration;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.wornladder.project.Sample.Maker;

/** How made-up values are spread. */
class SampleValuesTest {
  private static final int MANY = 20_000;

  private static List<String> many(Maker maker) {
    Random random = new Random(2026);
    List<String> values = new ArrayList<>();
    for (int i = 1; i <= MANY; i++) {
      values.add(SampleValues.of(maker, random, i, made -> ""));
    }
    return values;
  }

  private static Map<String, Long> counted(Maker maker) {
    return many(maker).stream()
        .collect(Collectors.groupingBy(value -> value, TreeMap::new, Collectors.counting()));
  }

  private static Maker between(String low, String high, int decimals, boolean normal) {
    return new Maker.Between(new BigDecimal(low), new BigDecimal(high), decimals, normal);
  }

  @Test
  void anEvenRangeHasBothEndsAndNoFavourites() {
    Map<String, Long> counts = counted(between("-2", "2", 0, false));
    assertThat(counts.keySet()).containsExactlyInAnyOrder("-2", "-1", "0", "1", "2");
    assertThat(counts.values())
        .allSatisfy(count -> assertThat(count).isBetween(MANY / 5L - 400, MANY / 5L + 400));
  }

  @Test
  void aNormalOneHasItsMiddle() {
    List<Double> values =
        many(between("100", "200", 1, true)).stream().map(Double::valueOf).toList();
    assertThat(values).allSatisfy(value -> assertThat(value).isBetween(100.0, 200.0));
    double mean = values.stream().mapToDouble(Double::doubleValue).average().orElseThrow();
    assertThat(mean).isBetween(148.0, 152.0);
    long near = values.stream().filter(value -> Math.abs(value - 150) < 100 / 6.0).count();
    assertThat(near / (double) MANY).isBetween(0.66, 0.70);
  }

  @Test
  void decimalsAreAsManyAsAsked() {
    assertThat(many(between("0", "1", 3, false))).allMatch(value -> value.matches("[01]\\.\\d{3}"));
    assertThat(counted(between("5", "5", 2, true)).keySet()).containsExactly("5.00");
  }

  @Test
  void weightsAreProportions() {
    Map<String, Long> counts =
        counted(new Maker.OneOf(List.of("apple", "pear", "quince"), List.of(7, 3, 0)));
    assertThat(counts.keySet()).containsExactlyInAnyOrder("apple", "pear");
    assertThat(counts.get("apple") / (double) MANY).isBetween(0.68, 0.72);
  }

  @Test
  void patternsAndDays() {
    assertThat(many(new Maker.Pattern("B-##?"))).allMatch(value -> value.matches("B-\\d\\d[A-Z]"));
    LocalDate first = LocalDate.of(2026, 2, 27);
    assertThat(counted(new Maker.Days(first, first.plusDays(2))).keySet())
        .containsExactlyInAnyOrder("2026-02-27", "2026-02-28", "2026-03-01");
  }

  @Test
  void whatFollowsEachOther() {
    Maker times = new Maker.Times(LocalDateTime.of(2026, 8, 1, 23, 50), Duration.ofMinutes(15));
    assertThat(many(times).subList(0, 3))
        .containsExactly("2026-08-01T23:50:00Z", "2026-08-02T00:05:00Z", "2026-08-02T00:20:00Z");
    assertThat(counted(new Maker.Value("x")).keySet()).containsExactly("x");
  }
}
