package org.wornladder.engine.postgres;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** The columns of tables by the numbers that the catalogue gives them. */
final class PostgresAttributes {
  private static final String EXPRESSION = "(expression)";

  private final Map<String, Map<String, Attribute>> byTable = new HashMap<>();
  private final Map<String, List<String>> numbers = new HashMap<>();

  /**
   * One column.
   *
   * @param quoted its name as statements write it
   * @param type the number of the type whose order is its own
   * @param collation the number of its collation
   */
  record Attribute(String name, String quoted, String type, String collation) {}

  void add(String table, String number, Attribute attribute) {
    byTable.computeIfAbsent(table, key -> new HashMap<>()).put(number, attribute);
  }

  /** The column of a number; empty for an expression. */
  Optional<Attribute> of(String table, String number) {
    return Optional.ofNullable(byTable.getOrDefault(table, Map.of()).get(number));
  }

  /** Numbers that blanks part; most texts come again and again. */
  List<String> numbers(String text) {
    return numbers.computeIfAbsent(text, PostgresAttributes::split);
  }

  private static List<String> split(String text) {
    return text.indexOf(' ') < 0 ? List.of(text) : List.of(text.split(" "));
  }

  /** The names of a table's columns by their numbers; 0 is an expression. */
  List<String> names(String table, List<String> numbers) {
    if (numbers.size() == 1) {
      return List.of(name(table, numbers.get(0)));
    }
    List<String> names = new ArrayList<>();
    for (String number : numbers) {
      names.add(name(table, number));
    }
    return names;
  }

  private String name(String table, String number) {
    Optional<Attribute> column = of(table, number);
    return column.isEmpty() ? EXPRESSION : column.get().name();
  }
}
