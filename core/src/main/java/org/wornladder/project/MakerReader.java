package org.wornladder.project;

import java.math.BigDecimal;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.wornladder.project.Sample.Maker;
import org.wornladder.sql.Place;

/** Reads how the values of a column are made up. */
final class MakerReader {
  private static final Pattern NUMBER = Pattern.compile("[+-]?\\d{1,18}(\\.\\d{1,18})?");
  private static final Pattern MISSING = Pattern.compile("(\\d{1,2}|100)%");
  private static final Pattern COUNT = Pattern.compile("(\\d{1,4})(?:\\.\\.(\\d{1,4}))?");
  private static final Pattern AFTER =
      Pattern.compile("(.+?) *\\+ *(\\d{1,9})(?:\\.\\.(\\d{1,9}))? +(days?|hours?|minutes?)");
  private static final List<String> MAKERS =
      List.of(
          "made-up",
          "one-of",
          "between",
          "days",
          "times-from",
          "time-of-day",
          "pattern",
          "from",
          "earlier",
          "count-from",
          "after",
          "formula",
          "mail-from",
          "list-of",
          "map-of",
          "value");
  private static final int MOST_DECIMALS = 18;

  private final Problems problems;

  MakerReader(Problems problems) {
    this.problems = problems;
  }

  /** A column; empty, with a problem collected, if it is wrong. */
  Optional<Sample.Column> column(String name, YamlNode node) {
    if (!(node instanceof YamlNode.Entries map)) {
      problems.error(
          node.place(), name + " must be a map that says how it is made", "such as { value: 1 }");
      return Optional.empty();
    }
    Fields fields = new Fields(map, problems);
    int missing = fields.text("missing").map(this::percent).orElse(0);
    return maker(name, fields, map)
        .map(known -> new Sample.Column(name, known, missing, map.place()));
  }

  private int percent(Template text) {
    Matcher parts = MISSING.matcher(text.text());
    if (!parts.matches()) {
      problems.error(text.place(), "missing cannot be '" + text.text() + "'", "write 20%");
      return 0;
    }
    return Integer.parseInt(parts.group(1));
  }

  private Optional<Maker> maker(String name, Fields fields, YamlNode.Entries map) {
    List<String> said = MAKERS.stream().filter(map.entries()::containsKey).toList();
    if (said.size() == 1) {
      Optional<Maker> maker = maker(said.get(0), fields, map.entries().get(said.get(0)).value());
      fields.end();
      return maker;
    }
    problems.error(
        map.place(),
        said.isEmpty()
            ? "nothing says how " + name + " is made"
            : name + " is made in several ways: " + String.join(", ", said),
        "write one of " + String.join(", ", MAKERS));
    return Optional.empty();
  }

  private Optional<Maker> maker(String kind, Fields fields, YamlNode node) {
    Place place = node.place();
    return switch (kind) {
      case "made-up" -> fields.word(kind).map(Maker.MadeUp::new);
      case "pattern" -> fields.word(kind).map(Maker.Pattern::new);
      case "value" -> fields.word(kind).map(Maker.Value::new);
      case "earlier" -> fields.word(kind).map(Maker.Earlier::new);
      case "mail-from" -> fields.word(kind).map(Maker.MailFrom::new);
      case "count-from" -> count(fields, place);
      case "formula" -> formula(fields, place);
      case "after" -> fields.word(kind).flatMap(text -> after(text, place));
      case "from" -> fields.word(kind).flatMap(text -> from(text, place));
      case "one-of" -> oneOf(fields, node);
      case "between" -> between(fields, place);
      case "days" -> days(fields.words(kind), place);
      case "time-of-day" -> timeOfDay(fields.words(kind), place);
      case "list-of" -> listOf(fields, place);
      case "map-of" -> mapOf(fields.map(kind));
      default -> times(fields, place);
    };
  }

  /** The column that a text names by its table. */
  Optional<Maker.From> from(String text, Place place) {
    int dot = text.lastIndexOf('.');
    if (dot < 1 || dot == text.length() - 1) {
      problems.error(place, "'" + text + "' is not TABLE.COLUMN", "such as picking.id");
      return Optional.empty();
    }
    return Optional.of(new Maker.From(text.substring(0, dot), text.substring(dot + 1)));
  }

  private Optional<Maker> count(Fields fields, Place place) {
    Optional<String> per = fields.word("per");
    return fields.word("count-from").map(text -> new Maker.CountFrom(whole(text, place), per));
  }

  private Optional<Maker> formula(Fields fields, Place place) {
    int decimals = decimals(fields, place);
    return fields.word("formula").map(text -> new Maker.Formula(text, decimals));
  }

