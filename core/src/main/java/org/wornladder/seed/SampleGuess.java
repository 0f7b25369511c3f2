package org.wornladder.seed;

import java.math.BigDecimal;
import java.time.Duration;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.wornladder.engine.Staging;
import org.wornladder.engine.ValueKind;
import org.wornladder.project.Sample;
import org.wornladder.project.Sample.Maker;
import org.wornladder.schema.Column;
import org.wornladder.schema.ForeignKey;
import org.wornladder.schema.Kind;
import org.wornladder.schema.Schema;
import org.wornladder.schema.SchemaObject;
import org.wornladder.schema.Table;
import org.wornladder.sql.Place;

/** Guesses from a table's structure how its rows could be made up. */
final class SampleGuess {
  private static final Pattern SIZE = Pattern.compile("\\((\\d+)(?:,\\s*(\\d+))?\\)");
  private static final Pattern QUOTED = Pattern.compile("'((?:[^']|'')*)'");
  private static final int MISSING = 10;
  private static final int ALL_MISSING = 100;

  /** Types that the library of made-up values has something for, or that are numbers or times. */
  private static final List<String> KNOWN =
      List.of("uuid", "timestamp", "double", "real", "float", "citext", "char", "varchar", "text");

  /** Texts that are shorter than this hold codes; in characters. */
  private static final int SHORT = 24;

  /** A sentence may have so many characters. */
  private static final int LONG = 120;

  private static final String SENTENCE = "lorem.sentence";
  private static final String WORD = "lorem.word";
  private static final LocalDate FIRST_DAY = LocalDate.of(2026, 1, 1);

  /** What the library is asked for, by what a column's name holds; the first one counts. */
  private static final List<Map.Entry<String, String>> BY_NAME =
      List.of(
          Map.entry("mail", "internet.emailAddress"),
          Map.entry("phone", "phoneNumber.cellPhone"),
          Map.entry("first_name", "name.firstName"),
          Map.entry("last_name", "name.lastName"),
          Map.entry("city", "address.city"),
          Map.entry("street", "address.streetName"),
          Map.entry("country", "address.country"),
          Map.entry("url", "internet.url"),
          Map.entry("name", "name.lastName"),
          Map.entry("note", SENTENCE),
          Map.entry("comment", SENTENCE),
          Map.entry("description", SENTENCE));

  private final Schema schema;
  private final Staging staging;
  private final Table table;
  private final List<String> key;
  private final Place place;

  /**
   * @param key the columns by which rows are found; empty for the primary key
   */
  SampleGuess(Schema schema, Staging staging, Table table, List<String> key, Place place) {
    this.schema = schema;
    this.staging = staging;
    this.table = table;
    this.key = key;
    this.place = place;
  }

  Sample sample(String file, long rows) {
    List<Sample.Column> columns = new ArrayList<>();
    for (Column column : table.columns()) {
      if (column.more(Column.GENERATED).isEmpty() && !isNumbered(column)) {
        boolean ofKey = table.primaryKey().contains(column.name());
        boolean free = column.nullable() && !ofKey;
        int missing = free && isUnknown(column) ? ALL_MISSING : free ? MISSING : 0;
        columns.add(new Sample.Column(column.name(), maker(column), missing, place));
      }
    }
    return new Sample(file, rows, rows, Optional.empty(), 1, columns);
  }

  /** Whether the database numbers it, and rows are found by something else. */
  private boolean isNumbered(Column column) {
    return staging.numbers(table, column) && !key.isEmpty() && !key.contains(column.name());
  }

  /** Whether nothing sensible can be guessed: a row of its own table, a type of unknown form. */
  private boolean isUnknown(Column column) {
    boolean itself =
        table.foreignKeys().stream()
            .anyMatch(
                key -> key.table().equals(table.name()) && key.columns().contains(column.name()));
    String type = column.type().toLowerCase(Locale.ROOT);
    boolean known = KNOWN.stream().anyMatch(type::startsWith) || !listed(column, type).isEmpty();
    boolean pointing =
        table.foreignKeys().stream().anyMatch(key -> key.columns().contains(column.name()));
    return itself
        || staging.kind(column) == ValueKind.OTHER && !known && !pointing && !type.isEmpty();
  }

  private Maker maker(Column column) {
    for (ForeignKey key : table.foreignKeys()) {
      if (key.columns().equals(List.of(column.name())) && !key.table().equals(table.name())) {
        return from(key);
      }
    }
    if (table.primaryKey().equals(List.of(column.name()))
        && staging.kind(column) == ValueKind.WHOLE) {
      return new Maker.CountFrom(1);
    }
    return byType(column);
  }

