package org.wornladder.entity;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;

/** What the columns of attributes hold (Jakarta Persistence, 2.6 "Basic Types"). */
final class BasicTypes {
  private static final Map<String, String> WRAPPERS =
      Map.of(
          "boolean", "java.lang.Boolean",
          "byte", "java.lang.Byte",
          "short", "java.lang.Short",
          "int", "java.lang.Integer",
          "long", "java.lang.Long",
          "float", "java.lang.Float",
          "double", "java.lang.Double",
          "char", "java.lang.Character",
          "java.lang.Byte[]", "byte[]",
          "java.lang.Character[]", "char[]");

  private static final String COLUMN = "{column}";
  private static final Set<String> DATES = Set.of("java.util.Date", "java.util.Calendar");
  private static final Map<String, String> TEMPORAL =
      Map.of("DATE", "java.sql.Date", "TIME", "java.sql.Time");

  private final ClassMapping classes;
  private final TypeTable types;
  private final Map<String, String> converters;
  private final boolean nativeEnums;

  BasicTypes(ClassMapping classes, TypeTable types, boolean nativeEnums) {
    this.classes = classes;
    this.types = types;
    this.nativeEnums = nativeEnums;
    converters = classes.converters();
  }

  /**
   * What a column holds.
   *
   * @param javaType the class of the attribute, or of its elements or keys
   * @param column how it is described; empty if it is not
   * @param prefix in front of the annotations that say more: {@code MapKey} for a map's keys
   */
  ColumnType of(Attribute attribute, String javaType, Optional<Annotation> column, String prefix) {
    String type = converted(attribute, javaType, prefix);
    String key = key(attribute, type, prefix);
    List<String> constants = key.startsWith("enum ") ? classes.constants(type) : List.of();
    return new ColumnType(
        key,
        column.map(one -> one.number("length", ColumnType.LENGTH)).orElse(ColumnType.LENGTH),
        column.map(one -> one.number("precision", 0)).orElse(0),
        column.map(one -> one.number("scale", -1)).orElse(-1),
        constants,
        column.flatMap(one -> one.text("columnDefinition")).orElse(""));
  }

  /** Whether an attribute is one column, though its class might be another kind. */
  boolean isConverted(Attribute attribute) {
    return !converted(attribute, attribute.type(), "").equals(attribute.type());
  }

  private String converted(Attribute attribute, String javaType, String prefix) {
    String wrapped = WRAPPERS.getOrDefault(javaType, javaType);
    for (Annotation one : attribute.annotations().repeated("Convert", "Converts")) {
      boolean ofKey = one.text("attributeName").filter("key"::equals).isPresent();
      if (one.flag("disableConversion", false)) {
        return javaType;
      }
      if (ofKey == !prefix.isEmpty() && one.type("converter").isPresent()) {
        return classes.converted(one.type("converter").get(), 1);
      }
    }
    boolean isPlain =
        !attribute.has("Id") && !attribute.has("Version") && !attribute.has("Enumerated");
    return isPlain && converters.containsKey(wrapped)
        ? classes.converted(converters.get(wrapped), 1)
        : javaType;
  }

  private String key(Attribute attribute, String type, String prefix) {
    String name = WRAPPERS.getOrDefault(type, type);
    if (DATES.contains(name)) {
      String way =
          attribute
              .annotations()
              .get(prefix + "Temporal")
              .flatMap(one -> one.constant("value"))
              .orElse("TIMESTAMP");
      return TEMPORAL.getOrDefault(way, "java.sql.Timestamp");
    }
    if (attribute.has("Lob") && prefix.isEmpty()) {
      return types.has(name + " lob") ? name + " lob" : "byte[] lob";
    }
    if (types.has(name)) {
      return name;
    }
    if (!classes.constants(name).isEmpty()) {
      boolean asText =
          attribute
              .annotations()
              .get(prefix + "Enumerated")
              .flatMap(one -> one.constant("value"))
              .filter("STRING"::equals)
              .isPresent();
      return asText ? "enum string" : "enum ordinal";
    }
    if (name.indexOf('.') > 0 && !name.startsWith("java.") && !classes.isOnPath(name)) {
      throw new ModelException(
          "the class " + name + " is not on the path",
          attribute.where(),
          "name the folder or jar that has it, too");
    }
    throw new ModelException(
        "no type is known for " + name,
        attribute.where(),
        "write one under entities: types: in ladder.yaml, such as '" + name + ": text'");
  }

  /**
   * What the values of an enum's column must be, with {@code {column}} for it; empty for others.
   */
  Optional<String> check(ColumnType type) {
    if (type.constants().isEmpty() || !type.definition().isEmpty()) {
      return Optional.empty();
    }
    if (type.key().equals("enum ordinal")) {
      return Optional.of(COLUMN + " between 0 and " + (type.constants().size() - 1));
    }
    return nativeEnums && types.hasNativeEnums()
        ? Optional.empty()
        : Optional.of(
            type.constants().stream()
                .map(constant -> "'" + constant + "'")
                .collect(Collectors.joining(", ", COLUMN + " in (", ")")));
  }
}
