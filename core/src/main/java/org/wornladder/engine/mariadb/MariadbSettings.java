package org.wornladder.engine.mariadb;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.UnaryOperator;
import org.wornladder.schema.DatabaseObject;

/**
 * The session's settings that become part of routines, triggers and events when these are made
 * (MariaDB documentation, "SQL_MODE", "CREATE PROCEDURE"): a script sets them where they change,
 * and puts the session's own back at its end.
 */
final class MariadbSettings {
  /** The word for the empty mode. */
  static final String PLAIN = "plain";

  private static final String KEPT = "@ladder_";

  private final UnaryOperator<String> text;
  private final Map<String, String> standing = new LinkedHashMap<>();

  /**
   * @param text writes a text
   */
  MariadbSettings(UnaryOperator<String> text) {
    this.text = text;
  }

  /** The statements that set what an object is to be made under, where that is not set already. */
  List<String> before(DatabaseObject object) {
    Map<String, String> wanted = wanted(object);
    List<String> keep = new ArrayList<>();
    List<String> set = new ArrayList<>();
    wanted.forEach(
        (variable, value) -> {
          if (!standing.containsKey(variable)) {
            keep.add(KEPT + variable + " = @@" + variable);
          }
          if (!value.equals(standing.put(variable, value))) {
            set.add(variable + " = " + text.apply(value));
          }
        });
    List<String> statements = new ArrayList<>();
    if (!keep.isEmpty()) {
      statements.add("SET " + String.join(", ", keep));
    }
    if (!set.isEmpty()) {
      statements.add("SET " + String.join(", ", set));
    }
    return statements;
  }

  /** The statements that put the session's own settings back. */
  List<String> after() {
    List<String> back = new ArrayList<>();
    standing.keySet().forEach(variable -> back.add(variable + " = " + KEPT + variable));
    return back.isEmpty() ? List.of() : List.of("SET " + String.join(", ", back));
  }

  private static Map<String, String> wanted(DatabaseObject object) {
    Map<String, String> wanted = new LinkedHashMap<>();
    object
        .fact(MariadbDdl.SQL_MODE)
        .ifPresent(mode -> wanted.put("sql_mode", mode.equals(PLAIN) ? "" : mode));
    object.fact(MariadbDdl.TIME_ZONE).ifPresent(zone -> wanted.put("time_zone", zone));
    object
        .fact(MariadbDdl.CHARSETS)
        .map(sets -> sets.split(" "))
        .ifPresent(
            sets -> {
              wanted.put("character_set_client", sets[0]);
              wanted.put("collation_connection", sets[1]);
            });
    return wanted;
  }

  /** The options that make others of some: one that is not wanted any more gets its usual value. */
  static String options(Optional<String> before, Optional<String> after) {
    Map<String, String> all = new LinkedHashMap<>();
    parse(before.orElse("")).keySet().forEach(name -> all.put(name, "DEFAULT"));
    all.putAll(parse(after.orElse("")));
    List<String> written = new ArrayList<>();
    all.forEach((name, value) -> written.add(name + "=" + value));
    return String.join(" ", written);
  }

  private static Map<String, String> parse(String options) {
    Map<String, String> parsed = new LinkedHashMap<>();
    for (String option : options.split(" (?=[A-Za-z_`]+=)")) {
      int equals = option.indexOf('=');
      if (equals > 0) {
        parsed.put(option.substring(0, equals).strip(), option.substring(equals + 1).strip());
      }
    }
    return parsed;
  }
}
