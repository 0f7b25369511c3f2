package org.wornladder.entity;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * References between entities, and what belongs to them in tables of its own (Jakarta Persistence,
 * 2.11 "Relationship Mapping Defaults", 2.7 "Collections of Embeddable Classes and Basic Types").
 */
final class Relations {
  private static final Set<String> KINDS =
      Set.of("ManyToOne", "OneToOne", "OneToMany", "ManyToMany", "ElementCollection");

  private final EntityTables all;

  Relations(EntityTables all) {
    this.all = all;
  }

  boolean isRelation(Attribute attribute) {
    return KINDS.stream().anyMatch(attribute::has);
  }

  void add(EntityTables.Scope scope, Attribute attribute) {
    if (attribute.has("ElementCollection")) {
      elements(scope, attribute);
    } else if (attribute.has("ManyToOne") || attribute.has("OneToOne")) {
      reference(scope, attribute);
    } else if (mappedBy(attribute).isEmpty()) {
      boolean many = attribute.has("ManyToMany");
      boolean inTarget =
          !many && !attribute.has("JoinTable") && !scope.overrides().joins(attribute).isEmpty();
      if (inTarget) {
        referenceInTarget(scope, attribute);
      } else {
        joinTable(scope, attribute, many);
      }
    }
  }

  private static Optional<String> mappedBy(Attribute attribute) {
    for (String kind : List.of("OneToMany", "ManyToMany", "OneToOne")) {
      Optional<String> other =
          attribute.annotations().get(kind).flatMap(one -> one.text("mappedBy"));
      if (other.isPresent()) {
        return other;
      }
    }
    return Optional.empty();
  }

  private MappedClass target(Attribute attribute) {
    for (String kind : List.of("ManyToOne", "OneToOne", "OneToMany", "ManyToMany")) {
      Optional<String> named =
          attribute.annotations().get(kind).flatMap(one -> one.type("targetEntity"));
      if (named.isPresent()) {
        return all.entity(named.get(), attribute.where());
      }
    }
    return all.entity(attribute.elementType(), attribute.where());
  }

  /**
   * The columns that point to an entity.
   *
   * @param described how each is described; fewer, or none, where the default is meant
   * @param prefix what stands in front of the target's column in a default name
   */
  private List<ModelColumn> columns(
      MappedClass target,
      List<Annotation> described,
      String prefix,
      boolean mayBeAbsent,
      String where) {
    List<ModelColumn> key = all.key(target);
    List<ModelColumn> columns = new ArrayList<>();
    for (int i = 0; i < Math.max(1, key.size()); i++) {
      int place = i;
      Optional<Annotation> own = describing(described, key, place);
      ModelColumn to =
          own.flatMap(one -> one.text("referencedColumnName"))
              .map(name -> referenced(target, name, where))
              .orElse(key.get(place));
      String name =
          all.naming()
              .of(
                  own.flatMap(one -> one.text("name"))
                      .orElse(prefix + "_" + Naming.plain(to.name())));
      boolean nullable = mayBeAbsent && own.map(one -> one.flag("nullable", true)).orElse(true);
      ModelColumn column = to.reference(name, nullable);
      columns.add(
          own.flatMap(one -> one.text("columnDefinition"))
              .map(
                  text ->
                      ModelColumn.of(
                          name,
                          new ColumnType(to.type().key(), 0, 0, -1, List.of(), text),
                          nullable))
              .orElse(column));
    }
    return columns;
  }

  /** The description of the column that points to one of the key: by its name, or by its place. */
  private Optional<Annotation> describing(
      List<Annotation> described, List<ModelColumn> key, int place) {
    if (described.size() == 1 && key.size() == 1) {
      return Optional.of(described.get(0));
    }
    return described.stream()
        .filter(
            one ->
                one.text("referencedColumnName")
                    .map(all.naming()::of)
                    .filter(key.get(place).name()::equalsIgnoreCase)
                    .isPresent())
        .findFirst()
        .or(() -> place < described.size() ? Optional.of(described.get(place)) : Optional.empty());
  }

