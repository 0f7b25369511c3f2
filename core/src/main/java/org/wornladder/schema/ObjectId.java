package org.wornladder.schema;

import java.util.Comparator;

/**
 * What identifies an object of a database.
 *
 * @param schema the schema it is in; empty for the session's own, and for engines without schemas
 * @param name its name there, as the engine keeps it, without quotes
 * @param qualifier what distinguishes objects of one kind and name: a routine's argument types in
 *     parentheses, or the table of a trigger or policy where the engine lets several tables have
 *     one of that name; otherwise empty
 */
public record ObjectId(Kind kind, String schema, String name, String qualifier)
    implements Comparable<ObjectId> {
  private static final Comparator<ObjectId> ORDER =
      Comparator.comparing(ObjectId::kind)
          .thenComparing(ObjectId::displayName)
          .thenComparing(ObjectId::schema)
          .thenComparing(ObjectId::name);

  /** One in the session's own schema that its name alone identifies. */
  public static ObjectId of(Kind kind, String name) {
    return new ObjectId(kind, "", name, "");
  }

  /** One that its name and schema identify. */
  public static ObjectId of(Kind kind, String schema, String name) {
    return new ObjectId(kind, schema, name, "");
  }

  /** The name as people read it, such as {@code stock.bin}, {@code tare(integer)}. */
  public String displayName() {
    if (schema.isEmpty() && qualifier.isEmpty()) {
      return name;
    }
    String inSchema = schema.isEmpty() ? "" : schema + ".";
    return qualifier.isEmpty() || qualifier.startsWith("(")
        ? inSchema + name + qualifier
        : name + " on " + inSchema + qualifier;
  }

  /** By kind, in the order in which a structure lists them, then by the displayed name. */
  @Override
  public int compareTo(ObjectId other) {
    return ORDER.compare(this, other);
  }
}
