package org.wornladder.engine;

/**
 * The one thing that a statement makes, changes or drops.
 *
 * @param name as the engine keeps it; with its schema and a dot in front if the statement says so
 * @param table the table of an index or a trigger, if the statement names it; otherwise empty
 */
public record Footprint(Change change, Kind kind, String name, String table) {
  /** What is done to it. */
  public enum Change {
    MAKES,
    ALTERS,
    DROPS
  }

  /** What kind of thing it is. */
  public enum Kind {
    TABLE,
    INDEX,
    VIEW,
    TRIGGER,
    PROCEDURE,
    FUNCTION,
    SEQUENCE,
    EVENT;

    String word() {
      return name().toLowerCase(java.util.Locale.ROOT);
    }
  }

  /** The state of a thing that is not there, as {@link Session#state} writes it. */
  public static final String MISSING = "missing";

  /** The thing as a person would name it. */
  public String shown() {
    return kind.word() + " " + name;
  }
}
