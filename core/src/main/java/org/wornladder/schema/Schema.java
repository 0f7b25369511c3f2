package org.wornladder.schema;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import java.util.function.UnaryOperator;

/**
 * What was read of a database, without the tool's own tables.
 *
 * @param tables by name
 * @param objects everything else, by kind and name
 * @param unseen the kinds of objects of which the user who asked may not see all that are there
 * @param catalogFingerprint the fingerprint by which the database says later that this is what is
 *     there; empty if it was not wanted, or cannot be
 */
public record Schema(
    List<Table> tables,
    List<DatabaseObject> objects,
    Set<Kind> unseen,
    Optional<String> catalogFingerprint) {
  public static final Schema EMPTY = new Schema(List.of(), List.of());

  public Schema {
    tables = List.copyOf(tables);
    objects = List.copyOf(objects);
    unseen = Set.copyOf(unseen);
  }

  /** One of which all is seen. */
  public Schema(List<Table> tables, List<? extends DatabaseObject> objects) {
    this(tables, List.copyOf(objects), Set.of(), Optional.empty());
  }

  /** One that the database does not say of by a fingerprint. */
  public Schema(List<Table> tables, List<? extends DatabaseObject> objects, Set<Kind> unseen) {
    this(tables, List.copyOf(objects), unseen, Optional.empty());
  }

  /** The same with the fingerprint that the database gives it. */
  public Schema withCatalogFingerprint(Optional<String> fingerprint) {
    return new Schema(tables, objects, unseen, fingerprint);
  }

  /** The same without tables of some names. */
  public Schema withoutTables(Predicate<String> names) {
    List<Table> others = tables.stream().filter(table -> !names.test(table.name())).toList();
    return others.size() == tables.size()
        ? this
        : new Schema(others, objects, unseen, catalogFingerprint);
  }

  /** A table by its name; case does not count where only one is meant. */
  public Optional<Table> table(String name) {
    List<Table> close = new ArrayList<>();
    for (Table table : tables) {
      if (table.name().equals(name)) {
        return Optional.of(table);
      }
      if (table.name().equalsIgnoreCase(name)) {
        close.add(table);
      }
    }
    return close.size() == 1 ? Optional.of(close.get(0)) : Optional.empty();
  }

  /** The names of all objects of a kind, in order. */
  public List<String> names(Kind kind) {
    return objects.stream()
        .filter(object -> object.kind() == kind)
        .map(DatabaseObject::name)
        .toList();
  }

  /** The same with other texts in all definitions. */
  public Schema map(UnaryOperator<String> texts) {
    return new Schema(
        tables.stream().map(table -> (Table) table.map(texts)).toList(),
        objects.stream().map(object -> object.map(texts)).toList(),
        unseen,
        catalogFingerprint);
  }

  /** The same as a value that can be compared and kept. */
  public Snapshot snapshot() {
    List<DatabaseObject> all = new ArrayList<>(tables);
    all.addAll(objects);
    return new Snapshot(all, unseen);
  }
}
