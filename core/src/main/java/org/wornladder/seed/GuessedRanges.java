package org.wornladder.seed;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.wornladder.project.Sample.Maker;

/** Ranges of numbers, days and times that a column's constraints allow. */
final class GuessedRanges {
  static final BigDecimal THOUSAND = BigDecimal.valueOf(1000);

  private static final Pattern SIZE = Pattern.compile("\\((\\d+)(?:,\\s*(\\d+))?\\)");
  private static final LocalDate FIRST_DAY = LocalDate.of(2026, 1, 1);

  private GuessedRanges() {}

  /** Numbers of a rule's range; without one from 0 to a number that is not too large. */
  static Maker number(CheckRules.Rule rule, BigDecimal most, int decimals) {
    BigDecimal width = most;
    Optional<BigDecimal> high = rule.highest(decimals);
    BigDecimal low =
        rule.lowest(decimals)
            .orElseGet(
                () ->
                    high.filter(end -> end.signum() < 0)
                        .map(end -> end.subtract(width))
                        .orElse(
                            rule.isExcluded(BigDecimal.ZERO) ? BigDecimal.ONE : BigDecimal.ZERO));
    BigDecimal end = high.orElse(low.add(low.signum() == 0 ? most : most.max(low)));
    boolean isLimited =
        rule.low().isEmpty() && high.filter(one -> one.compareTo(most) > 0).isPresent();
    return new Maker.Between(low, isLimited ? most : end, decimals, false);
  }

  static Maker decimal(String type, CheckRules.Rule rule) {
    Matcher size = SIZE.matcher(type);
    if (!size.find()) {
      return number(rule, THOUSAND, 2);
    }
    int decimals = Optional.ofNullable(size.group(2)).map(Integer::parseInt).orElse(0);
    int whole = Math.min(3, Integer.parseInt(size.group(1)) - decimals);
    BigDecimal high = BigDecimal.TEN.pow(Math.max(0, whole)).subtract(BigDecimal.ONE);
    BigDecimal low = rule.lowest(decimals).orElse(BigDecimal.ZERO);
    boolean isWithin = low.compareTo(high) < 0 && rule.low().isPresent() && rule.high().isEmpty();
    if (isWithin) {
      return new Maker.Between(low, high, Math.min(18, decimals), false);
    }
    Maker.Between made = (Maker.Between) number(rule, high, Math.min(18, decimals));
    return new Maker.Between(
        made.low().setScale(decimals, RoundingMode.CEILING), made.high(), made.decimals(), false);
  }

  static Maker days(CheckRules.Rule rule) {
    Optional<LocalDate> low = rule.low().flatMap(GuessedRanges::day).map(day -> day.plusDays(1));
    Optional<LocalDate> high = rule.high().flatMap(GuessedRanges::day).map(day -> day.minusDays(1));
    LocalDate first = low.orElse(high.map(day -> day.minusYears(1)).orElse(FIRST_DAY));
    return new Maker.Days(first, high.orElse(first.plusDays(364)));
  }

  static Maker times(CheckRules.Rule rule) {
    LocalDate low =
        rule.low()
            .flatMap(GuessedRanges::day)
            .map(day -> day.plusDays(1))
            .or(() -> rule.high().flatMap(GuessedRanges::day).map(day -> day.minusYears(1)))
            .orElse(FIRST_DAY);
    return new Maker.Times(low.atTime(6, 0), Duration.ofMinutes(15));
  }

  private static Optional<LocalDate> day(String text) {
    try {
      return Optional.of(LocalDate.parse(text.substring(0, Math.min(10, text.length()))));
    } catch (DateTimeException e) {
      return Optional.empty();
    }
  }

  static Maker timeOfDay() {
    return new Maker.TimeOfDay(LocalTime.of(6, 0), LocalTime.of(18, 0));
  }
}
