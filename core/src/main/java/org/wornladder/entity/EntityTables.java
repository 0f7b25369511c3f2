package org.wornladder.entity;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * The tables of entities: their columns, keys and hierarchies (Jakarta Persistence, 2.12
 * "Inheritance Mapping Strategies", 11 "Metadata for Object/Relational Mapping").
 */
final class EntityTables {
  private static final String SINGLE_TABLE = "SINGLE_TABLE";
  private static final String TABLE_PER_CLASS = "TABLE_PER_CLASS";
  private static final int DISCRIMINATOR_LENGTH = 31;

  private final ClassMapping classes;
  private final BasicTypes basics;
  private final Naming naming;
  private final List<MappedClass> entities;
  private final Generators generators;
  private final Map<String, ModelTable> tables = new LinkedHashMap<>();
  private final List<ModelTable> others = new ArrayList<>();
  private final EntityKeys keys = new EntityKeys(this);
  private final Relations relations;

  /** Where attributes go. */
  record Scope(
      MappedClass entity,
      ModelTable table,
      Map<String, ModelTable> secondary,
      Overrides overrides,
      boolean mayBeAbsent) {
    Scope inside(Attribute attribute) {
      return new Scope(entity, table, secondary, overrides.inside(attribute), mayBeAbsent);
    }
  }

  EntityTables(ClassMapping classes, BasicTypes basics, Naming naming, boolean hasSequences) {
    this.classes = classes;
    this.basics = basics;
    this.naming = naming;
    entities = classes.entities();
    if (entities.isEmpty()) {
      throw new ModelException(
          "no class there is an entity",
          "the folders and jars that were named",
          "name the folder into which the application's classes are compiled");
    }
    generators = new Generators(naming, hasSequences, entities);
    relations = new Relations(this);
    build();
  }

  List<ModelTable> tables() {
    List<ModelTable> all = new ArrayList<>(new LinkedHashSet<>(tables.values()));
    all.addAll(others);
    all.addAll(generators.tables());
    return all;
  }

  List<ModelSequence> sequences() {
    return generators.sequences();
  }

  ClassMapping classes() {
    return classes;
  }

  BasicTypes basics() {
    return basics;
  }

  Naming naming() {
    return naming;
  }

  List<MappedClass> entities() {
    return entities;
  }

  void addTable(ModelTable table) {
    others.add(table);
  }

  private void build() {
    for (MappedClass entity : entities) {
      makeTable(entity);
    }
    for (MappedClass entity : entities) {
      keyInTable(entity);
    }
    for (MappedClass entity : entities) {
      if (tables.containsKey(entity.name())) {
        columns(entity);
      }
    }
  }

  /** How a hierarchy is stored; a class alone is one as well. */
  String strategy(MappedClass entity) {
    return entity
        .root()
        .annotations()
        .get("Inheritance")
        .flatMap(one -> one.constant("strategy"))
        .orElse(SINGLE_TABLE);
  }

  /** Whether an entity's rows stand beside those of the entity above it. */
  boolean isJoined(MappedClass entity) {
    return strategy(entity).equals("JOINED") && entity.superEntity().isPresent();
  }

  private boolean hasSubclasses(MappedClass entity) {
    return entities.stream()
        .anyMatch(
            one ->
                one.superEntity().map(MappedClass::name).filter(entity.name()::equals).isPresent());
  }

  /**
   * Whether rows of an entity stand in several tables, so that no foreign key can point to them.
   */
  boolean isScattered(MappedClass entity) {
    return strategy(entity).equals(TABLE_PER_CLASS) && hasSubclasses(entity);
  }

  private void makeTable(MappedClass entity) {
    String strategy = strategy(entity);
    boolean inRoot = strategy.equals(SINGLE_TABLE) && entity.superEntity().isPresent();
    boolean noRows = strategy.equals(TABLE_PER_CLASS) && entity.isAbstract();
    if (inRoot || noRows) {
      return;
    }
    Optional<Annotation> described = entity.annotations().get("Table");
    ModelTable table =
        new ModelTable(
            name(described, described.flatMap(one -> one.text("name")).orElse(entity.entityName())),
            entity.name());
    for (ModelTable other : tables.values()) {
      if (other.name().isSame(table.name())) {
        throw new ModelException(
            "two entities have the table " + table.name().table(),
            other.where() + " and " + entity.name(),
            "give one of them another table by @Table, or make them one hierarchy");
      }
    }
    tables.put(entity.name(), table);
    described.ifPresent(one -> tableParts(one, table));
  }

  private ModelTable.Name name(Optional<Annotation> described, String name) {
    return new ModelTable.Name(
        described.flatMap(one -> one.text("schema")).map(naming::of).orElse(""), naming.of(name));
  }

