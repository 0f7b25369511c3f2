package org.wornladder.entity;

import java.lang.reflect.Modifier;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jboss.jandex.AnnotationTarget;
import org.jboss.jandex.ClassInfo;
import org.jboss.jandex.DotName;
import org.jboss.jandex.FieldInfo;
import org.jboss.jandex.MethodInfo;
import org.jboss.jandex.Type;
import org.jboss.jandex.TypeVariable;

/**
 * Finds the managed classes of a path, with their attributes (Jakarta Persistence, 2.3 "Persistent
 * Fields and Properties").
 */
final class ClassMapping {
  private static final String ID = "Id";
  private static final String EMBEDDED_ID = "EmbeddedId";

  private final ClassPath path;
  private final KnownAnnotations known;
  private final Map<String, Optional<MappedClass>> mapped = new LinkedHashMap<>();
  private final Set<String> open = new HashSet<>();

  ClassMapping(ClassPath path, KnownAnnotations known) {
    this.path = path;
    this.known = known;
  }

  /** The entities, by the names of their classes. */
  List<MappedClass> entities() {
    List<MappedClass> entities = new ArrayList<>();
    for (String name : path.names()) {
      if (annotations(path.find(name).orElseThrow()).has("Entity")) {
        entities.add(find(name.replace('/', '.')).orElseThrow());
      }
    }
    return entities;
  }

  /**
   * The classes that convert values, by the class of the attributes that they convert by
   * themselves.
   */
  Map<String, String> converters() {
    Map<String, String> converters = new HashMap<>();
    for (String name : path.names()) {
      ClassInfo node = path.find(name).orElseThrow();
      boolean applies =
          annotations(node)
              .get("Converter")
              .filter(one -> one.flag("autoApply", false))
              .isPresent();
      if (applies) {
        converters.put(converted(name.replace('/', '.'), 0), name.replace('/', '.'));
      }
    }
    return converters;
  }

  /**
   * One of the two types that a converter converts.
   *
   * @param place 0 for the attribute's, 1 for the column's
   */
  String converted(String converter, int place) {
    ClassInfo node = node(converter, converter);
    for (Type implemented : node.interfaceTypes()) {
      TypeNames type = TypeNames.of(implemented, Map.of());
      if (type.name().endsWith(".persistence.AttributeConverter") && type.arguments().size() == 2) {
        return type.arguments().get(place);
      }
    }
    throw new ModelException(
        "the converter does not say what it converts",
        converter,
        "let it implement AttributeConverter with its two types");
  }

  /** A class's names of constants in their order; none if it is no enum on the path. */
  List<String> constants(String type) {
    Optional<ClassInfo> node = path.find(internal(type));
    return node.filter(ClassInfo::isEnum).stream()
        .flatMap(one -> one.enumConstants().stream())
        .map(FieldInfo::name)
        .toList();
  }

  /**
   * A managed class; empty if the class is not managed.
   *
   * @throws ModelException if it is not on the path, and is none of Java's own
   */
  Optional<MappedClass> find(String type) {
    if (!mapped.containsKey(type)) {
      if (!open.add(type)) {
        throw new ModelException(
            "the class is its own superclass", type, "compile the classes again");
      }
      Optional<MappedClass> found = read(type);
      mapped.put(type, found);
      open.remove(type);
    }
    return mapped.get(type);
  }

  boolean isOnPath(String type) {
    return path.find(internal(type)).isPresent();
  }

  /** The same for a class that may be missing, such as one of another library. */
  Optional<MappedClass> findIfThere(String type) {
    return isOnPath(type) ? find(type) : Optional.empty();
  }

  private static String internal(String type) {
    return type.replace('.', '/');
  }

  private static boolean isJavas(String type) {
    return type.startsWith("java.") || type.indexOf('.') < 0 && !type.contains("$");
  }

  private ClassInfo node(String type, String where) {
    return path.find(internal(type))
        .orElseThrow(
            () ->
                new ModelException(
                    "the class " + type + " is not on the path",
                    where,
                    "name the folder or jar that has it, too"));
  }

