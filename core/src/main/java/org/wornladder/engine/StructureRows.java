package org.wornladder.engine;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.UnaryOperator;
import java.util.regex.Pattern;
import org.wornladder.schema.Kind;
import org.wornladder.schema.SchemaObject;

/** What the readers of structures have in common: rows of a catalogue in, parts of a schema out. */
public final class StructureRows {
  private StructureRows() {}

  /** Adds a fact, if it is set. */
  public static void put(Map<String, String> facts, String word, String value) {
    if (value != null) {
      facts.put(word, value);
    }
  }

  /** A constraint's name; empty if the engine invented it. */
  public static Optional<String> chosen(String name, Pattern invented) {
    return invented.matcher(name).matches() ? Optional.empty() : Optional.of(name);
  }

  /** The action of a foreign key, for engines that take the one for the other. */
  public static String action(String rule) {
    return rule.equals("RESTRICT") ? "NO ACTION" : rule;
  }

  /**
   * Adds an object for each row of a query: its name, the table it belongs to, its definition.
   *
   * @param of is closed
   */
  public static void objects(
      List<SchemaObject> found, Kind kind, ResultSet of, UnaryOperator<String> canonical)
      throws SQLException {
    try (ResultSet rows = of) {
      while (rows.next()) {
        String definition = rows.getString(3) == null ? "" : rows.getString(3).strip();
        found.add(
            new SchemaObject(
                kind, rows.getString(1), rows.getString(2), canonical.apply(definition)));
      }
    }
  }
}
