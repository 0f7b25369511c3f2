package org.wornladder.seed;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.wornladder.seed.CheckExpression.All;
import org.wornladder.seed.CheckExpression.Any;
import org.wornladder.seed.CheckExpression.Comparison;
import org.wornladder.seed.CheckExpression.In;
import org.wornladder.seed.CheckExpression.Length;
import org.wornladder.seed.CheckExpression.Literal;
import org.wornladder.seed.CheckExpression.Name;
import org.wornladder.seed.CheckExpression.Null;

/** What a table's CHECK constraints allow in each of its columns. */
final class CheckRules {
  /** The name that a domain's constraints give the value. */
  static final String VALUE = "value";

  private final Map<String, Rule> rules = new HashMap<>();

  CheckRules() {}

  /** The constraints of a domain, which add to what is allowed in a column of it. */
  static CheckRules ofDomain(Rule column) {
    CheckRules domain = new CheckRules();
    domain.rules.put(VALUE, column);
    return domain;
  }

  /** What is allowed in one column. */
  static final class Rule {
    private List<String> listed = List.of();
    private Optional<String> low = Optional.empty();
    private boolean lowExcluded;
    private Optional<String> high = Optional.empty();
    private boolean highExcluded;
    private int shortest;
    private int longest = Integer.MAX_VALUE;
    private Optional<String> behind = Optional.empty();
    private final List<String> excluded = new ArrayList<>();

    /** The only values that are allowed; none if others are too. */
    List<String> listed() {
      return listed.stream().filter(value -> !excluded.contains(value)).toList();
    }

    private void list(List<String> values) {
      listed = listed.isEmpty() ? values : listed.stream().filter(values::contains).toList();
    }

    /** Raises the lowest value to another one, unless it is as high. */
    private void raise(String value, boolean exclusive) {
      int higher = low.map(known -> compare(value, known)).orElse(1);
      if (higher > 0 || higher == 0 && exclusive) {
        low = Optional.of(value);
        lowExcluded = exclusive;
      }
    }

    /** Lowers the highest value to another one, unless it is as low. */
    private void lower(String value, boolean exclusive) {
      int lower = high.map(known -> compare(known, value)).orElse(1);
      if (lower > 0 || lower == 0 && exclusive) {
        high = Optional.of(value);
        highExcluded = exclusive;
      }
    }

    private static int compare(String one, String other) {
      Optional<BigDecimal> number = number(Optional.of(one));
      Optional<BigDecimal> than = number(Optional.of(other));
      return number.isPresent() && than.isPresent()
          ? number.get().compareTo(than.get())
          : one.compareTo(other);
    }

    /** The lowest value, as it is written. */
    Optional<String> low() {
      return low;
    }

    /** The highest value, as it is written. */
    Optional<String> high() {
      return high;
    }

    int shortest() {
      return shortest;
    }

    int longest() {
      return longest;
    }

    /** Another column that has a smaller value. */
    Optional<String> behind() {
      return behind;
    }

    /** The lowest number that is allowed, with so many digits behind the point. */
    Optional<BigDecimal> lowest(int decimals) {
      BigDecimal step = BigDecimal.ONE.movePointLeft(decimals);
      Optional<BigDecimal> lowest =
          number(low).map(number -> lowExcluded ? number.add(step) : number);
      return lowest.map(number -> isExcluded(number) ? number.add(step) : number);
    }

    /** The highest number that is allowed, with so many digits behind the point. */
    Optional<BigDecimal> highest(int decimals) {
      BigDecimal step = BigDecimal.ONE.movePointLeft(decimals);
      return number(high).map(number -> highExcluded ? number.subtract(step) : number);
    }

    /** Whether zero is not allowed. */
    boolean isExcluded(BigDecimal number) {
      return excluded.stream()
          .flatMap(text -> number(Optional.of(text)).stream())
          .anyMatch(other -> other.compareTo(number) == 0);
    }

    private static Optional<BigDecimal> number(Optional<String> text) {
      try {
        return text.map(BigDecimal::new);
      } catch (NumberFormatException e) {
        return Optional.empty();
      }
    }
  }

