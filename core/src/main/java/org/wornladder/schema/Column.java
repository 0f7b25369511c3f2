package org.wornladder.schema;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.UnaryOperator;

/**
 * A column.
 *
 * @param type in the engine's canonical form; may be empty where the engine allows it
 * @param defaultValue the expression, as the engine prints it
 * @param more what else there is, by name: {@code identity}, {@code generated}, {@code collation},
 *     {@code comment}; without what is not set
 */
public record Column(
    String name,
    String type,
    boolean nullable,
    Optional<String> defaultValue,
    Map<String, String> more) {
  public static final String TYPE = "type";
  public static final String IDENTITY = "identity";
  public static final String GENERATED = "generated";
  public static final String COLLATION = "collation";
  public static final String COMMENT = "comment";

  public Column {
    more = Facts.of(more);
  }

  /** One of {@link #more}. */
  public Optional<String> more(String word) {
    return Optional.ofNullable(more.get(word));
  }

  /** The same with other texts in its definition. */
  Column map(UnaryOperator<String> texts) {
    return new Column(name, type, nullable, defaultValue.map(texts), Facts.map(more, texts));
  }

  Element element() {
    Map<String, String> facts =
        Facts.with(
            more,
            TYPE,
            type,
            "nullable",
            nullable ? "yes" : "no",
            "default",
            defaultValue.orElse(""));
    return new Element(Kind.COLUMN, name, facts, List.of());
  }
}
