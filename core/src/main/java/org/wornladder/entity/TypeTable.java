package org.wornladder.entity;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;

/**
 * An engine's types for the classes of attributes: those of the table in {@code column-types.txt},
 * and those that a project has instead.
 */
final class TypeTable {
  private static final String FILE = "column-types.txt";

  /** In the order of the table's columns. */
  private static final List<String> ENGINES = List.of("h2", "mariadb", "postgres", "sqlite");

  private static final int PRECISION = 38;
  private static final int SCALE = 2;

  /** Microseconds, which every engine has. */
  private static final int FRACTION = 6;

  private final Map<String, String> types = new HashMap<>();
  private final boolean nativeEnums;
  private final String engine;

  /**
   * @param engine its name
   * @param own a project's types, by the names of classes
   * @param nativeEnums whether enums get the engine's own type where it has one in a column
   */
  TypeTable(String engine, Map<String, String> own, boolean nativeEnums) {
    this.engine = engine;
    this.nativeEnums = nativeEnums;
    int place = ENGINES.indexOf(engine) + 1;
    for (String line : lines()) {
      String[] cells = line.split("\\|");
      types.put(cells[0].strip(), cells[place].strip());
    }
    types.putAll(own);
  }

  private static List<String> lines() {
    try (InputStream in = TypeTable.class.getResourceAsStream(FILE)) {
      return new String(in.readAllBytes(), StandardCharsets.UTF_8)
          .lines()
          .filter(line -> !line.startsWith("#"))
          .toList();
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /** Whether a class has a type of its own. */
  boolean has(String key) {
    return types.containsKey(key);
  }

  /** Whether a column's type can list the constants of an enum. */
  boolean hasNativeEnums() {
    return engine.equals("h2") || engine.equals("mariadb");
  }

  /**
   * The type as SQL writes it.
   *
   * @param where the class and the attribute
   */
  String of(ColumnType type, String where) {
    if (!type.definition().isEmpty()) {
      return type.definition();
    }
    if (type.key().equals("enum string") && nativeEnums && hasNativeEnums()) {
      return type.constants().stream()
          .map(constant -> "'" + constant + "'")
          .collect(Collectors.joining(", ", "enum (", ")"));
    }
    String template = types.get(type.key());
    if (template == null) {
      throw new ModelException(
          "no type is known for " + type.key(),
          where,
          "write one under entities: types: in ladder.yaml, such as '" + type.key() + ": text'");
    }
    int precision = type.precision() > 0 ? type.precision() : PRECISION;
    int scale = type.scale() >= 0 ? type.scale() : type.precision() > 0 ? 0 : SCALE;
    return template
        .replace("{length}", Integer.toString(type.length()))
        .replace("{precision}", Integer.toString(precision))
        .replace("{scale}", Integer.toString(scale))
        .replace("{fraction}", Integer.toString(FRACTION));
  }
}