  /** What {@code @Table} and its like say of unique keys, indexes and conditions. */
  void tableParts(Annotation described, ModelTable table) {
    for (Annotation one : described.list("uniqueConstraints")) {
      table.addUnique(
          new ModelTable.Unique(
              one.text("name").orElse(""),
              one.texts("columnNames").stream().map(naming::of).toList()));
    }
    for (Annotation one : described.list("indexes")) {
      List<String> columns = new ArrayList<>();
      for (String part : one.text("columnList").orElse("").split(",")) {
        String[] words = part.strip().split("\\s+", 2);
        columns.add(naming.of(words[0]) + (words.length > 1 ? " " + words[1] : ""));
      }
      String name = one.text("name").map(naming::of).orElseGet(() -> indexName(table, columns));
      table.addIndex(new ModelTable.ModelIndex(name, columns, one.flag("unique", false)));
    }
    described.list("check").forEach(one -> one.text("constraint").ifPresent(table::addCheck));
  }

  /** An index must have a name: the table's and the columns'. */
  private static String indexName(ModelTable table, List<String> columns) {
    List<String> parts = new ArrayList<>(List.of(Naming.plain(table.name().table())));
    columns.forEach(column -> parts.add(Naming.plain(column.split(" ")[0])));
    return String.join("_", parts);
  }

  /** The table with an entity's own rows. */
  ModelTable table(MappedClass entity) {
    return Optional.ofNullable(tables.get(entity.name()))
        .or(() -> Optional.ofNullable(tables.get(entity.root().name())))
        .orElseThrow(
            () ->
                new ModelException(
                    "no table has the rows of this class, which is abstract",
                    entity.name(),
                    "point to one of its subclasses"));
  }

  /**
   * The entity of a class.
   *
   * @param where the attribute that points to it
   */
  MappedClass entity(String type, String where) {
    return classes
        .find(type)
        .filter(MappedClass::isEntity)
        .orElseThrow(
            () ->
                new ModelException(
                    type + " is not an entity", where, "point to an entity, or embed the class"));
  }

  /** The columns of an entity's primary key, as its own table has them. */
  List<ModelColumn> key(MappedClass entity) {
    return keys.of(entity);
  }

  Relations relations() {
    return relations;
  }

  Generators generators() {
    return generators;
  }

  MappedClass embeddable(Attribute attribute) {
    return classes
        .embeddable(attribute.elementType(), attribute.isProperty())
        .orElseThrow(
            () ->
                new ModelException(
                    attribute.elementType() + " is not embeddable",
                    attribute.where(),
                    "write @Embeddable on the class"));
  }

  boolean isEmbedded(Attribute attribute) {
    return attribute.has("Embedded")
        || !basics.isConverted(attribute)
            && !attribute.has("Convert")
            && attribute.type().indexOf('.') > 0
            && !attribute.type().endsWith("[]")
            && !attribute.isCollection()
            && !attribute.type().startsWith("java.")
            && classes
                .findIfThere(attribute.type())
                .filter(one -> one.kind() == MappedClass.Kind.EMBEDDABLE)
                .isPresent();
  }

  /** Its own attributes, and those of the mapped superclasses up to the next entity. */
  List<Attribute> attributes(MappedClass entity) {
    List<Attribute> all = new ArrayList<>();
    Optional<MappedClass> next = entity.superclass();
    while (next.isPresent() && !next.get().isEntity()) {
      all.addAll(0, next.get().attributes());
      next = next.get().superclass();
    }
    all.addAll(entity.attributes());
    return all;
  }

  /** With those of all entities above, too. */
  private List<Attribute> allAttributes(MappedClass entity) {
    List<Attribute> all = new ArrayList<>();
    entity.superEntity().ifPresent(above -> all.addAll(allAttributes(above)));
    all.addAll(attributes(entity));
    return all;
  }

  static Overrides overrides(MappedClass entity) {
    return Overrides.of(entity.annotations());
  }

  private void keyInTable(MappedClass entity) {
    if (!tables.containsKey(entity.name())) {
      return;
    }
    ModelTable table = tables.get(entity.name());
    List<ModelColumn> key = key(entity);
    boolean isJoined = isJoined(entity);
    for (ModelColumn column : key) {
      table.add(column);
      table.addToKey(column.name());
    }
    if (isJoined) {
      MappedClass above = entity.superEntity().orElseThrow();
      table.addReference(
          new ModelTable.Reference("", names(key), table(above).name(), names(key(above))));
    }
  }

  static List<String> names(List<ModelColumn> columns) {
    return columns.stream().map(ModelColumn::name).toList();
  }

