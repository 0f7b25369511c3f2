package org.wornladder.engine;

/**
 * The one object that a statement makes, changes or drops.
 *
 * @param name its own
 * @param table the table of an index, a trigger or a column, if the statement names it
 */
public record StatementTarget(Change change, Kind kind, Name name, Name table) {
  /**
   * A name as the engine keeps it.
   *
   * @param schema empty if the statement does not say it
   * @param plain empty if there is no name
   */
  public record Name(String schema, String plain) {
    public static final Name NONE = new Name("", "");

    public boolean isEmpty() {
      return plain.isEmpty();
    }

    /** As a person would write it. */
    public String text() {
      return schema.isEmpty() ? plain : schema + "." + plain;
    }
  }

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
    EVENT,
    COLUMN,
    COLLECTION,
    USER,
    ROLE;

    String label() {
      return name().toLowerCase(java.util.Locale.ROOT);
    }
  }

  /** The state of an object that is not there, as {@link Session#state} writes it. */
  public static final String MISSING = "missing";

  /** The object as a person would name it. */
  public String shown() {
    return kind == Kind.COLUMN
        ? kind.label() + " " + table.text() + "." + name.text()
        : kind.label() + " " + name.text();
  }
}
