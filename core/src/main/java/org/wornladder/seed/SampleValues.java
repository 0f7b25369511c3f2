package org.wornladder.seed;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.LocalDateTime;
import java.time.format.DateTimeFormatter;
import java.time.temporal.ChronoUnit;
import java.util.Random;
import java.util.StringJoiner;
import java.util.function.Function;
import org.wornladder.project.JsonText;
import org.wornladder.project.Sample.Maker;

/** Values that need no more than numbers by chance. */
final class SampleValues {
  private static final DateTimeFormatter TIME = DateTimeFormatter.ofPattern("HH:mm:ss");

  private SampleValues() {}

  /**
   * @param number the row's, counted from 1
   * @param fake makes what the library of made-up values makes
   */
  static String of(Maker maker, Random random, long number, Function<Maker.MadeUp, String> fake) {
    if (maker instanceof Maker.MadeUp made) {
      return fake.apply(made);
    }
    if (maker instanceof Maker.OneOf oneOf) {
      return oneOf(oneOf, random);
    }
    if (maker instanceof Maker.Between between) {
      return between(between, random);
    }
    if (maker instanceof Maker.Days days) {
      long count = ChronoUnit.DAYS.between(days.first(), days.last()) + 1;
      return days.first().plusDays(random.nextLong(count)).toString();
    }
    if (maker instanceof Maker.Times times) {
      LocalDateTime time = times.first().plus(times.every().multipliedBy(number - 1));
      return DateTimeFormatter.ISO_LOCAL_DATE_TIME.format(time) + "Z";
    }
    if (maker instanceof Maker.Pattern pattern) {
      return pattern(pattern.text(), random);
    }
    if (maker instanceof Maker.TimeOfDay time) {
      long minutes = ChronoUnit.MINUTES.between(time.first(), time.last()) + 1;
      return TIME.format(time.first().plusMinutes(random.nextLong(minutes)));
    }
    if (maker instanceof Maker.ListOf list) {
      return list(list, random, number, fake);
    }
    if (maker instanceof Maker.MapOf map) {
      return map(map, random, number, fake);
    }
    return ((Maker.Value) maker).text();
  }

  private static String list(
      Maker.ListOf list, Random random, long number, Function<Maker.MadeUp, String> fake) {
    int count = list.least() + random.nextInt(list.most() - list.least() + 1);
    StringJoiner values = new StringJoiner(", ", "[", "]");
    for (int i = 0; i < count; i++) {
      values.add(JsonText.plainOrString(of(list.maker(), random, number, fake)));
    }
    return values.toString();
  }

  private static String map(
      Maker.MapOf map, Random random, long number, Function<Maker.MadeUp, String> fake) {
    StringJoiner values = new StringJoiner(", ", "{", "}");
    map.makers()
        .forEach(
            (name, maker) -> {
              String value = of(maker, random, number, fake);
              boolean nested = maker instanceof Maker.ListOf || maker instanceof Maker.MapOf;
              String written = nested ? value : JsonText.plainOrString(value);
              values.add(JsonText.string(name) + ": " + written);
            });
    return values.toString();
  }

  private static String oneOf(Maker.OneOf oneOf, Random random) {
    long all = 0;
    for (int weight : oneOf.weights()) {
      all += weight;
    }
    long at = random.nextLong(all);
    int index = 0;
    while (at >= oneOf.weights().get(index)) {
      at -= oneOf.weights().get(index);
      index++;
    }
    return oneOf.values().get(index);
  }

  private static String between(Maker.Between between, Random random) {
    double share =
        between.normal()
            ? Math.max(0, Math.min(1, 0.5 + random.nextGaussian() / 6))
            : random.nextDouble();
    BigDecimal step = BigDecimal.ONE.movePointLeft(between.decimals());
    BigDecimal steps = between.high().subtract(between.low()).divide(step, 0, RoundingMode.FLOOR);
    // One more than the steps, so that both ends are as likely as what lies between.
    BigDecimal width = between.normal() ? steps : steps.add(BigDecimal.ONE);
    BigDecimal taken =
        BigDecimal.valueOf(share).multiply(width).setScale(0, RoundingMode.FLOOR).min(steps);
    return between
        .low()
        .add(taken.multiply(step))
        .setScale(between.decimals(), RoundingMode.HALF_UP)
        .toPlainString();
  }

  private static String pattern(String text, Random random) {
    StringBuilder made = new StringBuilder(text.length());
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      if (c == '#') {
        made.append((char) ('0' + random.nextInt(10)));
      } else if (c == '?') {
        made.append((char) ('A' + random.nextInt(26)));
      } else {
        made.append(c);
      }
    }
    return made.toString();
  }
}
