package org.wornladder.entity;

import java.util.List;
import java.util.Set;

/**
 * A persistent field or property.
 *
 * @param owner the class that has it
 * @param type the name of its class, or of a primitive type; with {@code []} for an array
 * @param isProperty whether it is read by a method, and not a field
 * @param arguments the type arguments of a collection, by the same names
 */
record Attribute(
    String owner,
    String name,
    boolean isProperty,
    String type,
    List<String> arguments,
    Annotations annotations) {
  private static final Set<String> COLLECTIONS =
      Set.of(
          "java.util.Collection",
          "java.util.List",
          "java.util.Set",
          "java.util.SortedSet",
          "java.util.Map",
          "java.util.SortedMap");

  Attribute {
    arguments = List.copyOf(arguments);
  }

  boolean has(String annotation) {
    return annotations.has(annotation);
  }

  boolean isCollection() {
    return COLLECTIONS.contains(type);
  }

  boolean isMap() {
    return type.endsWith("Map");
  }

  boolean isSet() {
    return type.endsWith("Set");
  }

  /** The class of a collection's elements; that of the attribute itself otherwise. */
  String elementType() {
    return isCollection() && !arguments.isEmpty() ? arguments.get(arguments.size() - 1) : type;
  }

  boolean isPrimitive() {
    return type.indexOf('.') < 0 && !type.endsWith("[]");
  }

  /** For messages: the class and the name. */
  String where() {
    return owner + "." + name;
  }
}
