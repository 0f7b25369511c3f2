package org.wornladder.schema;

import java.util.List;
import java.util.Map;
import java.util.SortedMap;

/**
 * An index.
 *
 * @param columns in index order; an expression stands as {@code (expression)}
 * @param fromConstraint whether a primary key or unique constraint made it
 * @param unnamed whether the engine seems to have invented the name
 * @param definition all that is to be said of it but the names of index and table, in the engine's
 *     canonical form
 * @param comment empty if it has none
 * @param written the definition as statements must write it; empty where it is the canonical one
 * @param dependsOn what its expressions need
 */
public record Index(
    String name,
    List<String> columns,
    boolean unique,
    boolean partial,
    boolean fromConstraint,
    boolean unnamed,
    String definition,
    String comment,
    String written,
    List<Dependency> dependsOn)
    implements Part {
  public Index {
    columns = List.copyOf(columns);
    dependsOn = Dependency.sorted(dependsOn);
  }

  /** One that needs no other object. */
  public Index(
      String name,
      List<String> columns,
      boolean unique,
      boolean partial,
      boolean fromConstraint,
      boolean unnamed,
      String definition,
      String comment) {
    this(
        name,
        columns,
        unique,
        partial,
        fromConstraint,
        unnamed,
        definition,
        comment,
        "",
        List.of());
  }

  /** One that somebody named. */
  public Index(
      String name,
      List<String> columns,
      boolean unique,
      boolean partial,
      boolean fromConstraint,
      String definition) {
    this(name, columns, unique, partial, fromConstraint, false, definition, "");
  }

  static Index of(String name, Map<String, String> facts, List<Dependency> dependsOn) {
    return new Index(
        name,
        NameList.inParentheses(facts.getOrDefault(Facts.COLUMNS, "()")),
        Facts.isYes(facts, Facts.UNIQUE),
        Facts.isYes(facts, Facts.PARTIAL),
        Facts.isYes(facts, Facts.OF_CONSTRAINT),
        facts.containsKey(Facts.GENERATED_NAME),
        facts.getOrDefault(Facts.DEFINITION, ""),
        facts.getOrDefault(Facts.COMMENT, ""),
        facts.getOrDefault(Facts.TEXT, ""),
        dependsOn);
  }

  /** The same with what it needs. */
  public Index dependingOn(List<Dependency> needed) {
    return new Index(
        name,
        columns,
        unique,
        partial,
        fromConstraint,
        unnamed,
        definition,
        comment,
        written,
        needed);
  }

  /** The same, to be written in other words. */
  public Index writtenAs(String text) {
    return new Index(
        name,
        columns,
        unique,
        partial,
        fromConstraint,
        unnamed,
        definition,
        comment,
        text,
        dependsOn);
  }

  /** The definition as statements write it. */
  public String statement() {
    return written.isEmpty() ? definition : written;
  }

  @Override
  public Kind kind() {
    return Kind.INDEX;
  }

  @Override
  public SortedMap<String, String> facts() {
    return Facts.with(
        Map.of(),
        Facts.DEFINITION,
        definition,
        Facts.COMMENT,
        comment,
        Facts.TEXT,
        written,
        Facts.GENERATED_NAME,
        unnamed ? name : "",
        Facts.COLUMNS,
        "(" + NameList.write(columns) + ")",
        Facts.UNIQUE,
        Facts.yes(unique),
        Facts.PARTIAL,
        Facts.yes(partial),
        Facts.OF_CONSTRAINT,
        Facts.yes(fromConstraint));
  }
}
