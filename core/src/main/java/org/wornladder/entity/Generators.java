package org.wornladder.entity;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * Where the values of identifiers come from (Jakarta Persistence, 11.1.20 "GeneratedValue"). Names
 * that the standard leaves to providers are those that Hibernate gives.
 */
final class Generators {
  private static final Set<String> NUMBERS =
      Set.of("short", "int", "long", "java.lang.Short", "java.lang.Integer", "java.lang.Long");
  private static final int ALLOCATION = 50;

  private final Naming naming;
  private final boolean hasSequences;
  private final Map<String, Annotation> sequencesByName = new LinkedHashMap<>();
  private final Map<String, Annotation> tablesByName = new LinkedHashMap<>();
  private final List<ModelSequence> sequences = new ArrayList<>();
  private final List<ModelTable> tables = new ArrayList<>();

  Generators(Naming naming, boolean hasSequences, List<MappedClass> entities) {
    this.naming = naming;
    this.hasSequences = hasSequences;
    for (MappedClass entity : entities) {
      note(entity.annotations());
      Optional<MappedClass> next = Optional.of(entity);
      while (next.isPresent()) {
        note(next.get().annotations());
        next.get().attributes().forEach(attribute -> note(attribute.annotations()));
        next = next.get().superclass();
      }
    }
  }

  private void note(Annotations annotations) {
    annotations
        .repeated("SequenceGenerator", "SequenceGenerators")
        .forEach(one -> sequencesByName.put(one.text("name").orElse(""), one));
    annotations
        .repeated("TableGenerator", "TableGenerators")
        .forEach(one -> tablesByName.put(one.text("name").orElse(""), one));
  }

  List<ModelSequence> sequences() {
    return List.copyOf(sequences);
  }

  List<ModelTable> tables() {
    return List.copyOf(tables);
  }

  /** Whether the database numbers an identifier; notes what else its values come from. */
  boolean isIdentity(Attribute id, MappedClass entity) {
    Optional<Annotation> generated = id.annotations().get("GeneratedValue");
    if (generated.isEmpty()) {
      return false;
    }
    String generator = generated.get().text("generator").orElse("");
    String strategy = generated.get().constant("strategy").orElse("AUTO");
    if (strategy.equals("AUTO")) {
      strategy =
          tablesByName.containsKey(generator)
              ? "TABLE"
              : !NUMBERS.contains(id.type()) ? "UUID" : hasSequences ? "SEQUENCE" : "IDENTITY";
    }
    switch (strategy) {
      case "SEQUENCE" -> {
        if (!hasSequences) {
          throw new ModelException(
              "the engine has no sequences", id.where(), "use GenerationType.IDENTITY or TABLE");
        }
        sequence(generator, id, entity);
      }
      case "TABLE" -> table(generator);
      default -> {
        // The values come from the database's own numbering, or from the application.
      }
    }
    return strategy.equals("IDENTITY");
  }

  private void sequence(String generator, Attribute id, MappedClass entity) {
    // One that has no name is meant beside the attribute, or on its class.
    Optional<Annotation> described =
        Optional.ofNullable(sequencesByName.get(generator))
            .or(() -> id.annotations().get("SequenceGenerator"))
            .or(() -> entity.annotations().get("SequenceGenerator"));
    String name =
        described
            .flatMap(one -> one.text("sequenceName"))
            .orElse(generator.isEmpty() ? entity.entityName() + "_SEQ" : generator);
    ModelSequence sequence =
        new ModelSequence(
            new ModelTable.Name(
                described.flatMap(one -> one.text("schema")).map(naming::of).orElse(""),
                naming.of(name)),
            described.map(one -> one.number("initialValue", 1)).orElse(1),
            described.map(one -> one.number("allocationSize", ALLOCATION)).orElse(ALLOCATION));
    if (sequences.stream().noneMatch(one -> one.name().isSame(sequence.name()))) {
      sequences.add(sequence);
    }
  }

  private void table(String generator) {
    Optional<Annotation> described = Optional.ofNullable(tablesByName.get(generator));
    ModelTable.Name name =
        new ModelTable.Name(
            described.flatMap(one -> one.text("schema")).map(naming::of).orElse(""),
            naming.of(described.flatMap(one -> one.text("table")).orElse("hibernate_sequences")));
    if (tables.stream().anyMatch(one -> one.name().isSame(name))) {
      return;
    }
    String key = described.flatMap(one -> one.text("pkColumnName")).orElse("sequence_name");
    String value = described.flatMap(one -> one.text("valueColumnName")).orElse("next_val");
    ModelTable table = new ModelTable(name, "generator " + generator);
    table.add(ModelColumn.of(naming.of(key), ColumnType.of("java.lang.String"), false));
    table.add(ModelColumn.of(naming.of(value), ColumnType.of("java.lang.Long"), true));
    table.addToKey(naming.of(key));
    tables.add(table);
  }
}
