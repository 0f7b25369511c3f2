package org.wornladder.seed;

import java.nio.ByteBuffer;
import java.time.Duration;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.format.DateTimeFormatter;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import org.wornladder.ProjectException;
import org.wornladder.project.Sample;
import org.wornladder.project.Sample.Maker;
import org.wornladder.sql.Fingerprint;

/** Makes the values of one column, one after the other. */
final class SampleColumn {
  private final Sample.Column column;
  private final Random random;
  private final Random missing;
  private final Optional<FakeText> fake;
  private final Optional<SampleFormula> formula;
  private final Map<String, Long> counts = new HashMap<>();
  private final List<String> earlier = new ArrayList<>();

  /** A row in the making. */
  interface Row {
    /** Its number, from 1. */
    long number();

    /** The values that it has so far, by column; a null for NULL. */
    Map<String, String> values();

    /** A value that another table has. */
    String taken(Maker.From from, Random random);
  }

  /**
   * @param table the table's name: with the column's and the number, it decides all values
   */
  SampleColumn(Sample sample, String table, Sample.Column column) {
    this.column = column;
    random = random(sample.seedNumber(), table, column.name(), "value");
    missing = random(sample.seedNumber(), table, column.name(), "missing");
    fake =
        needsFake(column.maker())
            ? Optional.of(FakeText.of(column, sample.locale(), random))
            : Optional.empty();
    List<String> names = sample.columns().stream().map(Sample.Column::name).toList();
    formula =
        column.maker() instanceof Maker.Formula computed
            ? Optional.of(new SampleFormula(column, computed, names))
            : Optional.empty();
  }

  private static boolean needsFake(Maker maker) {
    if (maker instanceof Maker.ListOf list) {
      return needsFake(list.maker());
    }
    return maker instanceof Maker.MapOf map
        ? map.makers().values().stream().anyMatch(SampleColumn::needsFake)
        : maker instanceof Maker.MadeUp;
  }

  /** Chances that are the same for the same number and names, and unlike those of others. */
  static Random random(long seedNumber, String... names) {
    List<String> parts = new ArrayList<>(List.of(names));
    parts.add(Long.toString(seedNumber));
    byte[] hash = HexFormat.of().parseHex(Fingerprint.ofParts(parts));
    return new Random(ByteBuffer.wrap(hash).getLong());
  }

  String name() {
    return column.name();
  }

  /** The columns of the row that must be made before. */
  List<String> needs() {
    return formula.map(SampleFormula::needs).orElse(column.maker().needs());
  }

  /** The column whose values in rows made before this one is made from; empty for most. */
  Optional<String> needsEarlier() {
    return column.maker() instanceof Maker.Earlier one
        ? Optional.of(one.column())
        : Optional.empty();
  }

  /** Takes a value of a row that is complete. */
  void remember(String value) {
    earlier.add(value);
  }

  /** The next value; empty for NULL. */
  Optional<String> next(Row row) {
    if (column.missing() > 0 && missing.nextInt(100) < column.missing()) {
      return Optional.empty();
    }
    Maker maker = column.maker();
    if (maker instanceof Maker.From from) {
      return Optional.of(row.taken(from, random));
    }
    if (maker instanceof Maker.Earlier) {
      return earlier.isEmpty()
          ? Optional.empty()
          : Optional.of(earlier.get(random.nextInt(earlier.size())));
    }
    if (maker instanceof Maker.CountFrom count) {
      String per = count.per().map(row.values()::get).orElse("");
      return Optional.of(Long.toString(count.first() + counts.merge(per, 1L, Long::sum) - 1));
    }
    if (maker instanceof Maker.Formula) {
      return formula.orElseThrow().value(row.values());
    }
    if (maker instanceof Maker.MailFrom mail) {
      String base = Optional.ofNullable(row.values().get(mail.column())).orElse("");
      String word = FakeText.mail(base, 1);
      return Optional.of(FakeText.mail(base, counts.merge(word, 1L, Long::sum)));
    }
    if (maker instanceof Maker.After after) {
      return Optional.ofNullable(row.values().get(after.column())).map(base -> after(base, after));
    }
    return Optional.of(
        SampleValues.of(
            maker,
            random,
            row.number(),
            made -> fake.orElseThrow().made(made.expression(), column)));
  }

  private String after(String base, Maker.After after) {
    long count = after.least() + random.nextLong(after.most() - after.least() + 1);
    try {
      if (base.length() == DateTimeFormatter.ISO_LOCAL_DATE.format(LocalDate.EPOCH).length()) {
        LocalDate day = LocalDate.parse(base);
        long days = Duration.of(count, after.unit()).toDays();
        return (after.unit() == ChronoUnit.DAYS ? day.plusDays(count) : day.plusDays(days))
            .toString();
      }
      LocalDateTime time = LocalDateTime.parse(base.replaceFirst("Z$", ""));
      return DateTimeFormatter.ISO_LOCAL_DATE_TIME.format(time.plus(count, after.unit())) + "Z";
    } catch (java.time.DateTimeException e) {
      throw ProjectException.of(
          column.place(),
          column.name() + " comes after " + after.column() + ", which is neither a day nor a time",
          "name a column that is made by days, times-from or after");
    }
  }
}