  private Optional<MappedClass> read(String type) {
    if (isJavas(type) && path.find(internal(type)).isEmpty()) {
      return Optional.empty();
    }
    ClassInfo node = node(type, type);
    Annotations annotations = annotations(node);
    Optional<MappedClass.Kind> kind = kind(annotations);
    if (kind.isEmpty()) {
      return Optional.empty();
    }
    known.check(annotations, type);
    return Optional.of(
        new MappedClass(
            type,
            kind.get(),
            Modifier.isAbstract(node.flags()),
            superclass(node),
            annotations,
            attributes(node, variables(node))));
  }

  private static Optional<MappedClass.Kind> kind(Annotations annotations) {
    if (annotations.has("Entity")) {
      return Optional.of(MappedClass.Kind.ENTITY);
    }
    if (annotations.has("Embeddable")) {
      return Optional.of(MappedClass.Kind.EMBEDDABLE);
    }
    return annotations.has("MappedSuperclass")
        ? Optional.of(MappedClass.Kind.MAPPED_SUPERCLASS)
        : Optional.empty();
  }

  private static Annotations annotations(ClassInfo node) {
    return Annotations.of(node);
  }

  /** The next managed class above; the state of others is not persistent (2.13.3). */
  private Optional<MappedClass> superclass(ClassInfo node) {
    Set<String> seen = new HashSet<>(Set.of(name(node)));
    Optional<String> above = superName(node);
    while (above.isPresent()) {
      if (!seen.add(above.get())) {
        throw new ModelException(
            "the class is its own superclass", name(node), "compile the classes again");
      }
      ClassInfo next = node(above.get(), name(node));
      if (kind(annotations(next)).isPresent()) {
        return bound(node, next);
      }
      above = superName(next);
    }
    return Optional.empty();
  }

  private static String name(ClassInfo node) {
    return node.name().toString();
  }

  /** The class above; empty where that is one of Java's own. */
  private static Optional<String> superName(ClassInfo node) {
    return Optional.ofNullable(node.superName())
        .map(DotName::toString)
        .filter(above -> !isJavas(above));
  }

  /** A superclass with the types that a class gives to its type variables. */
  private Optional<MappedClass> bound(ClassInfo node, ClassInfo above) {
    String type = name(above);
    Optional<MappedClass> plain = find(type);
    TypeNames written = TypeNames.of(node.superClassType(), variables(node));
    List<String> names = above.typeParameters().stream().map(TypeVariable::identifier).toList();
    if (names.isEmpty() || plain.isEmpty()) {
      return plain;
    }
    if (!written.name().equals(type) || names.size() != written.arguments().size()) {
      return plain;
    }
    Map<String, String> bindings = new HashMap<>();
    for (int i = 0; i < names.size(); i++) {
      bindings.put(names.get(i), written.arguments().get(i));
    }
    return plain.map(one -> one.with(attributes(above, bindings)));
  }

  private static Map<String, String> variables(ClassInfo node) {
    Map<String, String> variables = new HashMap<>();
    node.typeParameters().forEach(one -> variables.put(one.identifier(), "java.lang.Object"));
    return variables;
  }

  /**
   * An embeddable class, as the class that embeds it has it (2.3.3): by its fields, or by its
   * properties, unless it says so itself.
   */
  Optional<MappedClass> embeddable(String type, boolean byProperty) {
    Optional<MappedClass> plain =
        find(type).filter(one -> one.kind() == MappedClass.Kind.EMBEDDABLE);
    if (plain.isEmpty() || plain.get().annotations().has("Access")) {
      return plain;
    }
    ClassInfo node = node(type, type);
    boolean isRecord = node.isRecord();
    return plain.map(one -> one.with(attributes(node, variables(node), byProperty && !isRecord)));
  }

  private List<Attribute> attributes(ClassInfo node, Map<String, String> variables) {
    return attributes(node, variables, isByProperty(node));
  }

