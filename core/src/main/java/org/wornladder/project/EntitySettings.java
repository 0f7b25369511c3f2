package org.wornladder.project;

import java.util.List;
import java.util.Map;

/**
 * How entity classes are read, as {@code entities:} in {@code ladder.yaml} says.
 *
 * @param classes folders of classes, jars, and folders of jars, relative to the project
 * @param types the types of columns, by the names of classes, instead of those that are usual
 * @param snakeCase whether names are written in lower case with underscores; as they are otherwise
 * @param nativeEnums whether enums by name get the engine's own type in place of a condition
 * @param passOver whole names of annotations that say nothing of a table
 */
public record EntitySettings(
    List<String> classes,
    Map<String, String> types,
    boolean snakeCase,
    boolean nativeEnums,
    List<String> passOver) {
  public EntitySettings {
    classes = List.copyOf(classes);
    types = Map.copyOf(types);
    passOver = List.copyOf(passOver);
  }
}
