package org.wornladder.engine;

import java.sql.ResultSet;
import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Predicate;
import java.util.function.UnaryOperator;
import org.wornladder.schema.Kind;
import org.wornladder.schema.SchemaObject;

/** What the readers of structures have in common: rows of a catalogue in, parts of a schema out. */
public final class CatalogRows {
  private static final int MORE = 4;

  private CatalogRows() {}

  /** A statement without its end mark; empty if it is null. */
  private static String whole(String definition) {
    String text = definition == null ? "" : definition.strip();
    return text.endsWith(";") ? text.substring(0, text.length() - 1).strip() : text;
  }

  /** Adds a fact, if it is set. */
  public static void put(Map<String, String> facts, String word, String value) {
    if (value != null) {
      facts.put(word, value);
    }
  }

  /** A constraint's name; empty if the engine invented it. */
  public static Optional<String> chosen(String name, Predicate<String> invented) {
    return invented.test(name) ? Optional.empty() : Optional.of(name);
  }

  /** The action of a foreign key, for engines that take the one for the other. */
  public static String action(String rule) {
    return rule.equals("RESTRICT") ? "NO ACTION" : rule;
  }

  /**
   * Adds an object for each row of a query: its name, the table it belongs to, the statement that
   * makes it; a further column is a fact, by its label. They are added by name.
   *
   * @param of is closed
   */
  public static void objects(
      List<SchemaObject> found, Kind kind, ResultSet of, UnaryOperator<String> canonical)
      throws SQLException {
    List<SchemaObject> ofKind = new ArrayList<>();
    try (ResultSet rows = of) {
      ResultSetMetaData described = rows.getMetaData();
      while (rows.next()) {
        Map<String, String> more = new HashMap<>();
        for (int column = MORE; column <= described.getColumnCount(); column++) {
          put(more, described.getColumnLabel(column), rows.getString(column));
        }
        ofKind.add(
            new SchemaObject(
                kind,
                rows.getString(1),
                rows.getString(2),
                canonical.apply(whole(rows.getString(3))),
                more));
      }
    }
    ofKind.sort((one, other) -> one.name().compareTo(other.name()));
    found.addAll(ofKind);
  }
}
