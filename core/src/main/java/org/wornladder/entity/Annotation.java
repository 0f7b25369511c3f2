package org.wornladder.entity;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.objectweb.asm.Type;
import org.objectweb.asm.tree.AnnotationNode;

/**
 * An annotation as a class file holds it: without the elements that have their default value (Java
 * Virtual Machine Specification, 4.7.16).
 *
 * @param name the simple name of one of the persistence standard; another one's whole name
 */
record Annotation(String name, Map<String, Object> values) {
  private static final List<String> STANDARD =
      List.of("jakarta.persistence.", "javax.persistence.");

  static Annotation of(AnnotationNode node) {
    String whole = Type.getType(node.desc).getClassName();
    String name =
        STANDARD.stream()
            .filter(whole::startsWith)
            .findFirst()
            .map(standard -> whole.substring(standard.length()))
            .orElse(whole);
    Map<String, Object> values = new LinkedHashMap<>();
    for (int i = 0; node.values != null && i < node.values.size(); i += 2) {
      values.put((String) node.values.get(i), node.values.get(i + 1));
    }
    return new Annotation(name, values);
  }

  /** Whether it is one of the persistence standard. */
  boolean isStandard() {
    return name.indexOf('.') < 0;
  }

  /** A text; empty if it is not given, or is the empty text that stands for the default. */
  Optional<String> text(String element) {
    return Optional.ofNullable(values.get(element))
        .map(Object::toString)
        .filter(text -> !text.isEmpty());
  }

  boolean flag(String element, boolean otherwise) {
    return values.get(element) instanceof Boolean flag ? flag : otherwise;
  }

  int number(String element, int otherwise) {
    return values.get(element) instanceof Integer number ? number : otherwise;
  }

  /** The name of an enum's constant. */
  Optional<String> constant(String element) {
    return values.get(element) instanceof String[] constant
        ? Optional.of(constant[1])
        : Optional.empty();
  }

  /** The name of a class. */
  Optional<String> type(String element) {
    return values.get(element) instanceof Type type
        ? Optional.of(type.getClassName())
        : Optional.empty();
  }

  Optional<Annotation> nested(String element) {
    return values.get(element) instanceof AnnotationNode node
        ? Optional.of(of(node))
        : Optional.empty();
  }

  /** The annotations of an array; none if it is not given. */
  List<Annotation> list(String element) {
    List<Annotation> all = new ArrayList<>();
    for (Object one : values.get(element) instanceof List<?> list ? list : List.of()) {
      if (one instanceof AnnotationNode node) {
        all.add(of(node));
      }
    }
    return all;
  }

  /** The texts of an array; none if it is not given. */
  List<String> texts(String element) {
    return values.get(element) instanceof List<?> list
        ? list.stream().map(Object::toString).toList()
        : List.of();
  }
}
