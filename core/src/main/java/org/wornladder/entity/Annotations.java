package org.wornladder.entity;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jboss.jandex.AnnotationTarget;

/** The annotations of a class, a field or a method, by name. */
record Annotations(Map<String, Annotation> all) {
  static Annotations of(AnnotationTarget target) {
    Map<String, Annotation> all = new LinkedHashMap<>();
    target.declaredAnnotations().stream()
        .map(Annotation::of)
        .forEach(one -> all.put(one.name(), one));
    return new Annotations(all);
  }

  Optional<Annotation> get(String name) {
    return Optional.ofNullable(all.get(name));
  }

  boolean has(String name) {
    return all.containsKey(name);
  }

  /** A repeatable annotation, alone or in the one that contains several. */
  List<Annotation> repeated(String single, String container) {
    List<Annotation> found = new ArrayList<>();
    get(single).ifPresent(found::add);
    get(container).ifPresent(one -> found.addAll(one.list("value")));
    return found;
  }
}
