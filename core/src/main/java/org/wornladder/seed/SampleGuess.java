package org.wornladder.seed;

import java.math.BigDecimal;
import java.time.temporal.ChronoUnit;
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
import org.wornladder.schema.Constraint;
import org.wornladder.schema.ForeignKey;
import org.wornladder.schema.Kind;
import org.wornladder.schema.Schema;
import org.wornladder.schema.Table;
import org.wornladder.sql.Dialect;
import org.wornladder.sql.Place;

/** Guesses from a table's structure how its rows could be made up. */
final class SampleGuess {
  private static final Pattern SIZE = Pattern.compile("\\((\\d+)(?:,\\s*(\\d+))?\\)");
  private static final Pattern JSON_CHECK = Pattern.compile("json_valid\\(\\W*\\w+\\W*\\)");
  private static final int MISSING = 10;
  private static final int ALL_MISSING = 100;

  /** Types that the library of made-up values has something for, or that are numbers or times. */
  private static final List<String> KNOWN =
      List.of(
          "uuid", "time", "double", "real", "float", "citext", "char", "varchar", "text", "json");

  /** Texts that are shorter than this hold codes; in characters. */
  private static final int SHORT = 24;

  /** A sentence may have so many characters. */
  private static final int LONG = 120;

  private static final String SENTENCE = "lorem.sentence";
  private static final String WORD = "lorem.word";

  /** What the library is asked for, by what a column's name holds; the first one counts. */
  private static final List<Map.Entry<String, String>> BY_NAME =
      List.of(
          Map.entry("mail", "internet.safeEmailAddress"),
          Map.entry("phone", "phoneNumber.cellPhone"),
          Map.entry("first_name", "name.firstName"),
          Map.entry("last_name", "name.lastName"),
          Map.entry("city", "address.city"),
          Map.entry("street", "address.streetName"),
          Map.entry("country", "address.country"),
          Map.entry("name", "name.lastName"),
          Map.entry("note", SENTENCE),
          Map.entry("comment", SENTENCE),
          Map.entry("description", SENTENCE));

  private final Schema schema;
  private final Staging staging;
  private final Table table;
  private final List<String> key;
  private final Place place;
  private final Dialect dialect;
  private final GuessedTypes types;
  private final CheckRules rules = new CheckRules();
  private final List<String> unread = new ArrayList<>();

  /**
   * @param key the columns by which rows are found; empty for the primary key
   */
  SampleGuess(
      Schema schema, Staging staging, Table table, List<String> key, Place place, Dialect dialect) {
    this.schema = schema;
    this.staging = staging;
    this.table = table;
    this.key = key;
    this.place = place;
    this.dialect = dialect;
    types = new GuessedTypes(schema);
    readChecks();
  }

  private void readChecks() {
    for (Constraint constraint : table.constraints()) {
      if (constraint.kind() == Kind.CHECK) {
        read(constraint.definition(), rules);
      }
    }
    for (Column column : table.columns()) {
      column.more("check").filter(check -> !isJson(column)).ifPresent(check -> read(check, rules));
    }
    for (ForeignKey reference : table.foreignKeys()) {
      if (reference.columns().size() > 1) {
        unread.add("the reference (" + String.join(", ", reference.columns()) + ")");
      }
    }
  }

  private void read(String check, CheckRules into) {
    if (!into.take(CheckParser.read(check, dialect))) {
      unread.add("CHECK " + check.replaceFirst("(?i)^check\\s*", ""));
    }
  }

  private static boolean isJson(Column column) {
    return column.more("check").filter(check -> JSON_CHECK.matcher(check).matches()).isPresent();
  }

  /** What the made-up rows need not obey, as nobody could read it. */
  List<String> unread() {
    return unread.stream().distinct().toList();
  }

  Sample sample(String file, long rows) {
    List<Sample.Column> columns = new ArrayList<>();
    for (Column column : table.columns()) {
      if (column.more(Column.GENERATED).isEmpty() && !isNumbered(column)) {
        columns.add(new Sample.Column(column.name(), maker(column), missing(column), place));
      }
    }
    return new Sample(file, rows, rows, Optional.empty(), 1, Locale.ENGLISH, columns);
  }

  private int missing(Column column) {
    boolean isFree = column.nullable() && !table.primaryKey().contains(column.name());
    if (!isFree) {
      return 0;
    }
    return isUnknown(column) ? ALL_MISSING : MISSING;
  }

