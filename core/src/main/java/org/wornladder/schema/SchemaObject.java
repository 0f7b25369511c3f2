package org.wornladder.schema;

import java.util.List;
import java.util.Map;

/**
 * A thing that is told by one definition: a view, a routine, a trigger, a type, a sequence.
 *
 * @param name with the arguments where the engine allows several of one name
 * @param table the table it belongs to; empty if it stands alone
 * @param definition in the engine's canonical words
 */
public record SchemaObject(Kind kind, String name, String table, String definition) {
  Element element() {
    return new Element(kind, name, Map.of("table", table, "definition", definition), List.of());
  }
}