  private int decimals(Fields fields, Place place) {
    long decimals = fields.word("decimals").map(text -> whole(text, place)).orElse(0L);
    if (decimals < 0 || decimals > MOST_DECIMALS) {
      problems.error(place, "decimals is from 0 to " + MOST_DECIMALS, "");
      return 0;
    }
    return (int) decimals;
  }

  private Optional<Maker> after(String text, Place place) {
    Matcher parts = AFTER.matcher(text);
    if (!parts.matches()) {
      problems.error(
          place, "after cannot be '" + text + "'", "write COLUMN + 1..30 days (hours, minutes)");
      return Optional.empty();
    }
    long least = Long.parseLong(parts.group(2));
    long most = Optional.ofNullable(parts.group(3)).map(Long::parseLong).orElse(least);
    ChronoUnit unit =
        switch (parts.group(4).charAt(0)) {
          case 'd' -> ChronoUnit.DAYS;
          case 'h' -> ChronoUnit.HOURS;
          default -> ChronoUnit.MINUTES;
        };
    return Optional.of(
        new Maker.After(parts.group(1), Math.min(least, most), Math.max(least, most), unit));
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
    int decimals = decimals(fields, place);
    boolean normal = fields.is("spread", "normal", List.of("even", "normal"));
    boolean numbers =
        ends.size() == 2 && ends.stream().allMatch(end -> NUMBER.matcher(end).matches());
    if (!numbers) {
      problems.error(place, "between wants two numbers", "write [180, 320], and decimals: 1");
      return Optional.empty();
    }
    BigDecimal low = new BigDecimal(ends.get(0));
    BigDecimal high = new BigDecimal(ends.get(1));
    if (low.compareTo(high) > 0) {
      problems.error(place, "between wants the smaller number first", "");
    }
    return Optional.of(new Maker.Between(low, high, decimals, normal));
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

  private Optional<Maker> timeOfDay(List<String> ends, Place place) {
    try {
      if (ends.size() == 2) {
        LocalTime first = LocalTime.parse(ends.get(0));
        LocalTime last = LocalTime.parse(ends.get(1));
        if (!last.isBefore(first)) {
          return Optional.of(new Maker.TimeOfDay(first, last));
        }
      }
    } catch (DateTimeException e) {
      problems.error(place, "time-of-day wants two times", "write [\"06:00\", \"18:00\"]");
      return Optional.empty();
    }
    problems.error(
        place, "time-of-day wants two times, the first one first", "[\"06:00\", \"18:00\"]");
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

  private Optional<Maker> listOf(Fields fields, Place place) {
    YamlNode.Entries of = fields.map("list-of");
    Matcher parts = COUNT.matcher(fields.word("count").orElse("1..3"));
    if (!parts.matches()) {
      problems.error(place, "count says how many values a list has", "write 1..3");
      return Optional.empty();
    }
    int least = Integer.parseInt(parts.group(1));
    int most = Optional.ofNullable(parts.group(2)).map(Integer::parseInt).orElse(least);
    return simple("list-of", of)
        .map(maker -> new Maker.ListOf(maker, Math.min(least, most), Math.max(least, most)));
  }

  private Optional<Maker> mapOf(YamlNode.Entries of) {
    Map<String, Maker> makers = new LinkedHashMap<>();
    for (Map.Entry<String, YamlNode.Entry> entry : of.entries().entrySet()) {
      if (entry.getValue().value() instanceof YamlNode.Entries map) {
        simple(entry.getKey(), map).ifPresent(maker -> makers.put(entry.getKey(), maker));
      } else {
        problems.error(
            entry.getValue().key(), entry.getKey() + " must be a map that says how it is made", "");
      }
    }
    return Optional.of(new Maker.MapOf(Collections.unmodifiableMap(makers)));
  }

  /** A maker within another, which knows nothing of other columns, rows and tables. */
  private Optional<Maker> simple(String name, YamlNode.Entries map) {
    Optional<Maker> maker = maker(name, new Fields(map, problems), map);
    boolean knowsOthers =
        maker
            .filter(
                one ->
                    one instanceof Maker.From
                        || one instanceof Maker.Earlier
                        || one instanceof Maker.CountFrom
                        || one instanceof Maker.Times
                        || one instanceof Maker.Formula
                        || !one.needs().isEmpty())
            .isPresent();
    if (knowsOthers) {
      problems.error(map.place(), "values inside of a list or a map stand by themselves", "");
      return Optional.empty();
    }
    return maker;
  }

  /** A whole number; 0, with a problem collected, if it is none. */
  long whole(String text, Place place) {
    if (!text.matches("[+-]?\\d{1,18}")) {
      problems.error(place, "'" + text + "' is not a whole number", "");
      return 0;
    }
    return Long.parseLong(text);
  }
}
