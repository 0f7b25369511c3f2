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
import org.wornladder.schema.DatabaseObject;

/** What the readers of structures have in common: rows of a catalogue in, parts of a schema out. */
public final class CatalogRows {
  private CatalogRows() {}

  /**
   * A row that describes an object: some texts, and facts by the labels of the other columns.
   *
   * @param texts the first columns; empty where they are null
   */
  public record Row(List<String> texts, Map<String, String> facts) {
    /** One of the first columns, from 0. */
    public String text(int place) {
      return texts.get(place);
    }

    /** The definition in one of the first columns, without an end mark. */
    public String definition(int place) {
      return whole(text(place));
    }

    /** The facts and another one. */
    public Map<String, String> with(String label, String value) {
      Map<String, String> more = new HashMap<>(facts);
      more.put(label, value);
      return more;
    }

    /** A fact, which is no fact any more; empty if it is not set. */
    public String take(String label) {
      return Optional.ofNullable(facts.remove(label)).orElse("");
    }
  }

  /** Makes an object of a row. */
  public interface Maker {
    DatabaseObject of(Row row) throws SQLException;
  }

  /** A statement without its end mark. */
  private static String whole(String definition) {
    String text = definition.strip();
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
   * Adds an object for each row of a query, by identity.
   *
   * @param texts how many columns are no facts
   * @param of is closed
   */
  public static void objects(List<DatabaseObject> found, ResultSet of, int texts, Maker maker)
      throws SQLException {
    List<DatabaseObject> ofKind = new ArrayList<>();
    try (ResultSet rows = of) {
      ResultSetMetaData described = rows.getMetaData();
      while (rows.next()) {
        List<String> first = new ArrayList<>();
        for (int column = 1; column <= texts; column++) {
          first.add(Optional.ofNullable(rows.getString(column)).orElse(""));
        }
        Map<String, String> facts = new HashMap<>();
        for (int column = texts + 1; column <= described.getColumnCount(); column++) {
          put(facts, described.getColumnLabel(column), rows.getString(column));
        }
        ofKind.add(maker.of(new Row(first, facts)));
      }
    }
    ofKind.sort((one, other) -> one.id().compareTo(other.id()));
    found.addAll(ofKind);
  }
}
