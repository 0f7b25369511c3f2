package org.wornladder.entity;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * Columns that a class gives to the attributes of another one which is part of it (Jakarta
 * Persistence, 11.1.4 "AttributeOverride", 11.1.2 "AssociationOverride").
 *
 * @param columns by the attribute's path, with points
 * @param joins likewise
 */
record Overrides(Map<String, Annotation> columns, Map<String, List<Annotation>> joins) {
  static final Overrides NONE = new Overrides(Map.of(), Map.of());

  static Overrides of(Annotations annotations) {
    Map<String, Annotation> columns = new HashMap<>();
    for (Annotation one : annotations.repeated("AttributeOverride", "AttributeOverrides")) {
      one.nested("column").ifPresent(column -> columns.put(name(one), column));
    }
    Map<String, List<Annotation>> joins = new HashMap<>();
    for (Annotation one : annotations.repeated("AssociationOverride", "AssociationOverrides")) {
      joins.put(name(one), one.list("joinColumns"));
    }
    return new Overrides(columns, joins);
  }

  private static String name(Annotation override) {
    return override.text("name").orElse("");
  }

  /** These for what is inside of an attribute, and its own ones; these where both say something. */
  Overrides inside(Attribute attribute) {
    Overrides own = of(attribute.annotations());
    Map<String, Annotation> allColumns = new HashMap<>(own.columns);
    allColumns.putAll(below(columns, attribute.name()));
    Map<String, List<Annotation>> allJoins = new HashMap<>(own.joins);
    allJoins.putAll(below(joins, attribute.name()));
    return new Overrides(allColumns, allJoins);
  }

  /** Those for the keys or the values of a map, or of what both have. */
  Overrides below(String part) {
    Map<String, Annotation> both = new HashMap<>(columns);
    both.putAll(below(columns, part));
    return new Overrides(both, joins);
  }

  private static <T> Map<String, T> below(Map<String, T> all, String name) {
    Map<String, T> below = new HashMap<>();
    all.forEach(
        (path, one) -> {
          if (path.startsWith(name + ".")) {
            below.put(path.substring(name.length() + 1), one);
          }
        });
    return below;
  }

  /**
   * How the column of an attribute is described; empty if neither an override nor an annotation
   * does.
   */
  Optional<Annotation> column(Attribute attribute) {
    return Optional.ofNullable(columns.get(attribute.name()))
        .or(() -> attribute.annotations().get("Column"));
  }

  /**
   * How the columns of a reference are described; none if neither an override nor an annotation
   * does.
   */
  List<Annotation> joins(Attribute attribute) {
    List<Annotation> own = joins.getOrDefault(attribute.name(), List.of());
    return own.isEmpty()
        ? new ArrayList<>(attribute.annotations().repeated("JoinColumn", "JoinColumns"))
        : own;
  }
}
