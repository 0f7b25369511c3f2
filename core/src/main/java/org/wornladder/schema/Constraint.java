package org.wornladder.schema;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SortedMap;

/**
 * A unique, check or exclusion constraint.
 *
 * @param chosenName the explicit name; empty if the engine generated one
 * @param knownAs the name that the engine knows it by, chosen or not; empty if it has none
 * @param definition what it demands, in the engine's canonical form, such as {@code (code, season)}
 * @param comment empty if it has none
 * @param written the definition as statements must write it; empty where it is the canonical one
 * @param dependsOn what its expression needs
 */
public record Constraint(
    Kind kind,
    Optional<String> chosenName,
    String knownAs,
    String definition,
    String comment,
    String written,
    List<Dependency> dependsOn)
    implements Part {
  public Constraint {
    knownAs = chosenName.orElse(knownAs);
    dependsOn = Dependency.sorted(dependsOn);
  }

  /** One that needs no other object. */
  public Constraint(
      Kind kind, Optional<String> chosenName, String knownAs, String definition, String comment) {
    this(kind, chosenName, knownAs, definition, comment, "", List.of());
  }

  /** One without a comment. */
  public Constraint(Kind kind, Optional<String> chosenName, String knownAs, String definition) {
    this(kind, chosenName, knownAs, definition, "");
  }

  static Constraint of(Kind kind, Map<String, String> facts, List<Dependency> dependsOn) {
    Optional<String> chosen = Optional.ofNullable(facts.get(Facts.NAME));
    return new Constraint(
        kind,
        chosen,
        chosen.orElse(facts.getOrDefault(Facts.GENERATED_NAME, "")),
        facts.getOrDefault(Facts.DEFINITION, ""),
        facts.getOrDefault(Facts.COMMENT, ""),
        facts.getOrDefault(Facts.TEXT, ""),
        dependsOn);
  }

  /** The same with what it needs. */
  public Constraint dependingOn(List<Dependency> needed) {
    return new Constraint(kind, chosenName, knownAs, definition, comment, written, needed);
  }

  /** The same, to be written in other words. */
  public Constraint writtenAs(String text) {
    return new Constraint(kind, chosenName, knownAs, definition, comment, text, dependsOn);
  }

  /** The definition as statements write it. */
  public String statement() {
    return written.isEmpty() ? definition : written;
  }

  /** The explicit name; the definition if the name was generated. */
  @Override
  public String name() {
    return chosenName.orElse(definition);
  }

  /** The name that the engine knows it by; empty if it has none. */
  public Optional<String> knownName() {
    return Optional.of(knownAs).filter(name -> !name.isEmpty());
  }

  @Override
  public SortedMap<String, String> facts() {
    return Facts.with(
        Map.of(),
        Facts.DEFINITION,
        definition,
        Facts.GENERATED_NAME,
        chosenName.isPresent() ? "" : knownAs,
        Facts.COMMENT,
        comment,
        Facts.TEXT,
        written,
        Facts.NAME,
        chosenName.orElse(""));
  }
}
