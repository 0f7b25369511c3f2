package org.wornladder.schema;

import java.util.List;
import java.util.Optional;

/**
 * What stands in a database, without the tool's own tables.
 *
 * @param tables by name
 * @param views by name
 * @param triggers by name
 */
public record Schema(List<Table> tables, List<View> views, List<Trigger> triggers) {
  public static final Schema EMPTY = new Schema(List.of(), List.of(), List.of());

  public Schema {
    tables = List.copyOf(tables);
    views = List.copyOf(views);
    triggers = List.copyOf(triggers);
  }

  /** A table by its name; case does not count where only one is meant. */
  public Optional<Table> table(String name) {
    Optional<Table> exact = tables.stream().filter(table -> table.name().equals(name)).findFirst();
    List<Table> close =
        tables.stream().filter(table -> table.name().equalsIgnoreCase(name)).toList();
    return exact.isPresent() || close.size() != 1 ? exact : Optional.of(close.get(0));
  }
}
