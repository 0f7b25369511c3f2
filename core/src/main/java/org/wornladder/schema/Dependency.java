package org.wornladder.schema;

import java.util.Collection;
import java.util.Comparator;
import java.util.List;

/**
 * That an object, or a part of one, cannot be without another object. To be a part of an object is
 * no dependency.
 *
 * @param target the object that is needed
 * @param column the column of it that is needed; empty if it is needed as a whole
 * @param source how it is known
 */
public record Dependency(ObjectId target, String column, Source source)
    implements Comparable<Dependency> {
  private static final Comparator<Dependency> ORDER =
      Comparator.comparing(Dependency::target)
          .thenComparing(Dependency::column)
          .thenComparing(Dependency::source);

  /** How a dependency is known. */
  public enum Source {
    /** The engine's catalogue names it. */
    CATALOG,
    /** The engine's own text names it at a place where an object's name stands. */
    TEXT
  }

  /** One that the engine's catalogue names. */
  public static Dependency cataloged(ObjectId target, String column) {
    return new Dependency(target, column, Source.CATALOG);
  }

  /** One that a text names. */
  public static Dependency inText(ObjectId target, String column) {
    return new Dependency(target, column, Source.TEXT);
  }

  /** Each once, in one order. */
  static List<Dependency> sorted(Collection<Dependency> dependencies) {
    return dependencies.isEmpty() ? List.of() : dependencies.stream().distinct().sorted().toList();
  }

  @Override
  public int compareTo(Dependency other) {
    return ORDER.compare(this, other);
  }
}
