package org.wornladder.schema;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/**
 * A reference to another table.
 *
 * @param name empty if the engine invented it
 * @param targetColumns empty where the target's primary key is meant
 * @param onUpdate the action's words, such as NO ACTION
 * @param onDelete likewise
 * @param more what else is said of it, such as DEFERRABLE; empty if nothing
 */
public record ForeignKey(
    Optional<String> name,
    List<String> columns,
    String table,
    List<String> targetColumns,
    String onUpdate,
    String onDelete,
    String more) {
  public ForeignKey {
    columns = List.copyOf(columns);
    targetColumns = List.copyOf(targetColumns);
  }

  /** One whose name nobody chose, with nothing more to say of it. */
  public static ForeignKey unnamed(
      List<String> columns,
      String table,
      List<String> targetColumns,
      String onUpdate,
      String onDelete) {
    return new ForeignKey(Optional.empty(), columns, table, targetColumns, onUpdate, onDelete, "");
  }

  Element element() {
    Map<String, String> facts = new TreeMap<>();
    name.ifPresent(chosen -> facts.put("name", chosen));
    facts.put("target columns", String.join(", ", targetColumns));
    facts.put("on update", onUpdate.equals("NO ACTION") ? "" : onUpdate);
    facts.put("on delete", onDelete.equals("NO ACTION") ? "" : onDelete);
    facts.put("more", more);
    String words = "(" + String.join(", ", columns) + ") to " + table;
    return new Element(Kind.FOREIGN_KEY, words, facts, List.of());
  }
}
