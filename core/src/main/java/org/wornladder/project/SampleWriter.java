package org.wornladder.project;

import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;
import org.wornladder.project.Sample.Maker;

/** Writes how rows are made up as a file, to be edited. */
public final class SampleWriter {
  private SampleWriter() {}

  /**
   * Writes the file that the sample names.
   *
   * @param unread what the guess does not obey; written as comments
   */
  public static void write(Path root, Sample sample, List<String> unread) {
    try (PendingFile file = PendingFile.begin(root, sample.file(), false)) {
      try {
        EditorSchemas.write(root, EditorSchemas.SAMPLE);
        file.out().write(text(sample, unread));
      } catch (IOException e) {
        throw file.unwritable(e);
      }
      file.complete();
      file.replace();
    }
  }

  /** The file's text. */
  static String text(Sample sample, List<String> unread) {
    StringBuilder text = new StringBuilder(EditorSchemas.SAMPLE_LINE);
    for (String one : unread) {
      text.append("# Not obeyed here: ").append(one.replaceAll("\\s+", " ")).append('\n');
    }
    String most = sample.most() == sample.least() ? "" : ".." + sample.most();
    text.append("rows: ").append(sample.least()).append(most).append('\n');
    sample.forEach().ifPresent(from -> text.append("for-each: ").append(name(from)).append('\n'));
    text.append("seed-number: ").append(sample.seedNumber()).append('\n');
    if (!sample.locale().equals(Locale.ENGLISH)) {
      text.append("locale: ").append(sample.locale().toLanguageTag()).append('\n');
    }
    text.append("columns:\n");
    for (Sample.Column column : sample.columns()) {
      String missing = column.missing() == 0 ? "" : ", missing: " + column.missing() + "%";
      text.append("  ").append(string(column.name())).append(": { ");
      text.append(maker(column.maker())).append(missing).append(" }\n");
    }
    return text.toString();
  }

  private static String string(String text) {
    return YamlText.string(text, true);
  }

  private static String name(Maker.From from) {
    return string(from.table() + "." + from.column());
  }

  private static String maker(Maker maker) {
    if (maker instanceof Maker.MadeUp made) {
      return "made-up: " + string(made.expression());
    }
    if (maker instanceof Maker.OneOf oneOf) {
      return "one-of: " + oneOf(oneOf);
    }
    if (maker instanceof Maker.Between between) {
      return "between: [%s, %s]%s%s"
          .formatted(
              between.low().toPlainString(),
              between.high().toPlainString(),
              decimals(between.decimals()),
              between.normal() ? ", spread: normal" : "");
    }
    if (maker instanceof Maker.Days days) {
      return "days: [" + days.first() + ", " + days.last() + "]";
    }
    if (maker instanceof Maker.Times times) {
      return "times-from: \"" + times.first() + ":00Z\", every: " + every(times.every());
    }
    if (maker instanceof Maker.TimeOfDay time) {
      return "time-of-day: [\"" + time.first() + "\", \"" + time.last() + "\"]";
    }
    return moreOf(maker);
  }

  private static String moreOf(Maker maker) {
    if (maker instanceof Maker.Pattern pattern) {
      return "pattern: " + YamlText.scalar(pattern.text(), YamlText.DOUBLE);
    }
    if (maker instanceof Maker.From from) {
      return "from: " + name(from);
    }
    if (maker instanceof Maker.Earlier earlier) {
      return "earlier: " + string(earlier.column());
    }
    if (maker instanceof Maker.CountFrom count) {
      return "count-from: "
          + count.first()
          + count.per().map(column -> ", per: " + string(column)).orElse("");
    }
    if (maker instanceof Maker.After after) {
      String unit = after.unit().name().toLowerCase(Locale.ROOT);
      String text = "%s + %d..%d %s".formatted(after.column(), after.least(), after.most(), unit);
      return "after: " + string(text);
    }
    if (maker instanceof Maker.Formula formula) {
      return "formula: " + string(formula.expression()) + decimals(formula.decimals());
    }
    if (maker instanceof Maker.MailFrom mail) {
      return "mail-from: " + string(mail.column());
    }
    if (maker instanceof Maker.ListOf list) {
      String count = list.least() + ".." + list.most();
      return "list-of: { " + maker(list.maker()) + " }, count: " + count;
    }
    if (maker instanceof Maker.MapOf map) {
      return map.makers().entrySet().stream()
          .map(one -> string(one.getKey()) + ": { " + maker(one.getValue()) + " }")
          .collect(Collectors.joining(", ", "map-of: { ", " }"));
    }
    return "value: " + YamlText.scalar(((Maker.Value) maker).text(), YamlText.DOUBLE);
  }

  private static String decimals(int decimals) {
    return decimals == 0 ? "" : ", decimals: " + decimals;
  }

  private static String oneOf(Maker.OneOf oneOf) {
    boolean even = oneOf.weights().stream().distinct().count() == 1;
    List<String> values = new ArrayList<>();
    for (int i = 0; i < oneOf.values().size(); i++) {
      String value = string(oneOf.values().get(i));
      values.add(even ? value : value + ": " + oneOf.weights().get(i));
    }
    String all = String.join(", ", values);
    return even ? "[" + all + "]" : "{ " + all + " }";
  }

  private static String every(Duration every) {
    long seconds = every.toSeconds();
    return seconds % 60 == 0 ? seconds / 60 + "m" : seconds + "s";
  }
}
