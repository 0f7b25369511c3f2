package org.wornladder.schema;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SortedMap;
import java.util.function.UnaryOperator;

/**
 * A column.
 *
 * @param type in the engine's canonical form; may be empty where the engine allows it
 * @param defaultValue the expression, as the engine prints it
 * @param more what else there is, by name: {@code identity}, {@code generated}, {@code collation},
 *     {@code comment}; without what is not set
 * @param dependsOn what its type, default or expression needs
 */
public record Column(
    String name,
    String type,
    boolean nullable,
    Optional<String> defaultValue,
    Map<String, String> more,
    List<Dependency> dependsOn)
    implements Part {
  public static final String TYPE = "type";
  public static final String NULLABLE = "nullable";
  public static final String DEFAULT = "default";
  public static final String IDENTITY = "identity";
  public static final String GENERATED = "generated";
  public static final String COLLATION = "collation";

  public Column {
    more = Facts.of(more);
    dependsOn = Dependency.sorted(dependsOn);
  }

  /** One that needs no other object. */
  public Column(
      String name,
      String type,
      boolean nullable,
      Optional<String> defaultValue,
      Map<String, String> more) {
    this(name, type, nullable, defaultValue, more, List.of());
  }

  static Column of(String name, Map<String, String> facts, List<Dependency> dependsOn) {
    return new Column(
        name,
        facts.getOrDefault(TYPE, ""),
        Facts.isYes(facts, NULLABLE),
        Optional.ofNullable(facts.get(DEFAULT)),
        Facts.without(facts, TYPE, NULLABLE, DEFAULT),
        dependsOn);
  }

  /** The same with what it needs. */
  public Column dependingOn(List<Dependency> needed) {
    return new Column(name, type, nullable, defaultValue, more, needed);
  }

  @Override
  public Kind kind() {
    return Kind.COLUMN;
  }

  /** One of {@link #more}. */
  public Optional<String> more(String word) {
    return Optional.ofNullable(more.get(word));
  }

  /** The same with another default. */
  public Column withDefault(Optional<String> value) {
    return new Column(name, type, nullable, value, more, dependsOn);
  }

  /** The same with another type, and without what the type it had needed. */
  public Column withType(String other) {
    return new Column(name, other, nullable, defaultValue, more, List.of());
  }

  /** The same under another name. */
  public Column named(String other) {
    return new Column(other, type, nullable, defaultValue, more, dependsOn);
  }

  @Override
  public Column map(UnaryOperator<String> texts) {
    return new Column(
        name, type, nullable, defaultValue.map(texts), Facts.map(more, texts), dependsOn);
  }

  @Override
  public SortedMap<String, String> facts() {
    return Facts.with(
        more, TYPE, type, NULLABLE, nullable ? Facts.YES : "no", DEFAULT, defaultValue.orElse(""));
  }
}