  private List<Attribute> attributes(
      ClassInfo node, Map<String, String> variables, boolean byProperty) {
    Map<String, Attribute> attributes = new LinkedHashMap<>();
    for (FieldInfo field : node.unsortedFields()) {
      Annotations annotations = Annotations.of(field);
      boolean isState =
          !Modifier.isStatic(field.flags())
              && !Modifier.isTransient(field.flags())
              && !field.isSynthetic();
      if (isState && (!byProperty || isAccess(annotations, "FIELD"))) {
        TypeNames type = TypeNames.of(field.type(), variables);
        add(node, field.name(), false, type, annotations, attributes);
      }
    }
    for (MethodInfo method : node.unsortedMethods()) {
      Annotations annotations = Annotations.of(method);
      Optional<String> name = property(node, method);
      if (name.isPresent() && (byProperty || isAccess(annotations, "PROPERTY"))) {
        attributes.remove(name.get());
        TypeNames type = TypeNames.of(method.returnType(), variables);
        add(node, name.get(), true, type, annotations, attributes);
      }
    }
    return List.copyOf(attributes.values());
  }

  private void add(
      ClassInfo node,
      String name,
      boolean isProperty,
      TypeNames type,
      Annotations annotations,
      Map<String, Attribute> attributes) {
    if (!annotations.has("Transient")) {
      String owner = name(node);
      known.check(annotations, owner + "." + name);
      attributes.put(
          name, new Attribute(owner, name, isProperty, type.name(), type.arguments(), annotations));
    }
  }

  private static boolean isAccess(Annotations annotations, String way) {
    return annotations
        .get("Access")
        .flatMap(one -> one.constant("value"))
        .filter(way::equals)
        .isPresent();
  }

  /** As the class says, or else as the identifier of its hierarchy is placed (2.3.1). */
  private boolean isByProperty(ClassInfo node) {
    Annotations annotations = annotations(node);
    if (annotations.has("Access")) {
      return isAccess(annotations, "PROPERTY");
    }
    if (node.isRecord()) {
      return false;
    }
    Optional<ClassInfo> next = Optional.of(node);
    while (next.isPresent()) {
      if (next.get().fields().stream().anyMatch(ClassMapping::isIdentifier)) {
        return false;
      }
      if (next.get().methods().stream().anyMatch(ClassMapping::isIdentifier)) {
        return true;
      }
      next = superName(next.get()).flatMap(above -> path.find(internal(above)));
    }
    // A class without an identifier: where its annotations stand.
    return node.fields().stream().noneMatch(ClassMapping::isMarked)
        && node.methods().stream().anyMatch(ClassMapping::isMarked);
  }

  private static boolean isIdentifier(AnnotationTarget target) {
    Annotations all = Annotations.of(target);
    return all.has(ID) || all.has(EMBEDDED_ID);
  }

  /** Whether it has an annotation of the standard other than one for callbacks. */
  private static boolean isMarked(AnnotationTarget target) {
    return Annotations.of(target).all().values().stream()
        .anyMatch(one -> one.isStandard() && !one.name().matches("P(re|ost)[A-Z].*"));
  }

  /** The property that a getter reads; empty for another method. */
  private static Optional<String> property(ClassInfo node, MethodInfo method) {
    boolean reads =
        !Modifier.isStatic(method.flags())
            && !method.isSynthetic()
            && method.parametersCount() == 0
            && method.returnType().kind() != Type.Kind.VOID;
    String name = method.name();
    boolean isTruth = method.returnType().name().toString().equals("boolean");
    String rest =
        name.startsWith("get")
            ? name.substring(3)
            : name.startsWith("is") && isTruth ? name.substring(2) : "";
    boolean isWritten = node.methods().stream().anyMatch(one -> one.name().equals("set" + rest));
    return reads && !rest.isEmpty() && isWritten
        ? Optional.of(decapitalized(rest))
        : Optional.empty();
  }

  /** As a bean's property is named: two capitals in front stay. */
  private static String decapitalized(String name) {
    boolean stays = name.length() > 1 && Character.isUpperCase(name.charAt(1));
    return stays && Character.isUpperCase(name.charAt(0))
        ? name
        : Character.toLowerCase(name.charAt(0)) + name.substring(1);
  }
}
