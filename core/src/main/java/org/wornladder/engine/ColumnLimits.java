package org.wornladder.engine;

import java.math.BigDecimal;
import java.math.BigInteger;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.wornladder.schema.Column;
import org.wornladder.schema.EnumType;
import org.wornladder.schema.Schema;

/**
 * What a column's type takes of the values of its kind, as far as the type's words say it.
 *
 * @param bits of a whole number; none if there is no limit
 * @param unsigned whether whole numbers have no sign
 * @param whole how many digits stand before the point
 * @param decimals how many digits stand behind the point
 * @param length how many characters of text
 * @param labels the values of an enumerated type; none if the type is not one
 */
public record ColumnLimits(
    OptionalInt bits,
    boolean unsigned,
    OptionalInt whole,
    OptionalInt decimals,
    OptionalInt length,
    List<String> labels) {
  public static final ColumnLimits NONE =
      new ColumnLimits(
          OptionalInt.empty(),
          false,
          OptionalInt.empty(),
          OptionalInt.empty(),
          OptionalInt.empty(),
          List.of());

  private static final Map<String, Integer> BITS =
      Map.of("tinyint", 8, "smallint", 16, "mediumint", 24, "int", 32, "integer", 32, "bigint", 64);
  private static final Pattern DECIMAL =
      Pattern.compile("(?:numeric|decimal)\\((\\d+)(?:,\\s*(\\d+))?\\).*");
  private static final Pattern TEXT =
      Pattern.compile("(?:character varying|character|varchar|char)\\((\\d+)\\).*");
  private static final Pattern ENUM = Pattern.compile("(?is)enum\\s*\\((.*)\\)");
  private static final Pattern STRING = Pattern.compile("'((?:[^']|'')*)'");
  private static final int SURELY_LONG = 18;
  private static final int MOST_LABELS = 10;

  public ColumnLimits {
    labels = List.copyOf(labels);
  }

  /** The limits of a column in an engine that holds values to their types. */
  static ColumnLimits of(Column column, Schema schema) {
    String type = column.type().toLowerCase(Locale.ROOT);
    Optional<Integer> bits = Optional.ofNullable(BITS.get(type.replaceFirst("[ (].*", "")));
    Matcher decimal = DECIMAL.matcher(type);
    Matcher text = TEXT.matcher(type);
    ColumnLimits limits = decimal.matches() ? decimal(decimal) : NONE;
    return new ColumnLimits(
        bits.isPresent() ? OptionalInt.of(bits.get()) : OptionalInt.empty(),
        type.contains("unsigned"),
        limits.whole,
        limits.decimals,
        text.matches() ? OptionalInt.of(Integer.parseInt(text.group(1))) : OptionalInt.empty(),
        labels(column.type(), schema));
  }

  /** The digits alone, for an engine that does not hold values to their types. */
  public static ColumnLimits decimalsOf(Column column) {
    Matcher decimal = DECIMAL.matcher(column.type().toLowerCase(Locale.ROOT));
    return decimal.matches()
        ? new ColumnLimits(
            NONE.bits, false, NONE.whole, decimal(decimal).decimals, NONE.length, List.of())
        : NONE;
  }

  private static ColumnLimits decimal(Matcher type) {
    int decimals = Optional.ofNullable(type.group(2)).map(Integer::parseInt).orElse(0);
    return new ColumnLimits(
        NONE.bits,
        false,
        OptionalInt.of(Integer.parseInt(type.group(1)) - decimals),
        OptionalInt.of(decimals),
        NONE.length,
        List.of());
  }

  private static List<String> labels(String type, Schema schema) {
    Matcher written = ENUM.matcher(type);
    if (written.matches()) {
      return STRING
          .matcher(written.group(1))
          .results()
          .map(label -> label.group(1).replace("''", "'"))
          .toList();
    }
    return schema.objects().stream()
        .filter(object -> object instanceof EnumType && object.name().equals(type))
        .map(object -> ((EnumType) object).labels())
        .findFirst()
        .orElse(List.of());
  }

  /**
   * Looks at a value that is one of its kind.
   *
   * @throws BadValueException if the type does not take it, or not all of it
   */
  public void check(ValueKind kind, String text) throws BadValueException {
    switch (kind) {
      case WHOLE -> checkBits(text.strip());
      case DECIMAL -> checkDigits(text.strip());
      case TEXT, OTHER -> checkText(text);
      default -> {}
    }
  }

  private void checkBits(String text) throws BadValueException {
    if (bits.isEmpty() || text.length() < 3 && !unsigned) {
      return;
    }
    boolean fits =
        text.length() <= SURELY_LONG && !unsigned && bits.getAsInt() == Long.SIZE
            || fits(new BigInteger(text.startsWith("+") ? text.substring(1) : text));
    if (!fits) {
      throw new BadValueException("this number is too large for the column");
    }
  }

  private boolean fits(BigInteger number) {
    return unsigned
        ? number.signum() >= 0 && number.bitLength() <= bits.getAsInt()
        : number.bitLength() < bits.getAsInt();
  }

  private void checkDigits(String text) throws BadValueException {
    if (decimals.isPresent() && fraction(text) > decimals.getAsInt()) {
      throw new BadValueException(
          "the column keeps "
              + decimals.getAsInt()
              + " digits behind the point, and here are more");
    }
    if (whole.isPresent()
        && text.length() > whole.getAsInt()
        && wholeDigits(text) > whole.getAsInt()) {
      throw new BadValueException("this number is too large for the column");
    }
  }

  private void checkText(String text) throws BadValueException {
    if (length.isPresent()
        && text.length() > length.getAsInt()
        && text.codePointCount(0, text.stripTrailing().length()) > length.getAsInt()) {
      throw new BadValueException(
          "the column takes "
              + length.getAsInt()
              + " characters, and these are "
              + text.codePointCount(0, text.length()));
    }
    if (!labels.isEmpty() && labels.stream().noneMatch(text::equalsIgnoreCase)) {
      throw new BadValueException("the column takes one of " + shown());
    }
  }

  private String shown() {
    String first = String.join(", ", labels.subList(0, Math.min(labels.size(), MOST_LABELS)));
    return labels.size() > MOST_LABELS ? first + ", …" : first;
  }

  private static long wholeDigits(String number) {
    BigDecimal value = new BigDecimal(number);
    return value.signum() == 0 ? 0 : (long) value.precision() - value.scale();
  }

  /** How many digits behind the point count. */
  private static int fraction(String number) {
    if (number.indexOf('e') >= 0 || number.indexOf('E') >= 0) {
      return Math.max(0, new BigDecimal(number).stripTrailingZeros().scale());
    }
    int point = number.indexOf('.');
    if (point < 0) {
      return 0;
    }
    int end = number.length();
    while (end > point + 1 && number.charAt(end - 1) == '0') {
      end--;
    }
    return end - point - 1;
  }
}