  private ModelColumn referenced(MappedClass target, String name, String where) {
    String column = all.naming().of(name);
    return all.key(target).stream()
        .filter(one -> one.name().equalsIgnoreCase(column))
        .findFirst()
        .or(() -> basicColumn(target, column))
        .orElseThrow(
            () ->
                new ModelException(
                    "there is no column '" + name + "' in " + target.name(),
                    where,
                    "write the name of one of its columns as referencedColumnName"));
  }

  private Optional<ModelColumn> basicColumn(MappedClass target, String column) {
    Overrides overrides = Overrides.of(target.annotations());
    return all.attributes(target).stream()
        .filter(one -> !isRelation(one) && !one.has("Id") && !all.isEmbedded(one))
        .filter(one -> !one.has("EmbeddedId"))
        .map(one -> all.basic(one, overrides, true))
        .filter(one -> one.name().equalsIgnoreCase(column))
        .findFirst();
  }

  /** The columns of a reference that is part of an entity's own key. */
  List<ModelColumn> referenceColumns(
      MappedClass entity, Attribute attribute, Overrides overrides, boolean mayBeAbsent) {
    return columns(
        target(attribute),
        joins(attribute, overrides),
        attribute.name(),
        mayBeAbsent,
        attribute.where());
  }

  private static List<Annotation> joins(Attribute attribute, Overrides overrides) {
    List<Annotation> joins = overrides.joins(attribute);
    return joins.isEmpty()
        ? attribute.annotations().repeated("PrimaryKeyJoinColumn", "PrimaryKeyJoinColumns")
        : joins;
  }

  private void reference(EntityTables.Scope scope, Attribute attribute) {
    if (mappedBy(attribute).isPresent()) {
      return;
    }
    if (attribute.has("JoinTable")) {
      joinTable(scope, attribute, false);
      return;
    }
    boolean isKey = attribute.has("Id") || attribute.has("MapsId");
    boolean sharesKey =
        attribute.has("PrimaryKeyJoinColumn") || attribute.has("PrimaryKeyJoinColumns");
    MappedClass target = target(attribute);
    List<Annotation> joins = joins(attribute, scope.overrides());
    boolean optional =
        attribute
            .annotations()
            .get("ManyToOne")
            .or(() -> attribute.annotations().get("OneToOne"))
            .map(one -> one.flag("optional", true))
            .orElse(true);
    if (sharesKey && !isKey) {
      foreignKey(scope.table(), all.key(scope.entity()), target, all.key(target), joins);
      return;
    }
    List<ModelColumn> columns =
        columns(
            target,
            joins,
            attribute.name(),
            (optional || scope.mayBeAbsent()) && !isKey,
            attribute.where());
    List<ModelColumn> placed =
        scope.mayBeAbsent() ? columns.stream().map(one -> one.nullable(true)).toList() : columns;
    placed.forEach(scope.table()::add);
    boolean unique =
        attribute.has("OneToOne") && !isKey
            || joins.size() == 1 && joins.get(0).flag("unique", false);
    if (unique) {
      scope.table().addUnique(new ModelTable.Unique("", EntityTables.names(placed)));
    }
    foreignKey(scope.table(), placed, target, targets(target, joins, attribute), joins);
  }

  /** The columns to which join columns point. */
  private List<ModelColumn> targets(
      MappedClass target, List<Annotation> joins, Attribute attribute) {
    List<ModelColumn> key = all.key(target);
    List<ModelColumn> targets = new ArrayList<>();
    for (int i = 0; i < key.size(); i++) {
      ModelColumn own = key.get(i);
      targets.add(
          describing(joins, key, i)
              .flatMap(one -> one.text("referencedColumnName"))
              .map(name -> referenced(target, name, attribute.where()))
              .orElse(own));
    }
    return targets;
  }

