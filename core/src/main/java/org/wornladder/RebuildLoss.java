package org.wornladder;

import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.wornladder.schema.Kind;

/**
 * What goes when an environment is emptied.
 *
 * @param database the database's own name: a file's, or that on its server
 * @param objects how many of each kind
 * @param hasJournal whether this project has entries in a journal there
 * @param others other projects that have
 */
public record RebuildLoss(
    String environment,
    String database,
    Map<Kind, Long> objects,
    boolean hasJournal,
    Set<String> others) {
  /** Whether there is nothing to lose. */
  public boolean isNothing() {
    return objects.isEmpty() && others.isEmpty();
  }

  /** Whether it may be somebody else's: it holds objects, and this project never worked there. */
  public boolean isStrange() {
    return !isNothing() && (!hasJournal || !others.isEmpty());
  }

  /** The objects in words, such as {@code 4 tables, 1 view}. */
  public String text() {
    return objects.isEmpty()
        ? "nothing"
        : objects.entrySet().stream()
            .map(
                one ->
                    one.getValue()
                        + " "
                        + (one.getValue() == 1 ? one.getKey().label() : one.getKey().plural()))
            .collect(Collectors.joining(", "));
  }
}
