package org.wornladder.entity;

import java.util.List;
import java.util.Optional;

/**
 * An entity, an embeddable class or a mapped superclass.
 *
 * @param name of the class
 * @param superclass the next managed class above it; empty if there is none
 * @param attributes its own ones, and those of the classes between it and its superclass that are
 *     not managed are none
 */
record MappedClass(
    String name,
    Kind kind,
    boolean isAbstract,
    Optional<MappedClass> superclass,
    Annotations annotations,
    List<Attribute> attributes) {
  enum Kind {
    ENTITY,
    EMBEDDABLE,
    MAPPED_SUPERCLASS
  }

  MappedClass {
    attributes = List.copyOf(attributes);
  }

  /** The same with attributes as another class has them. */
  MappedClass with(List<Attribute> others) {
    return new MappedClass(name, kind, isAbstract, superclass, annotations, others);
  }

  boolean isEntity() {
    return kind == Kind.ENTITY;
  }

  /** The name without its package and the class around it. */
  String simpleName() {
    return name.substring(Math.max(name.lastIndexOf('.'), name.lastIndexOf('$')) + 1);
  }

  /** The name by which queries know an entity (Jakarta Persistence, 2.2). */
  String entityName() {
    return annotations.get("Entity").flatMap(one -> one.text("name")).orElse(simpleName());
  }

  /** The entity above it; empty for the root of a hierarchy. */
  Optional<MappedClass> superEntity() {
    return superclass.flatMap(one -> one.isEntity() ? superclass : one.superEntity());
  }

  /** The entity at the top of its hierarchy. */
  MappedClass root() {
    return superEntity().map(MappedClass::root).orElse(this);
  }
}
