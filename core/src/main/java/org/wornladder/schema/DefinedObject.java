package org.wornladder.schema;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SortedMap;

/**
 * An object that one statement defines.
 *
 * <p>Its {@code definition} is that statement in the engine's canonical form, without an end mark;
 * empty where the engine's catalogue is not read that far, or the user may not read it. {@code
 * more} is what the statement does not say, by name, such as {@code comment}.
 */
public sealed interface DefinedObject extends DatabaseObject
    permits View, RangeType, Routine, Trigger, Policy, Event, Extension, Namespace, OtherObject {
  String definition();

  Map<String, String> more();

  /**
   * The object that some facts describe.
   *
   * @throws IllegalArgumentException if no statement defines objects of the kind
   */
  static DefinedObject of(
      ObjectId id,
      Map<String, String> facts,
      List<? extends Part> parts,
      List<Dependency> dependsOn) {
    String definition = facts.getOrDefault(Facts.DEFINITION, "");
    Map<String, String> more = Facts.without(facts, Facts.DEFINITION);
    return switch (id.kind()) {
      case VIEW, MATERIALISED_VIEW -> new View(id, definition, more, indexes(parts), dependsOn);
      case FUNCTION, PROCEDURE, AGGREGATE -> new Routine(id, definition, more, dependsOn);
      case TRIGGER -> new Trigger(id, table(facts), definition, ofTable(more), dependsOn);
      case POLICY -> new Policy(id, table(facts), definition, ofTable(more), dependsOn);
      case RANGE -> new RangeType(id, definition, more, dependsOn);
      case EVENT -> new Event(id, definition, more, dependsOn);
      case EXTENSION -> new Extension(id, definition, more);
      case SCHEMA -> new Namespace(id, definition, more);
      case OTHER, USER, ROLE -> new OtherObject(id, definition, more, dependsOn);
      default -> throw new IllegalArgumentException(id.kind() + " has no definition");
    };
  }

  private static List<Index> indexes(List<? extends Part> parts) {
    return parts.stream().filter(Index.class::isInstance).map(Index.class::cast).toList();
  }

  private static ObjectId table(Map<String, String> facts) {
    Kind kind = Kind.of(facts.getOrDefault(Facts.TABLE_KIND, "")).orElse(Kind.TABLE);
    return ObjectId.of(kind, facts.getOrDefault(Facts.TABLE_SCHEMA, ""), plain(facts));
  }

  /** The name of the table without its schema. */
  private static String plain(Map<String, String> facts) {
    String schema = facts.getOrDefault(Facts.TABLE_SCHEMA, "");
    String displayed = facts.getOrDefault(Facts.TABLE, "");
    return schema.isEmpty() ? displayed : displayed.substring(schema.length() + 1);
  }

  private static Map<String, String> ofTable(Map<String, String> more) {
    return Facts.without(more, Facts.TABLE, Facts.TABLE_SCHEMA, Facts.TABLE_KIND);
  }

  /** The definition as statements must write it: the canonical one, where no other is known. */
  default String statement() {
    return more(Facts.TEXT).orElse(definition());
  }

  /** One of {@link #more}. */
  default Optional<String> more(String word) {
    return Optional.ofNullable(more().get(word));
  }

  @Override
  default List<Part> parts() {
    return List.of();
  }

  @Override
  default SortedMap<String, String> facts() {
    SortedMap<String, String> facts = Facts.with(more(), Facts.DEFINITION, definition());
    return owner().map(table -> withTable(facts, table)).orElse(facts);
  }

  private static SortedMap<String, String> withTable(Map<String, String> facts, ObjectId table) {
    return Facts.with(
        facts,
        Facts.TABLE,
        table.displayName(),
        Facts.TABLE_SCHEMA,
        table.schema(),
        Facts.TABLE_KIND,
        table.kind() == Kind.TABLE ? "" : table.kind().label());
  }
}
