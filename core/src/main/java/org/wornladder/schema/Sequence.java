package org.wornladder.schema;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SortedMap;
import java.util.TreeMap;

/**
 * A sequence.
 *
 * @param settings how it counts, by name, as the constants name them; each in the engine's words
 * @param ownerTable the table with a column that it goes with
 * @param ownerColumn that column; empty if there is none
 * @param more what else is said of it, by name, such as {@code comment}
 */
public record Sequence(
    ObjectId id,
    Map<String, String> settings,
    Optional<ObjectId> ownerTable,
    String ownerColumn,
    Map<String, String> more,
    List<Dependency> dependsOn)
    implements DatabaseObject {
  public static final String TYPE = "type";
  public static final String START = "start";
  public static final String INCREMENT = "increment";
  public static final String MINIMUM = "minimum";
  public static final String MAXIMUM = "maximum";
  public static final String CACHE = "cache";
  public static final String CYCLE = "cycle";
  public static final String OWNED_BY = "owned by";

  /** The settings, in the order in which statements have them. */
  public static final List<String> SETTINGS =
      List.of(TYPE, START, INCREMENT, MINIMUM, MAXIMUM, CACHE, CYCLE);

  public Sequence {
    settings = Facts.of(settings);
    more = Facts.of(more);
    dependsOn = Dependency.sorted(dependsOn);
  }

  static Sequence of(ObjectId id, Map<String, String> facts, List<Dependency> dependsOn) {
    Map<String, String> chosen = new TreeMap<>(facts);
    chosen.keySet().retainAll(SETTINGS);
    Optional<ObjectId> table =
        Optional.ofNullable(facts.get(Facts.TARGET))
            .map(
                name -> ObjectId.of(Kind.TABLE, facts.getOrDefault(Facts.TARGET_SCHEMA, ""), name));
    Map<String, String> more = Facts.without(facts, SETTINGS.toArray(String[]::new));
    return new Sequence(
        id,
        chosen,
        table,
        facts.getOrDefault(Facts.COLUMNS, ""),
        Facts.without(more, OWNED_BY, Facts.TARGET, Facts.TARGET_SCHEMA, Facts.COLUMNS),
        dependsOn);
  }

  @Override
  public List<Part> parts() {
    return List.of();
  }

  @Override
  public SortedMap<String, String> facts() {
    return Facts.with(
        Described.with(settings, more),
        OWNED_BY,
        ownerTable.map(table -> table.displayName() + "." + ownerColumn).orElse(""),
        Facts.TARGET,
        ownerTable.map(ObjectId::name).orElse(""),
        Facts.TARGET_SCHEMA,
        ownerTable.map(ObjectId::schema).orElse(""),
        Facts.COLUMNS,
        ownerColumn);
  }
}