  private Maker from(ForeignKey key) {
    String target =
        key.targetColumns().isEmpty()
            ? schema.table(key.table()).map(found -> found.primaryKey().get(0)).orElse("id")
            : key.targetColumns().get(0);
    return new Maker.From(key.table(), target);
  }

  private Maker byType(Column column) {
    String type = column.type().toLowerCase(Locale.ROOT);
    List<String> listed = listed(column, type);
    if (!listed.isEmpty()) {
      return new Maker.OneOf(listed, Collections.nCopies(listed.size(), 1));
    }
    return switch (staging.kind(column)) {
      case WHOLE -> new Maker.Between(BigDecimal.ZERO, whole(type), 0, false);
      case DECIMAL -> decimal(type);
      case FLOATING -> new Maker.Between(BigDecimal.ZERO, BigDecimal.valueOf(1000), 2, false);
      case TRUTH -> new Maker.OneOf(List.of("true", "false"), List.of(1, 1));
      case DATE -> new Maker.Days(FIRST_DAY, FIRST_DAY.plusDays(364));
      case MOMENT -> times();
      case TIME -> new Maker.Pattern("0#:30:00");
      case BINARY -> new Maker.Value("base64:aG9sbG93ZmllbGQ=");
      case JSON -> new Maker.Value("{}");
      case LIST -> new Maker.Value("[]");
      default -> text(column, type);
    };
  }

  private static Maker times() {
    return new Maker.Times(FIRST_DAY.atTime(6, 0), Duration.ofMinutes(15));
  }

  /** The values of an enumeration; none if it is none. */
  private List<String> listed(Column column, String type) {
    if (type.startsWith("enum(")) {
      return quoted(column.type());
    }
    for (SchemaObject object : schema.objects()) {
      if (object.kind() == Kind.ENUM && object.name().equals(column.type())) {
        return quoted(object.definition());
      }
    }
    return List.of();
  }

  private static List<String> quoted(String text) {
    List<String> values = new ArrayList<>();
    Matcher matcher = QUOTED.matcher(text);
    while (matcher.find()) {
      values.add(matcher.group(1).replace("''", "'"));
    }
    return values;
  }

  private static BigDecimal whole(String type) {
    return BigDecimal.valueOf(type.startsWith("tinyint") ? 100 : 1000);
  }

  private static Maker decimal(String type) {
    Matcher size = SIZE.matcher(type);
    if (!size.find()) {
      return new Maker.Between(BigDecimal.ZERO, BigDecimal.valueOf(1000), 2, false);
    }
    int decimals = Optional.ofNullable(size.group(2)).map(Integer::parseInt).orElse(0);
    int whole = Math.min(3, Integer.parseInt(size.group(1)) - decimals);
    BigDecimal high = BigDecimal.TEN.pow(Math.max(0, whole)).subtract(BigDecimal.ONE);
    return new Maker.Between(BigDecimal.ZERO, high, Math.min(18, decimals), false);
  }

  private Maker text(Column column, String type) {
    String name = column.name().toLowerCase(Locale.ROOT);
    if (type.startsWith("uuid")) {
      return new Maker.MadeUp("internet.uuid");
    }
    if (type.startsWith("timestamp")) {
      return times();
    }
    if (type.startsWith("double") || type.equals("real")) {
      return new Maker.Between(BigDecimal.ZERO, BigDecimal.valueOf(1000), 2, false);
    }
    Matcher size = SIZE.matcher(type);
    int length = size.find() ? Integer.parseInt(size.group(1)) : Integer.MAX_VALUE;
    if (length < SHORT || name.contains("code")) {
      return pattern(length);
    }
    for (Map.Entry<String, String> made : BY_NAME) {
      if (name.contains(made.getKey())) {
        boolean tooLong = made.getValue().equals(SENTENCE) && length < LONG;
        return new Maker.MadeUp(tooLong ? WORD : made.getValue());
      }
    }
    return isUnique(column) ? pattern(length) : new Maker.MadeUp(WORD);
  }

  private static Maker pattern(int length) {
    return new Maker.Pattern("?#####".substring(0, Math.min(6, Math.max(1, length))));
  }

  private boolean isUnique(Column column) {
    return UniqueKeys.of(table).stream().anyMatch(List.of(column.name())::equals);
  }
}