  private void foreignKey(
      ModelTable table,
      List<ModelColumn> columns,
      MappedClass target,
      List<ModelColumn> targets,
      List<Annotation> joins) {
    Optional<Annotation> described =
        joins.stream().flatMap(one -> one.nested("foreignKey").stream()).findFirst();
    boolean wanted =
        described.flatMap(one -> one.constant("value")).filter("NO_CONSTRAINT"::equals).isEmpty();
    if (wanted && !all.isScattered(target)) {
      table.addReference(
          new ModelTable.Reference(
              described.flatMap(one -> one.text("name")).orElse(""),
              EntityTables.names(columns),
              all.table(target).name(),
              EntityTables.names(targets)));
    }
  }

  /** A list without a table of its own: the rows of the other entity point back. */
  private void referenceInTarget(EntityTables.Scope scope, Attribute attribute) {
    MappedClass target = target(attribute);
    ModelTable table = all.table(target);
    List<Annotation> joins = joins(attribute, scope.overrides());
    List<ModelColumn> columns =
        columns(scope.entity(), joins, attribute.name(), true, attribute.where());
    columns.forEach(table::add);
    foreignKey(table, columns, scope.entity(), targets(scope.entity(), joins, attribute), joins);
    orderOrKey(attribute, scope.overrides(), table, true);
  }

  private void joinTable(EntityTables.Scope scope, Attribute attribute, boolean many) {
    MappedClass target = target(attribute);
    Optional<Annotation> described = attribute.annotations().get("JoinTable");
    String name =
        described
            .flatMap(one -> one.text("name"))
            .orElse(
                Naming.plain(scope.table().name().table())
                    + "_"
                    + Naming.plain(all.table(target).name().table()));
    ModelTable table = ownTable(described, name, attribute);
    List<Annotation> joins = described.map(one -> one.list("joinColumns")).orElse(List.of());
    List<Annotation> inverse =
        described.map(one -> one.list("inverseJoinColumns")).orElse(List.of());
    String back = backName(scope.entity(), target, attribute);
    List<ModelColumn> own = columns(scope.entity(), joins, back, false, attribute.where());
    List<ModelColumn> other = columns(target, inverse, attribute.name(), false, attribute.where());
    own.forEach(table::add);
    other.forEach(table::add);
    foreignKey(table, own, scope.entity(), all.key(scope.entity()), joins);
    foreignKey(table, other, target, all.key(target), inverse);
    if (!many && attribute.has("OneToMany")) {
      table.addUnique(new ModelTable.Unique("", EntityTables.names(other)));
    }
    List<String> order = orderOrKey(attribute, scope.overrides(), table, false);
    if (!attribute.isCollection()) {
      own.forEach(one -> table.addToKey(one.name()));
    } else if (!order.isEmpty() || attribute.isSet()) {
      own.forEach(one -> table.addToKey(one.name()));
      (order.isEmpty() ? EntityTables.names(other) : order).forEach(table::addToKey);
    }
    described.ifPresent(one -> all.tableParts(one, table));
    all.addTable(table);
  }

  private ModelTable ownTable(Optional<Annotation> described, String name, Attribute attribute) {
    return new ModelTable(
        new ModelTable.Name(
            described.flatMap(one -> one.text("schema")).map(all.naming()::of).orElse(""),
            all.naming().of(name)),
        attribute.where());
  }

  /** The name of the other side's attribute, or else of the entity (11.1.25 "JoinColumn"). */
  private String backName(MappedClass entity, MappedClass target, Attribute attribute) {
    return all.attributes(target).stream()
        .filter(one -> mappedBy(one).filter(attribute.name()::equals).isPresent())
        .filter(one -> target(one).root().name().equals(entity.root().name()))
        .map(Attribute::name)
        .findFirst()
        .orElse(entity.entityName());
  }

  /** The column for an element's place, or for its key in a map; returns its name. */
  private List<String> orderOrKey(
      Attribute attribute, Overrides overrides, ModelTable table, boolean nullable) {
    Optional<Annotation> order = attribute.annotations().get("OrderColumn");
    if (order.isPresent()) {
      String name = all.naming().of(order.get().text("name").orElse(attribute.name() + "_ORDER"));
      table.add(
          ModelColumn.of(
              name,
              ColumnType.of("java.lang.Integer"),
              nullable && order.get().flag("nullable", true)));
      return List.of(name);
    }
    if (!attribute.isMap() || attribute.has("MapKey")) {
      return List.of();
    }
    return mapKey(attribute, overrides, table, nullable);
  }

