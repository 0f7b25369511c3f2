package org.wornladder.schema;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SortedMap;

/**
 * A primary key.
 *
 * @param columns in key order
 * @param chosenName the explicit name; empty if the engine generated one
 * @param more what else is said of it, by name: the generated name, the definition where it is more
 *     than its columns, a comment
 */
public record PrimaryKey(
    List<String> columns, Optional<String> chosenName, Map<String, String> more) implements Part {
  public PrimaryKey {
    columns = List.copyOf(columns);
    more = Facts.of(more);
  }

  /** One of which its columns say all. */
  public static PrimaryKey over(List<String> columns) {
    return new PrimaryKey(columns, Optional.empty(), Map.of());
  }

  static PrimaryKey of(Map<String, String> facts) {
    return new PrimaryKey(
        NameList.inParentheses(facts.getOrDefault(Facts.COLUMNS, "()")),
        Optional.ofNullable(facts.get(Facts.NAME)),
        Facts.without(facts, Facts.NAME, Facts.COLUMNS));
  }

  @Override
  public Kind kind() {
    return Kind.PRIMARY_KEY;
  }

  @Override
  public String name() {
    return "(" + NameList.write(columns) + ")";
  }

  /** The name that the engine knows it by, chosen or not; empty if that is not known. */
  public Optional<String> knownName() {
    return chosenName.or(() -> Optional.ofNullable(more.get(Facts.GENERATED_NAME)));
  }

  /** The whole clause, where it is more than the columns. */
  public Optional<String> definition() {
    return Optional.ofNullable(more.get(Facts.DEFINITION));
  }

  @Override
  public List<Dependency> dependsOn() {
    return List.of();
  }

  @Override
  public SortedMap<String, String> facts() {
    return Facts.with(more, Facts.NAME, chosenName.orElse(""), Facts.COLUMNS, name());
  }
}
