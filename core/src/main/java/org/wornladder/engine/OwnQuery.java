package org.wornladder.engine;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;

/**
 * What is asked of a table of the tool's own.
 *
 * @param columns those that are read
 * @param filters all of which a row must pass
 * @param order how rows are sorted by their numbers
 * @param limit how many rows at most; empty for all
 */
public record OwnQuery(
    String table, List<String> columns, List<Filter> filters, Order order, OptionalLong limit) {
  /** How rows are sorted by their numbers. */
  public enum Order {
    RISING,
    FALLING,
    ANY
  }

  /** How a value stands to another. */
  public enum Comparison {
    EQUAL,
    OTHER,
    GREATER,
    /** It is not the empty text. */
    FILLED
  }

  /**
   * A condition.
   *
   * @param value a number or a text; empty where the comparison has none
   */
  public record Filter(String column, Comparison comparison, Optional<Object> value) {
    public static Filter equal(String column, Object value) {
      return new Filter(column, Comparison.EQUAL, Optional.of(value));
    }

    public static Filter other(String column, Object value) {
      return new Filter(column, Comparison.OTHER, Optional.of(value));
    }

    public static Filter greater(String column, long value) {
      return new Filter(column, Comparison.GREATER, Optional.of(value));
    }

    /** It is not the empty text. */
    public static Filter filled(String column) {
      return new Filter(column, Comparison.FILLED, Optional.empty());
    }
  }

  public OwnQuery {
    columns = List.copyOf(columns);
    filters = List.copyOf(filters);
  }

  /** All rows, in no order. */
  public static OwnQuery of(String table, List<String> columns) {
    return new OwnQuery(table, columns, List.of(), Order.ANY, OptionalLong.empty());
  }

  public OwnQuery where(Filter filter) {
    List<Filter> more = new ArrayList<>(filters);
    more.add(filter);
    return new OwnQuery(table, columns, more, order, limit);
  }

  public OwnQuery in(Order other) {
    return new OwnQuery(table, columns, filters, other, limit);
  }

  public OwnQuery atMost(long rows) {
    return new OwnQuery(table, columns, filters, order, OptionalLong.of(rows));
  }
}
