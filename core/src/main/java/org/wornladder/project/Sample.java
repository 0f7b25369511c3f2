package org.wornladder.project;

import java.math.BigDecimal;
import java.time.Duration;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.wornladder.sql.Place;

/**
 * How rows are made up.
 *
 * @param file relative to the project
 * @param least how many rows at least: in all, or for each row of another table
 * @param most how many at most
 * @param forEach the column of another table for each value of which rows are made
 * @param seedNumber with the table and the column: the same number makes the same values
 * @param locale the language and country of made-up names and addresses
 * @param columns in the order in which they are written
 */
public record Sample(
    String file,
    long least,
    long most,
    Optional<Maker.From> forEach,
    long seedNumber,
    Locale locale,
    List<Column> columns) {
  public Sample {
    columns = List.copyOf(columns);
  }

  /** The same with another number of rows. */
  public Sample withRows(long rows) {
    return new Sample(file, rows, rows, Optional.empty(), seedNumber, locale, columns);
  }

  /**
   * One column.
   *
   * @param missing how many of a hundred values are NULL
   */
  public record Column(String name, Maker maker, int missing, Place place) {}

  /** How the values of a column are made. */
  public sealed interface Maker {
    /** By the library of made-up values, such as {@code name.fullName}. */
    record MadeUp(String expression) implements Maker {}

    /**
     * Out of a list.
     *
     * @param weights as many as there are values
     */
    record OneOf(List<String> values, List<Integer> weights) implements Maker {}

    /**
     * A number of a range, both ends included.
     *
     * @param normal whether those in the middle are more frequent (a normal distribution, its
     *     deviation a sixth of the range); otherwise all are equally so
     */
    record Between(BigDecimal low, BigDecimal high, int decimals, boolean normal)
        implements Maker {}

    /** A day of a range, both ends included. */
    record Days(LocalDate first, LocalDate last) implements Maker {}

    /** Times that follow each other, in UTC. */
    record Times(LocalDateTime first, Duration every) implements Maker {}

    /** A time of day of a range, both ends included, to the minute. */
    record TimeOfDay(LocalTime first, LocalTime last) implements Maker {}

    /** {@code #} for a digit, {@code ?} for a letter; all else as it is. */
    record Pattern(String text) implements Maker {}

    /** A value that a column of a table has. */
    record From(String table, String column) implements Maker {}

    /** A value that a column has in a row made before, as in a tree; the first row has none. */
    record Earlier(String column) implements Maker {}

    /**
     * Whole numbers that follow each other.
     *
     * @param per a column for each value of which they begin anew; empty for one count
     */
    record CountFrom(long first, Optional<String> per) implements Maker {}

    /**
     * A day or time behind that of another column of the row.
     *
     * @param least how many units at least
     * @param most how many at most
     */
    record After(String column, long least, long most, ChronoUnit unit) implements Maker {}

    /** A number computed from other columns of the row. */
    record Formula(String expression, int decimals) implements Maker {}

    /** A mail address at the reserved domain example.com, made from a name in another column. */
    record MailFrom(String column) implements Maker {}

    /** Several values as a JSON list. */
    record ListOf(Maker maker, int least, int most) implements Maker {}

    /** A JSON map. */
    record MapOf(Map<String, Maker> makers) implements Maker {}

    /** Always the same. */
    record Value(String text) implements Maker {}

    /** The columns of the row that must be made before. */
    default List<String> needs() {
      if (this instanceof CountFrom count) {
        return count.per().map(List::of).orElse(List.of());
      }
      if (this instanceof After after) {
        return List.of(after.column());
      }
      return this instanceof MailFrom mail ? List.of(mail.column()) : List.of();
    }
  }
}