  /** Whether the database numbers it, and rows are found by something else. */
  private boolean isNumbered(Column column) {
    return staging.numbers(table, column) && !key.isEmpty() && !key.contains(column.name());
  }

  /** Whether nothing sensible can be guessed: a row that has no number yet, an unknown type. */
  private boolean isUnknown(Column column) {
    for (ForeignKey reference : table.foreignKeys()) {
      if (reference.columns().contains(column.name())) {
        Maker maker = maker(column);
        boolean made =
            maker instanceof Maker.Earlier earlier
                ? table.column(earlier.column()).filter(target -> !isNumbered(target)).isPresent()
                : maker instanceof Maker.From;
        return !made;
      }
    }
    Column typed = typed(column);
    String type = typed.type().toLowerCase(Locale.ROOT);
    boolean known = KNOWN.stream().anyMatch(type::startsWith) || !types.listed(typed).isEmpty();
    return staging.kind(typed) == ValueKind.OTHER && !known && !type.isEmpty();
  }

  /** The column with the type that its domain is made of. */
  private Column typed(Column column) {
    return types
        .domain(column)
        .map(
            domain ->
                new Column(
                    column.name(), domain.type(), column.nullable(), Optional.empty(), Map.of()))
        .orElse(column);
  }

  private Maker maker(Column column) {
    for (ForeignKey reference : table.foreignKeys()) {
      if (reference.columns().equals(List.of(column.name()))) {
        Maker.From from = from(reference);
        return reference.table().equals(table.name()) ? new Maker.Earlier(from.column()) : from;
      }
    }
    boolean isWhole = staging.kind(column) == ValueKind.WHOLE;
    if (isWhole && table.primaryKey().equals(List.of(column.name()))) {
      return new Maker.CountFrom(1, Optional.empty());
    }
    Optional<String> parent = isWhole ? parent(column) : Optional.empty();
    if (parent.isPresent()) {
      return new Maker.CountFrom(1, parent);
    }
    return byType(column);
  }

  /** The reference together with which a number is unique: then it counts within each parent. */
  private Optional<String> parent(Column column) {
    for (List<String> unique : UniqueKeys.of(table)) {
      if (unique.size() == 2 && unique.contains(column.name())) {
        String other = unique.get(unique.get(0).equals(column.name()) ? 1 : 0);
        boolean points =
            table.foreignKeys().stream().anyMatch(one -> one.columns().equals(List.of(other)));
        if (points) {
          return Optional.of(other);
        }
      }
    }
    return Optional.empty();
  }

  private Maker.From from(ForeignKey reference) {
    String target =
        reference.targetColumns().isEmpty()
            ? schema.table(reference.table()).map(found -> found.primaryKey().get(0)).orElse("id")
            : reference.targetColumns().get(0);
    return new Maker.From(reference.table(), target);
  }

  private Maker byType(Column column) {
    Column typed = typed(column);
    CheckRules.Rule rule = rule(column);
    List<String> listed = rule.listed().isEmpty() ? types.listed(typed) : rule.listed();
    if (!listed.isEmpty()) {
      return new Maker.OneOf(listed, Collections.nCopies(listed.size(), 1));
    }
    Optional<Maker> behind = behind(column, rule);
    return behind.orElseGet(() -> byKind(column, typed, rule));
  }

  /** What the table's constraints and the domain's say of a column. */
  private CheckRules.Rule rule(Column column) {
    Optional<GuessedTypes.Domain> domain = types.domain(column);
    if (domain.isEmpty() || domain.get().checks().isEmpty()) {
      return rules.of(column.name());
    }
    CheckRules both = CheckRules.ofDomain(rules.of(column.name()));
    domain.get().checks().forEach(check -> read(check, both));
    return rules.of(column.name());
  }

  /** A value that comes behind that of another column. */
  private Optional<Maker> behind(Column column, CheckRules.Rule rule) {
    Optional<Column> other = rule.behind().flatMap(table::column);
    if (other.isEmpty()) {
      return Optional.empty();
    }
    String name = other.get().name();
    return switch (staging.kind(typed(column))) {
      case DATE -> Optional.of(new Maker.After(name, 1, 30, ChronoUnit.DAYS));
      case MOMENT -> Optional.of(new Maker.After(name, 1, 48, ChronoUnit.HOURS));
      case WHOLE, DECIMAL, FLOATING -> Optional.of(new Maker.Formula(name + " + 1", scale(column)));
      default -> Optional.empty();
    };
  }

