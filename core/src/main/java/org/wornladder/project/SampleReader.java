package org.wornladder.project;

import java.math.BigDecimal;
import java.nio.file.Path;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.wornladder.ProjectException;
import org.wornladder.project.Sample.Maker;
import org.wornladder.sql.Place;

/** Reads how rows are made up: a file that ends in {@code .sample.yaml}. */
public final class SampleReader {
  private static final Pattern COUNT = Pattern.compile("(\\d{1,9})(?:\\.\\.(\\d{1,9}))?");
  private static final Pattern NUMBER = Pattern.compile("[+-]?\\d{1,18}(\\.\\d{1,18})?");
  private static final Pattern MISSING = Pattern.compile("(\\d{1,2}|100)%");
  private static final List<String> MAKERS =
      List.of(
          "made-up",
          "one-of",
          "between",
          "days",
          "times-from",
          "pattern",
          "from",
          "count-from",
          "value");

  private final String file;
  private final Problems problems;

  private SampleReader(String file, Problems problems) {
    this.file = file;
    this.problems = problems;
  }

  /**
   * Reads one.
   *
   * @throws ProjectException with every error in it
   */
  public static Sample read(Path root, Seed seed) {
    Problems problems = new Problems();
    Optional<YamlNode> tree =
        new TextFiles(root)
            .read(seed.file(), problems)
            .flatMap(text -> YamlReader.read(seed.file(), text, problems));
    Optional<Sample> sample = Optional.empty();
    if (tree.isPresent() && tree.get() instanceof YamlNode.Entries map) {
      sample = Optional.of(new SampleReader(seed.file(), problems).sample(map));
    } else if (tree.isPresent()) {
      problems.error(tree.get().place(), "the file must be a map", "write rows: and columns:");
    }
    if (problems.hasErrors()) {
      throw new ProjectException(problems.all());
    }
    return sample.orElseThrow();
  }

  private Sample sample(YamlNode.Entries map) {
    Fields fields = new Fields(map, problems);
    Optional<Template> rows = fields.text("rows");
    Optional<Template> forEach = fields.text("for-each");
    Optional<Template> number = fields.text("seed-number");
    YamlNode.Entries columns = fields.map("columns");
    fields.end();
    long[] counts = counts(rows, map.place());
    List<Sample.Column> made = new ArrayList<>();
    for (Map.Entry<String, YamlNode.Entry> entry : columns.entries().entrySet()) {
      column(entry.getKey(), entry.getValue().value()).ifPresent(made::add);
    }
    if (made.isEmpty() && !problems.hasErrors()) {
      problems.error(map.place(), "no column is named", "write columns: and how each is made");
    }
    return new Sample(
        file,
        counts[0],
        counts[1],
        forEach.flatMap(text -> from(text.text(), text.place())),
        number.map(text -> whole(text.text(), text.place())).orElse(1L),
        made);
  }

  private long[] counts(Optional<Template> rows, Place place) {
    Matcher parts = COUNT.matcher(rows.map(Template::text).orElse(""));
    if (!parts.matches()) {
      problems.error(
          rows.map(Template::place).orElse(place),
          "rows does not say how many",
          "write rows: 200, or rows: 1..8 with for-each:");
      return new long[] {0, 0};
    }
    long least = Long.parseLong(parts.group(1));
    long most = Optional.ofNullable(parts.group(2)).map(Long::parseLong).orElse(least);
    return new long[] {Math.min(least, most), Math.max(least, most)};
  }

  private Optional<Sample.Column> column(String name, YamlNode node) {
    if (!(node instanceof YamlNode.Entries map)) {
      problems.error(
          node.place(), name + " must be a map that says how it is made", "such as { value: 1 }");
      return Optional.empty();
    }
    List<String> said = MAKERS.stream().filter(map.entries()::containsKey).toList();
    Fields fields = new Fields(map, problems);
    Optional<Template> missing = fields.text("missing");
    Optional<Maker> maker = Optional.empty();
    if (said.size() == 1) {
      maker = maker(said.get(0), fields, map);
      fields.end();
    } else {
      String all = String.join(", ", MAKERS);
      problems.error(
          map.place(),
          said.isEmpty()
              ? "nothing says how " + name + " is made"
              : name + " is made in several ways: " + String.join(", ", said),
          "write one of " + all);
    }
    int percent = missing.map(this::percent).orElse(0);
    return maker.map(known -> new Sample.Column(name, known, percent, map.place()));
  }

  private int percent(Template text) {
    Matcher parts = MISSING.matcher(text.text());
    if (!parts.matches()) {
      problems.error(text.place(), "missing cannot be '" + text.text() + "'", "write 20%");
      return 0;
    }
    return Integer.parseInt(parts.group(1));
  }

