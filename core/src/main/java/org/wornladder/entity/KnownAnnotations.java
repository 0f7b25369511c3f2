package org.wornladder.entity;

import java.util.List;
import java.util.Set;

/**
 * Which annotations are understood. What says nothing of a table may stand anywhere; others that
 * are not known are named, since a table might depend on them.
 */
final class KnownAnnotations {
  /** Those from which tables follow. */
  private static final Set<String> READ =
      Set.of(
          "Access",
          "AssociationOverride",
          "AssociationOverrides",
          "AttributeOverride",
          "AttributeOverrides",
          "Basic",
          "CollectionTable",
          "Column",
          "Convert",
          "Converter",
          "Converts",
          "DiscriminatorColumn",
          "DiscriminatorValue",
          "ElementCollection",
          "Embeddable",
          "Embedded",
          "EmbeddedId",
          "Entity",
          "Enumerated",
          "GeneratedValue",
          "Id",
          "IdClass",
          "Inheritance",
          "JoinColumn",
          "JoinColumns",
          "JoinTable",
          "Lob",
          "ManyToMany",
          "ManyToOne",
          "MapKey",
          "MapKeyColumn",
          "MapKeyEnumerated",
          "MapKeyJoinColumn",
          "MapKeyTemporal",
          "MappedSuperclass",
          "MapsId",
          "OneToMany",
          "OneToOne",
          "OrderColumn",
          "PrimaryKeyJoinColumn",
          "PrimaryKeyJoinColumns",
          "SecondaryTable",
          "SecondaryTables",
          "SequenceGenerator",
          "SequenceGenerators",
          "Table",
          "TableGenerator",
          "TableGenerators",
          "Temporal",
          "Transient",
          "Version");

  /** Those of the standard that say nothing of a table. */
  private static final Set<String> WITHOUT_TABLE =
      Set.of(
          "Cacheable",
          "EntityListeners",
          "EnumeratedValue",
          "ExcludeDefaultListeners",
          "ExcludeSuperclassListeners",
          "NamedEntityGraph",
          "NamedEntityGraphs",
          "NamedNativeQueries",
          "NamedNativeQuery",
          "NamedQueries",
          "NamedQuery",
          "NamedStoredProcedureQueries",
          "NamedStoredProcedureQuery",
          "OrderBy",
          "PostLoad",
          "PostPersist",
          "PostRemove",
          "PostUpdate",
          "PrePersist",
          "PreRemove",
          "PreUpdate",
          "SqlResultSetMapping",
          "SqlResultSetMappings");

  /** The beginnings of packages whose annotations may change what a provider stores. */
  private static final List<String> OF_PROVIDERS =
      List.of("org.hibernate.annotations.", "org.eclipse.persistence.annotations.");

  private final Set<String> passedOver;

  /**
   * @param passedOver whole names of others that may stand there
   */
  KnownAnnotations(Set<String> passedOver) {
    this.passedOver = Set.copyOf(passedOver);
  }

  /**
   * Sees that all of them are understood.
   *
   * @param where the class, and its attribute
   */
  void check(Annotations annotations, String where) {
    for (Annotation one : annotations.all().values()) {
      boolean known =
          one.isStandard()
              ? READ.contains(one.name()) || WITHOUT_TABLE.contains(one.name())
              : OF_PROVIDERS.stream().noneMatch(one.name()::startsWith);
      if (!known && !passedOver.contains(one.name())) {
        throw new ModelException(
            "the annotation @" + one.name() + " is not understood",
            where,
            "where no table depends on it, add "
                + one.name()
                + " to entities: pass-over: in"
                + " ladder.yaml");
      }
    }
  }
}
