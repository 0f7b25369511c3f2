package org.wornladder.change;

import java.util.List;
import java.util.Locale;
import java.util.OptionalInt;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * How much a column's type holds, as far as its name says.
 *
 * @param first the length, or the digits; empty if the type has no limit of its own
 * @param second the digits behind the point; 0 if it has none
 */
record TypeWidth(Family family, int rank, OptionalInt first, int second) {
  private static final Pattern TYPE =
      Pattern.compile("\\s*([a-z ]+?)\\s*(?:\\(\\s*(\\d+)\\s*(?:,\\s*(\\d+)\\s*)?\\))?( .*)?");
  private static final List<String> WHOLE =
      List.of("tinyint", "smallint", "mediumint", "int", "bigint");

  /** Types of one family hold values of one sort. */
  enum Family {
    TEXT,
    WHOLE_NUMBER,
    DECIMAL,
    FLOAT,
    OTHER
  }

  static TypeWidth of(String type) {
    Matcher parts = TYPE.matcher(type.toLowerCase(Locale.ROOT));
    if (!parts.matches()) {
      return new TypeWidth(Family.OTHER, 0, OptionalInt.empty(), 0);
    }
    OptionalInt first = number(parts.group(2));
    int second = number(parts.group(3)).orElse(0);
    String name = parts.group(1);
    return switch (name) {
      case "varchar",
          "character varying",
          "char",
          "character",
          "nvarchar",
          "text",
          "clob",
          "character large object",
          "longtext",
          "mediumtext" ->
          new TypeWidth(Family.TEXT, 0, first, 0);
      case "numeric", "decimal" -> new TypeWidth(Family.DECIMAL, 0, first, second);
      case "real", "float" -> new TypeWidth(Family.FLOAT, 0, OptionalInt.empty(), 0);
      case "double", "double precision" -> new TypeWidth(Family.FLOAT, 1, OptionalInt.empty(), 0);
      default -> {
        int rank = WHOLE.indexOf(name.equals("integer") ? "int" : name);
        yield new TypeWidth(
            rank < 0 ? Family.OTHER : Family.WHOLE_NUMBER, rank, OptionalInt.empty(), 0);
      }
    };
  }

  private static OptionalInt number(String digits) {
    return digits == null || digits.length() > 9
        ? OptionalInt.empty()
        : OptionalInt.of(Integer.parseInt(digits));
  }

  /** Whether every value of another type has its place in this one, unchanged. */
  boolean holds(TypeWidth other) {
    if (family == Family.TEXT) {
      boolean lengthFits =
          first.isEmpty() || other.first.isPresent() && first.getAsInt() >= other.first.getAsInt();
      return other.family == Family.TEXT ? lengthFits : first.isEmpty();
    }
    if (family != other.family || family == Family.OTHER) {
      return family == Family.DECIMAL && other.family == Family.WHOLE_NUMBER && first.isEmpty();
    }
    boolean unlimited = family != Family.DECIMAL || first.isEmpty();
    return unlimited
        ? rank >= other.rank
        : other.first.isPresent()
            && second >= other.second
            && first.getAsInt() - second >= other.first.getAsInt() - other.second;
  }
}
