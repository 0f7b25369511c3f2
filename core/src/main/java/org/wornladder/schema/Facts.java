package org.wornladder.schema;

import java.util.Collections;
import java.util.Map;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.function.UnaryOperator;

/** Properties of an object by name: immutable, sorted by name, without those that are empty. */
public final class Facts {
  /** The defining statement, or what a constraint demands. */
  public static final String DEFINITION = "definition";

  /** The name of the table that an object belongs to. */
  public static final String TABLE = "table";

  public static final String COMMENT = "comment";

  /** The explicit name of a key or constraint. */
  public static final String NAME = "name";

  /** The text that made an object, where the engine keeps that. */
  public static final String TEXT = "text";

  /** The name that the engine generated for a key, constraint or index. */
  public static final String GENERATED_NAME = "known as";

  static final String COLUMNS = "columns";
  static final String TARGET = "target";
  static final String TARGET_SCHEMA = "target schema";
  static final String TABLE_SCHEMA = "table schema";
  static final String TABLE_KIND = "table kind";
  static final String UNIQUE = "unique";
  static final String PARTIAL = "partial";
  static final String OF_CONSTRAINT = "of a constraint";

  /** The engine's number for a column, which stays when it is renamed. */
  public static final String NUMBER = "number";

  static final String YES = "yes";

  /** What is known beside the meaning, or says again what name and definition say. */
  private static final Set<String> NOT_COMPARED =
      Set.of(
          TEXT,
          GENERATED_NAME,
          COLUMNS,
          TARGET,
          TARGET_SCHEMA,
          TABLE_SCHEMA,
          TABLE_KIND,
          UNIQUE,
          PARTIAL,
          OF_CONSTRAINT,
          NUMBER,
          OtherObject.DROPPED_AS,
          Routine.RESULT,
          Routine.PARAMETERS,
          Right.OBJECT_KIND,
          Right.OBJECT_SCHEMA,
          Right.OBJECT,
          Right.OBJECT_QUALIFIER,
          Right.GRANTEE);

  private Facts() {}

  /** Whether a fact counts when structures are compared. */
  public static boolean counts(String word) {
    return !NOT_COMPARED.contains(word);
  }

  static SortedMap<String, String> of(Map<String, String> given) {
    return with(given);
  }

  /**
   * Some properties and more.
   *
   * @param more names and values in turn; a value replaces the given one of its name, unless it is
   *     empty
   */
  static SortedMap<String, String> with(Map<String, String> given, String... more) {
    SortedMap<String, String> facts = new TreeMap<>(given);
    for (int i = 0; i < more.length; i += 2) {
      if (!more[i + 1].isEmpty()) {
        facts.put(more[i], more[i + 1]);
      }
    }
    facts.values().removeIf(String::isEmpty);
    return Collections.unmodifiableSortedMap(facts);
  }

  /** The facts but for some. */
  static SortedMap<String, String> without(Map<String, String> given, String... words) {
    SortedMap<String, String> facts = new TreeMap<>(given);
    for (String word : words) {
      facts.remove(word);
    }
    return facts;
  }

  static String yes(boolean is) {
    return is ? YES : "";
  }

  static boolean isYes(Map<String, String> facts, String word) {
    return YES.equals(facts.get(word));
  }

  /** The same names with other values. */
  static Map<String, String> map(Map<String, String> facts, UnaryOperator<String> values) {
    Map<String, String> changed = new TreeMap<>();
    facts.forEach((name, value) -> changed.put(name, values.apply(value)));
    return changed;
  }
}
