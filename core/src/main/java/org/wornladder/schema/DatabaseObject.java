package org.wornladder.schema;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.UnaryOperator;

/** An object of a database that stands by itself, as a database stores it at one moment. */
public sealed interface DatabaseObject extends Described
    permits Table, Sequence, EnumType, DomainType, CompositeType, DefinedObject, Right {
  ObjectId id();

  /** The same with other facts and parts. */
  default DatabaseObject with(Map<String, String> facts, List<? extends Part> parts) {
    return of(id(), facts, parts, dependsOn());
  }

  /** The same with what it needs. */
  default DatabaseObject dependingOn(List<Dependency> needed) {
    return of(id(), facts(), storedParts(), needed);
  }

  /** Its parts, those among them that comparisons leave out. */
  default List<Part> storedParts() {
    return parts();
  }

  /**
   * The object that some facts and parts describe.
   *
   * @throws IllegalArgumentException if the kind is that of a part
   */
  static DatabaseObject of(
      ObjectId id,
      Map<String, String> facts,
      List<? extends Part> parts,
      List<Dependency> dependsOn) {
    return switch (id.kind()) {
      case TABLE, COLLECTION -> Table.of(id, facts, parts, dependsOn);
      case SEQUENCE -> Sequence.of(id, facts, dependsOn);
      case ENUM -> EnumType.of(id, facts);
      case DOMAIN -> DomainType.of(id, facts, parts, dependsOn);
      case COMPOSITE -> CompositeType.of(id, facts, parts, dependsOn);
      case OWNER, GRANT -> Right.of(id, facts);
      default -> DefinedObject.of(id, facts, parts, dependsOn);
    };
  }

  @Override
  default Kind kind() {
    return id().kind();
  }

  @Override
  default String name() {
    return id().displayName();
  }

  /** The table or view that it belongs to and goes with, such as a trigger's. */
  default Optional<ObjectId> owner() {
    return Optional.empty();
  }

  @Override
  default boolean isHidden() {
    return false;
  }

  /** All parts of a kind. */
  default List<Part> parts(Kind wanted) {
    return parts().stream().filter(part -> part.kind() == wanted).toList();
  }

  /** The same with other texts in its facts and those of its parts. */
  default DatabaseObject map(UnaryOperator<String> texts) {
    return with(
        Facts.map(facts(), texts), storedParts().stream().map(part -> part.map(texts)).toList());
  }

  /** The same without the parts that are hidden. */
  default DatabaseObject readable() {
    return parts().stream().noneMatch(Part::isHidden)
        ? this
        : with(facts(), storedParts().stream().filter(part -> !part.isHidden()).toList());
  }
}