  private List<String> mapKey(
      Attribute attribute, Overrides overrides, ModelTable table, boolean nullable) {
    String type = attribute.arguments().isEmpty() ? "" : attribute.arguments().get(0);
    Optional<MappedClass> managed =
        type.startsWith("java.") ? Optional.empty() : all.classes().findIfThere(type);
    if (managed.filter(MappedClass::isEntity).isPresent()) {
      List<Annotation> joins =
          attribute.annotations().repeated("MapKeyJoinColumn", "MapKeyJoinColumns");
      List<ModelColumn> columns =
          columns(managed.get(), joins, attribute.name() + "_KEY", nullable, attribute.where());
      columns.forEach(table::add);
      foreignKey(table, columns, managed.get(), all.key(managed.get()), joins);
      return EntityTables.names(columns);
    }
    if (managed.isPresent()) {
      List<ModelColumn> columns =
          all.attributes(managed.get()).stream()
              .map(one -> all.basic(one, overrides.inside(attribute).below("key"), nullable))
              .toList();
      columns.forEach(table::add);
      return EntityTables.names(columns);
    }
    Optional<Annotation> described = attribute.annotations().get("MapKeyColumn");
    String name =
        all.naming()
            .of(described.flatMap(one -> one.text("name")).orElse(attribute.name() + "_KEY"));
    ColumnType column = all.basics().of(attribute, type, described, "MapKey");
    table.add(new ModelColumn(name, column, nullable, false, all.basics().check(column)));
    return List.of(name);
  }

  /** Values that have no identity of their own, in a table of theirs. */
  private void elements(EntityTables.Scope scope, Attribute attribute) {
    Optional<Annotation> described = attribute.annotations().get("CollectionTable");
    String name =
        described
            .flatMap(one -> one.text("name"))
            .orElse(scope.entity().entityName() + "_" + attribute.name());
    ModelTable table = ownTable(described, name, attribute);
    List<Annotation> joins = described.map(one -> one.list("joinColumns")).orElse(List.of());
    List<ModelColumn> own =
        columns(scope.entity(), joins, scope.entity().entityName(), false, attribute.where());
    own.forEach(table::add);
    foreignKey(table, own, scope.entity(), all.key(scope.entity()), joins);
    List<String> order = orderOrKey(attribute, scope.overrides(), table, false);
    boolean embedded =
        !attribute.elementType().startsWith("java.")
            && all.classes()
                .findIfThere(attribute.elementType())
                .filter(one -> one.kind() == MappedClass.Kind.EMBEDDABLE)
                .isPresent();
    if (embedded) {
      Overrides overrides = scope.overrides().inside(attribute);
      all.attributes(
          new EntityTables.Scope(
              scope.entity(),
              table,
              Map.of(),
              attribute.isMap() ? overrides.below("value") : overrides,
              false),
          all.attributes(all.embeddable(attribute)));
    } else {
      element(attribute, scope.overrides(), table);
    }
    if (!order.isEmpty()) {
      own.forEach(one -> table.addToKey(one.name()));
      order.forEach(table::addToKey);
    } else if (attribute.isSet() && table.columns().stream().noneMatch(ModelColumn::nullable)) {
      table.columns().forEach(one -> table.addToKey(one.name()));
    }
    described.ifPresent(one -> all.tableParts(one, table));
    all.addTable(table);
  }

  private void element(Attribute attribute, Overrides overrides, ModelTable table) {
    Optional<Annotation> described = overrides.column(attribute);
    String name =
        all.naming().of(described.flatMap(one -> one.text("name")).orElse(attribute.name()));
    ColumnType type = all.basics().of(attribute, attribute.elementType(), described, "");
    boolean nullable = described.map(one -> one.flag("nullable", true)).orElse(true);
    table.add(new ModelColumn(name, type, nullable, false, all.basics().check(type)));
  }
}
