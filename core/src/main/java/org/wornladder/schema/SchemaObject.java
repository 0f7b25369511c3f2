package org.wornladder.schema;

import java.util.List;
import java.util.Map;
import java.util.function.UnaryOperator;

/**
 * An object that one definition describes: a view, a routine, a trigger, a type, a sequence.
 *
 * @param name with the arguments where the engine allows several of one name
 * @param table the table it belongs to; empty if it has none
 * @param definition the statement that makes it, in the engine's canonical form; empty where the
 *     engine's catalogue is not read that far
 * @param more what that statement does not say, by name, such as {@code comment}
 */
public record SchemaObject(
    Kind kind, String name, String table, String definition, Map<String, String> more) {
  public static final String OWNED_BY = "owned by";
  public static final String STATE = "state";

  public SchemaObject {
    more = Facts.of(more);
  }

  /** One of which its statement says all. */
  public SchemaObject(Kind kind, String name, String table, String definition) {
    this(kind, name, table, definition, Map.of());
  }

  /** The same with other texts in its definition. */
  SchemaObject map(UnaryOperator<String> texts) {
    return new SchemaObject(kind, name, table, texts.apply(definition), Facts.map(more, texts));
  }

  Element element() {
    return new Element(
        kind,
        name,
        Facts.with(more, Element.TABLE, table, Element.DEFINITION, definition),
        List.of());
  }
}
