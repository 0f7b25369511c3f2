package org.wornladder.entity;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import org.jboss.jandex.AnnotationInstance;
import org.jboss.jandex.AnnotationValue;

/**
 * An annotation as a class file holds it: without the elements that have their default value (Java
 * Virtual Machine Specification, 4.7.16).
 *
 * @param name the simple name of one of the persistence standard; another one's whole name
 */
record Annotation(String name, Map<String, AnnotationValue> values) {
  private static final List<String> STANDARD =
      List.of("jakarta.persistence.", "javax.persistence.");

  static Annotation of(AnnotationInstance instance) {
    String whole = instance.name().toString();
    String name =
        STANDARD.stream()
            .filter(whole::startsWith)
            .findFirst()
            .map(standard -> whole.substring(standard.length()))
            .orElse(whole);
    Map<String, AnnotationValue> values = new LinkedHashMap<>();
    instance.values().forEach(value -> values.put(value.name(), value));
    return new Annotation(name, values);
  }

  /** Whether it is one of the persistence standard. */
  boolean isStandard() {
    return name.indexOf('.') < 0;
  }

  private Optional<AnnotationValue> value(String element, AnnotationValue.Kind kind) {
    return Optional.ofNullable(values.get(element)).filter(value -> value.kind() == kind);
  }

  /** A text; empty if it is not given, or is the empty text that stands for the default. */
  Optional<String> text(String element) {
    return value(element, AnnotationValue.Kind.STRING)
        .map(AnnotationValue::asString)
        .filter(text -> !text.isEmpty());
  }

  boolean flag(String element, boolean otherwise) {
    return value(element, AnnotationValue.Kind.BOOLEAN)
        .map(AnnotationValue::asBoolean)
        .orElse(otherwise);
  }

  int number(String element, int otherwise) {
    return value(element, AnnotationValue.Kind.INTEGER)
        .map(AnnotationValue::asInt)
        .orElse(otherwise);
  }

  /** The name of an enum's constant. */
  Optional<String> constant(String element) {
    return value(element, AnnotationValue.Kind.ENUM).map(AnnotationValue::asEnum);
  }

  /** The name of a class. */
  Optional<String> type(String element) {
    return value(element, AnnotationValue.Kind.CLASS)
        .map(value -> value.asClass().name().toString());
  }

  Optional<Annotation> nested(String element) {
    return value(element, AnnotationValue.Kind.NESTED).map(value -> of(value.asNested()));
  }

  private Stream<AnnotationValue> array(String element) {
    return value(element, AnnotationValue.Kind.ARRAY).stream()
        .flatMap(value -> value.asArrayList().stream());
  }

  /** The annotations of an array; none if it is not given. */
  List<Annotation> list(String element) {
    return array(element).map(value -> of(value.asNested())).toList();
  }

  /** The texts of an array; none if it is not given. */
  List<String> texts(String element) {
    return array(element).map(AnnotationValue::asString).toList();
  }
}
