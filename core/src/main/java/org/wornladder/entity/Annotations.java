package org.wornladder.entity;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.objectweb.asm.tree.AnnotationNode;

/** The annotations of a class, a field or a method, by name. */
record Annotations(Map<String, Annotation> all) {
  static Annotations of(List<AnnotationNode> visible, List<AnnotationNode> invisible) {
    Map<String, Annotation> all = new LinkedHashMap<>();
    for (List<AnnotationNode> nodes : List.of(orEmpty(visible), orEmpty(invisible))) {
      nodes.forEach(node -> all.put(Annotation.of(node).name(), Annotation.of(node)));
    }
    return new Annotations(all);
  }

  private static List<AnnotationNode> orEmpty(List<AnnotationNode> nodes) {
    return Optional.ofNullable(nodes).orElse(List.of());
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
