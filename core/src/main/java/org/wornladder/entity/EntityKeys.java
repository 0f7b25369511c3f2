package org.wornladder.entity;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/** The primary keys of entities (Jakarta Persistence, 2.4 "Primary Keys and Entity Identity"). */
final class EntityKeys {
  private final EntityTables all;
  private final Map<String, List<ModelColumn>> keys = new HashMap<>();

  /** The entities whose keys are being found. */
  private final Set<String> open = new HashSet<>();

  EntityKeys(EntityTables all) {
    this.all = all;
  }

  /** The columns of an entity's primary key, as its own table has them. */
  List<ModelColumn> of(MappedClass entity) {
    if (keys.containsKey(entity.name())) {
      return keys.get(entity.name());
    }
    if (!open.add(entity.name())) {
      throw new ModelException(
          "its key is made of a key that is made of its own", entity.name(), "give it an own @Id");
    }
    List<ModelColumn> key =
        all.isJoined(entity)
            ? joinedKey(entity)
            : entity.superEntity().isPresent() ? of(entity.root()) : rootKey(entity);
    open.remove(entity.name());
    keys.put(entity.name(), key);
    return key;
  }

  private List<ModelColumn> joinedKey(MappedClass entity) {
    List<Annotation> described =
        entity.annotations().repeated("PrimaryKeyJoinColumn", "PrimaryKeyJoinColumns");
    List<ModelColumn> above = of(entity.superEntity().orElseThrow());
    List<ModelColumn> own = new ArrayList<>();
    for (int i = 0; i < above.size(); i++) {
      Optional<String> name =
          i < described.size() ? described.get(i).text("name") : Optional.empty();
      own.add(
          above.get(i).reference(name.map(all.naming()::of).orElse(above.get(i).name()), false));
    }
    return own;
  }

  private List<ModelColumn> rootKey(MappedClass entity) {
    List<ModelColumn> key = new ArrayList<>();
    for (Attribute attribute : all.attributes(entity)) {
      if (attribute.has("EmbeddedId")) {
        embeddedKey(entity, attribute, key);
      } else if (attribute.has("Id")) {
        if (attribute.has("ManyToOne") || attribute.has("OneToOne")) {
          key.addAll(
              all.relations()
                  .referenceColumns(entity, attribute, EntityTables.overrides(entity), false));
        } else {
          Optional<Attribute> derived = mapping(entity, "");
          if (derived.isPresent()) {
            key.addAll(
                all.relations()
                    .referenceColumns(
                        entity, derived.get(), EntityTables.overrides(entity), false));
          } else {
            ModelColumn column = all.basic(attribute, EntityTables.overrides(entity), false);
            key.add(
                new ModelColumn(
                    column.name(),
                    column.type(),
                    false,
                    all.generators().isIdentity(attribute, entity),
                    Optional.empty()));
          }
        }
      }
    }
    if (key.isEmpty()) {
      throw new ModelException("the entity has no identifier", entity.name(), "give it an @Id");
    }
    return key;
  }

  private void embeddedKey(MappedClass entity, Attribute id, List<ModelColumn> key) {
    Optional<Attribute> whole = mapping(entity, "");
    if (whole.isPresent()) {
      key.addAll(
          all.relations()
              .referenceColumns(entity, whole.get(), EntityTables.overrides(entity), false));
      return;
    }
    Overrides overrides = EntityTables.overrides(entity).inside(id);
    for (Attribute part : all.attributes(all.embeddable(id))) {
      Optional<Attribute> mapped = mapping(entity, part.name());
      if (mapped.isPresent()) {
        key.addAll(
            all.relations()
                .referenceColumns(entity, mapped.get(), EntityTables.overrides(entity), false));
      } else {
        key.add(all.basic(part, overrides, false));
      }
    }
  }

  /**
   * The reference that gives an identifier its values.
   *
   * @param part of an embedded identifier; empty for the whole one
   */
  private Optional<Attribute> mapping(MappedClass entity, String part) {
    return all.attributes(entity).stream()
        .filter(
            one ->
                one.annotations()
                    .get("MapsId")
                    .filter(maps -> maps.text("value").orElse("").equals(part))
                    .isPresent())
        .findFirst();
  }
}