  /** The rule of a column; one that allows everything if no constraint speaks of it. */
  Rule of(String column) {
    return rules.computeIfAbsent(column.toLowerCase(Locale.ROOT), name -> new Rule());
  }

  /** Takes a constraint in; false if rows that obey it cannot be made from what it says. */
  boolean take(CheckExpression check) {
    if (check instanceof All all) {
      boolean read = true;
      for (CheckExpression part : all.parts()) {
        read &= take(part);
      }
      return read;
    }
    if (check instanceof Any any) {
      return takeAny(any.parts());
    }
    if (check instanceof In in && in.value() instanceof Name name) {
      of(name.name()).list(in.list().stream().map(Literal::text).toList());
      return true;
    }
    if (check instanceof Null is) {
      return is.isNot();
    }
    return check instanceof Comparison comparison && take(comparison);
  }

  /** NULL or something else; one value or another of the same column. */
  private boolean takeAny(List<CheckExpression> parts) {
    List<CheckExpression> others =
        parts.stream().filter(part -> !(part instanceof Null is && !is.isNot())).toList();
    if (others.size() == 1) {
      return take(others.get(0));
    }
    List<String> values = new ArrayList<>();
    Optional<String> column = Optional.empty();
    for (CheckExpression part : others) {
      if (!(part instanceof Comparison one)
          || !one.operator().equals("=")
          || !(one.left() instanceof Name name)
          || !(one.right() instanceof Literal literal)
          || column.filter(known -> !known.equals(name.name())).isPresent()) {
        return false;
      }
      column = Optional.of(name.name());
      values.add(literal.text());
    }
    column.ifPresent(name -> of(name).list(values));
    return column.isPresent();
  }

  private boolean take(Comparison one) {
    if (one.left() instanceof Literal && !(one.right() instanceof Literal)) {
      return take(new Comparison(one.right(), turned(one.operator()), one.left()));
    }
    if (one.left() instanceof Length length && one.right() instanceof Literal literal) {
      return length(of(length.name()), one.operator(), literal.text());
    }
    if (one.left() instanceof Name name && one.right() instanceof Literal literal) {
      return value(of(name.name()), one.operator(), literal.text());
    }
    if (one.left() instanceof Name left && one.right() instanceof Name right) {
      return columns(left.name(), one.operator(), right.name());
    }
    return false;
  }

  private static String turned(String operator) {
    return switch (operator) {
      case "<" -> ">";
      case "<=" -> ">=";
      case ">" -> "<";
      case ">=" -> "<=";
      default -> operator;
    };
  }

  private static boolean value(Rule rule, String operator, String value) {
    switch (operator) {
      case "=" -> rule.list(List.of(value));
      case "<>" -> rule.excluded.add(value);
      case ">", ">=" -> rule.raise(value, operator.equals(">"));
      default -> rule.lower(value, operator.equals("<"));
    }
    return true;
  }

  private static boolean length(Rule rule, String operator, String value) {
    int length;
    try {
      length = Integer.parseInt(value);
    } catch (NumberFormatException e) {
      return false;
    }
    switch (operator) {
      case "=" -> {
        rule.shortest = Math.max(rule.shortest, length);
        rule.longest = Math.min(rule.longest, length);
      }
      case ">" -> rule.shortest = Math.max(rule.shortest, length + 1);
      case ">=" -> rule.shortest = Math.max(rule.shortest, length);
      case "<" -> rule.longest = Math.min(rule.longest, length - 1);
      case "<=" -> rule.longest = Math.min(rule.longest, length);
      default -> rule.shortest = Math.max(rule.shortest, length == 0 ? 1 : rule.shortest);
    }
    return true;
  }

  private boolean columns(String left, String operator, String right) {
    switch (operator) {
      case ">", ">=" -> of(left).behind = Optional.of(right);
      case "<", "<=" -> of(right).behind = Optional.of(left);
      default -> {
        return false;
      }
    }
    return true;
  }
}