  private void columns(MappedClass entity) {
    ModelTable table = tables.get(entity.name());
    discriminator(entity, table);
    boolean perClass = strategy(entity).equals(TABLE_PER_CLASS);
    attributes(scope(entity, table, false), perClass ? allAttributes(entity) : attributes(entity));
    if (strategy(entity).equals(SINGLE_TABLE)) {
      for (MappedClass other : entities) {
        if (!other.equals(entity) && other.root().name().equals(entity.name())) {
          attributes(scope(other, table, true), attributes(other));
        }
      }
    }
  }

  private Scope scope(MappedClass entity, ModelTable table, boolean mayBeAbsent) {
    Map<String, ModelTable> secondary = new HashMap<>();
    for (Annotation one : entity.annotations().repeated("SecondaryTable", "SecondaryTables")) {
      String name = one.text("name").orElse("");
      ModelTable made = new ModelTable(name(Optional.of(one), name), entity.name());
      List<ModelColumn> key = key(entity);
      List<Annotation> described = one.list("pkJoinColumns");
      List<String> own = new ArrayList<>();
      for (int i = 0; i < key.size(); i++) {
        String column =
            i < described.size()
                ? described.get(i).text("name").map(naming::of).orElse(key.get(i).name())
                : key.get(i).name();
        made.add(key.get(i).reference(column, false));
        made.addToKey(column);
        own.add(column);
      }
      made.addReference(new ModelTable.Reference("", own, table.name(), names(key)));
      tableParts(one, made);
      others.add(made);
      secondary.put(name, made);
    }
    return new Scope(entity, table, secondary, overrides(entity), mayBeAbsent);
  }

  /** Which class a row is of. */
  private void discriminator(MappedClass entity, ModelTable table) {
    Optional<Annotation> described = entity.annotations().get("DiscriminatorColumn");
    boolean isSingle = strategy(entity).equals(SINGLE_TABLE) && hasSubclasses(entity);
    boolean isRoot = entity.superEntity().isEmpty();
    if (!isRoot || described.isEmpty() && !isSingle) {
      return;
    }
    String name = described.flatMap(one -> one.text("name")).orElse("DTYPE");
    String kind = described.flatMap(one -> one.constant("discriminatorType")).orElse("STRING");
    ColumnType type =
        switch (kind) {
          case "CHAR" -> ColumnType.of("java.lang.Character");
          case "INTEGER" -> ColumnType.of("java.lang.Integer");
          default ->
              ColumnType.of("java.lang.String")
                  .withLength(
                      described
                          .map(one -> one.number("length", DISCRIMINATOR_LENGTH))
                          .orElse(DISCRIMINATOR_LENGTH));
        };
    table.add(ModelColumn.of(naming.of(name), type, false));
  }

  void attributes(Scope scope, List<Attribute> attributes) {
    for (Attribute attribute : attributes) {
      boolean isKey = attribute.has("Id") || attribute.has("EmbeddedId");
      if (relations.isRelation(attribute)) {
        relations.add(scope, attribute);
      } else if (isKey) {
        continue;
      } else if (isEmbedded(attribute)) {
        attributes(scope.inside(attribute), attributes(embeddable(attribute)));
      } else {
        basicInto(scope, attribute);
      }
    }
  }

  private void basicInto(Scope scope, Attribute attribute) {
    Optional<Annotation> described = scope.overrides().column(attribute);
    ModelTable table =
        described
            .flatMap(one -> one.text("table"))
            .filter(name -> !naming.of(name).equals(scope.table().name().table()))
            .map(
                name ->
                    Optional.ofNullable(scope.secondary().get(name))
                        .orElseThrow(
                            () ->
                                new ModelException(
                                    "there is no secondary table '" + name + "'",
                                    attribute.where(),
                                    "declare it by @SecondaryTable")))
            .orElse(scope.table());
    ModelColumn column = basic(attribute, scope.overrides(), scope.mayBeAbsent());
    table.add(column);
    if (described.filter(one -> one.flag("unique", false)).isPresent()) {
      table.addUnique(new ModelTable.Unique("", List.of(column.name())));
    }
    described
        .map(one -> one.list("check"))
        .orElse(List.of())
        .forEach(one -> one.text("constraint").ifPresent(table::addCheck));
  }

  /** The column of an attribute that is one value. */
  ModelColumn basic(Attribute attribute, Overrides overrides, boolean mayBeAbsent) {
    Optional<Annotation> described = overrides.column(attribute);
    String name = naming.of(described.flatMap(one -> one.text("name")).orElse(attribute.name()));
    ColumnType type = basics.of(attribute, attribute.type(), described, "");
    boolean optional =
        attribute.annotations().get("Basic").map(one -> one.flag("optional", true)).orElse(true)
            && described.map(one -> one.flag("nullable", true)).orElse(true)
            && !attribute.isPrimitive();
    return new ModelColumn(name, type, optional || mayBeAbsent, false, basics.check(type));
  }
}
