package org.wornladder.entity;

import java.util.List;
import java.util.Map;
import org.jboss.jandex.Type;

/**
 * A type with its arguments, by the names of their classes.
 *
 * @param arguments those of the type itself; what stands inside of them is left out
 */
record TypeNames(String name, List<String> arguments) {
  private static final String OBJECT = "java.lang.Object";

  TypeNames {
    arguments = List.copyOf(arguments);
  }

  /**
   * A type as a class file has it.
   *
   * @param variables what the type variables stand for
   */
  static TypeNames of(Type type, Map<String, String> variables) {
    return new TypeNames(
        name(type, variables),
        type.kind() == Type.Kind.PARAMETERIZED_TYPE
            ? type.asParameterizedType().arguments().stream()
                .map(one -> name(one, variables))
                .toList()
            : List.of());
  }

  private static String name(Type type, Map<String, String> variables) {
    return switch (type.kind()) {
      case ARRAY ->
          name(type.asArrayType().elementType(), variables)
              + "[]".repeat(type.asArrayType().deepDimensions());
      case TYPE_VARIABLE -> variables.getOrDefault(type.asTypeVariable().identifier(), OBJECT);
      case WILDCARD_TYPE -> name(type.asWildcardType().extendsBound(), variables);
      default -> type.name().toString();
    };
  }
}