  private int scale(Column column) {
    Matcher size = SIZE.matcher(typed(column).type());
    return size.find() && size.group(2) != null ? Integer.parseInt(size.group(2)) : 0;
  }

  private Maker byKind(Column column, Column typed, CheckRules.Rule rule) {
    String type = typed.type().toLowerCase(Locale.ROOT);
    return switch (staging.kind(typed)) {
      case WHOLE ->
          GuessedRanges.number(
              rule, BigDecimal.valueOf(type.startsWith("tinyint") ? 100 : 1000), 0);
      case DECIMAL -> GuessedRanges.decimal(type, rule);
      case FLOATING -> GuessedRanges.number(rule, GuessedRanges.THOUSAND, 2);
      case TRUTH -> new Maker.OneOf(List.of("true", "false"), List.of(1, 1));
      case DATE -> GuessedRanges.days(rule);
      case MOMENT -> GuessedRanges.times(rule);
      case TIME -> GuessedRanges.timeOfDay();
      case BINARY -> new Maker.Value("base64:aG9sbG93ZmllbGQ=");
      case JSON -> new Maker.Value("{}");
      case LIST -> list(column, type);
      default -> isJson(column) ? new Maker.Value("{}") : text(column, type, rule);
    };
  }

  private Maker list(Column column, String type) {
    String element = type.replaceFirst("(\\[\\]| array.*)$", "");
    Column one = new Column(column.name(), element, false, Optional.empty(), Map.of());
    Maker maker = byKind(one, one, new CheckRules().of(column.name()));
    boolean simple = !(maker instanceof Maker.Times) && maker.needs().isEmpty();
    return simple ? new Maker.ListOf(maker, 1, 3) : new Maker.Value("[]");
  }

  private Maker text(Column column, String type, CheckRules.Rule rule) {
    String name = column.name().toLowerCase(Locale.ROOT);
    if (type.startsWith("uuid")) {
      return new Maker.MadeUp("internet.uuid");
    }
    if (type.startsWith("timestamp")) {
      return GuessedRanges.times(rule);
    }
    if (type.startsWith("time")) {
      return GuessedRanges.timeOfDay();
    }
    if (type.startsWith("double") || type.equals("real")) {
      return GuessedRanges.number(rule, GuessedRanges.THOUSAND, 2);
    }
    Matcher size = SIZE.matcher(type);
    int most = Math.min(size.find() ? Integer.parseInt(size.group(1)) : 2000, rule.longest());
    if (most < SHORT || rule.shortest() > 1 || name.contains("code")) {
      return pattern(rule.shortest(), most);
    }
    return named(name, most).orElseGet(() -> isUnique(column) ? pattern(0, most) : word(most));
  }

  private Optional<Maker> named(String name, int most) {
    Optional<String> person = name.contains("mail") ? person() : Optional.empty();
    if (person.isPresent()) {
      return Optional.of(new Maker.MailFrom(person.get()));
    }
    if (name.contains("url")) {
      return Optional.of(new Maker.Pattern("https://example.com/####"));
    }
    return BY_NAME.stream()
        .filter(made -> name.contains(made.getKey()))
        .findFirst()
        .map(Map.Entry::getValue)
        .map(made -> made.equals(SENTENCE) && most < LONG ? WORD : made)
        .map(Maker.MadeUp::new);
  }

  /** The column that has a person's name. */
  private Optional<String> person() {
    return table.columns().stream()
        .map(Column::name)
        .filter(
            name -> name.toLowerCase(Locale.ROOT).matches("(full_?|last_?|first_?|user_?)?name"))
        .findFirst();
  }

  private static Maker word(int most) {
    return most < SHORT ? pattern(0, most) : new Maker.MadeUp(WORD);
  }

  /** A letter and digits, of a length that is allowed. */
  private static Maker pattern(int least, int most) {
    int length = Math.max(least, Math.min(6, Math.max(1, most)));
    return new Maker.Pattern("?" + "#".repeat(length - 1));
  }

  private boolean isUnique(Column column) {
    return UniqueKeys.of(table).stream().anyMatch(List.of(column.name())::equals);
  }
}