  private Optional<Maker> maker(String kind, Fields fields, YamlNode.Entries map) {
    Place place = map.entries().get(kind).value().place();
    return switch (kind) {
      case "made-up" -> fields.word(kind).map(Maker.MadeUp::new);
      case "pattern" -> fields.word(kind).map(Maker.Pattern::new);
      case "value" -> fields.word(kind).map(Maker.Value::new);
      case "count-from" -> fields.word(kind).map(text -> new Maker.CountFrom(whole(text, place)));
      case "from" -> fields.word(kind).flatMap(text -> from(text, place));
      case "one-of" -> oneOf(fields, map.entries().get(kind).value());
      case "between" -> between(fields, place);
      case "days" -> days(fields.words(kind), place);
      default -> times(fields, place);
    };
  }

  private Optional<Maker.From> from(String text, Place place) {
    int dot = text.lastIndexOf('.');
    if (dot < 1 || dot == text.length() - 1) {
      problems.error(place, "'" + text + "' is not TABLE.COLUMN", "such as picking.id");
      return Optional.empty();
    }
    return Optional.of(new Maker.From(text.substring(0, dot), text.substring(dot + 1)));
  }

  private Optional<Maker> oneOf(Fields fields, YamlNode node) {
    if (node instanceof YamlNode.Items) {
      List<String> values = fields.words("one-of");
      return values.isEmpty()
          ? Optional.empty()
          : Optional.of(new Maker.OneOf(values, Collections.nCopies(values.size(), 1)));
    }
    List<String> values = new ArrayList<>();
    List<Integer> weights = new ArrayList<>();
    fields
        .texts("one-of")
        .forEach(
            (value, weight) -> {
              values.add(value);
              long number = whole(weight.text(), weight.place());
              if (number < 0 || number > 1_000_000) {
                problems.error(weight.place(), "a weight is from 0 to 1000000", "");
              }
              weights.add((int) Math.max(0, Math.min(1_000_000, number)));
            });
    if (weights.stream().mapToLong(Integer::longValue).sum() == 0) {
      problems.error(node.place(), "one-of has nothing to choose from", "write { apple: 7 }");
      return Optional.empty();
    }
    return Optional.of(new Maker.OneOf(List.copyOf(values), List.copyOf(weights)));
  }

  private Optional<Maker> between(Fields fields, Place place) {
    List<String> ends = fields.words("between");
    long decimals = fields.word("decimals").map(text -> whole(text, place)).orElse(0L);
    boolean normal = fields.is("spread", "normal", List.of("even", "normal"));
    boolean numbers =
        ends.size() == 2 && ends.stream().allMatch(end -> NUMBER.matcher(end).matches());
    if (!numbers || decimals < 0 || decimals > 18) {
      problems.error(place, "between wants two numbers", "write [180, 320], and decimals: 1");
      return Optional.empty();
    }
    BigDecimal low = new BigDecimal(ends.get(0));
    BigDecimal high = new BigDecimal(ends.get(1));
    if (low.compareTo(high) > 0) {
      problems.error(place, "between wants the smaller number first", "");
    }
    return Optional.of(new Maker.Between(low, high, (int) decimals, normal));
  }

  private Optional<Maker> days(List<String> ends, Place place) {
    try {
      if (ends.size() == 2) {
        LocalDate first = LocalDate.parse(ends.get(0));
        LocalDate last = LocalDate.parse(ends.get(1));
        if (!last.isBefore(first)) {
          return Optional.of(new Maker.Days(first, last));
        }
      }
    } catch (DateTimeException e) {
      problems.error(place, "days wants two dates", "write [2026-08-01, 2026-10-31]");
      return Optional.empty();
    }
    problems.error(place, "days wants two dates, the first one first", "[2026-08-01, 2026-10-31]");
    return Optional.empty();
  }

  private Optional<Maker> times(Fields fields, Place place) {
    Optional<String> first = fields.word("times-from");
    Optional<Duration> every = fields.duration("every");
    if (every.isEmpty()) {
      problems.error(place, "times-from wants every:", "write every: 15m");
    }
    try {
      String text = first.orElse("").replaceFirst("Z$", "");
      LocalDateTime start =
          text.length() == 10 ? LocalDate.parse(text).atStartOfDay() : LocalDateTime.parse(text);
      return every.map(step -> new Maker.Times(start, step));
    } catch (DateTimeException e) {
      problems.error(place, "times-from wants a time", "write 2026-08-01T06:00:00Z");
      return Optional.empty();
    }
  }

  private long whole(String text, Place place) {
    if (!text.matches("[+-]?\\d{1,18}")) {
      problems.error(place, "'" + text + "' is not a whole number", "");
      return 0;
    }
    return Long.parseLong(text);
  }
}
