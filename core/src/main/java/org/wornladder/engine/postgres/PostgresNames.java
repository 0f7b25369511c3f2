package org.wornladder.engine.postgres;

import java.util.List;

/**
 * Which names look as if the server had given them: it puts an ending behind the names of table and
 * columns, as they were then, and a number behind that. No patterns: to match them would take
 * longer than all else that is done with a name.
 */
final class PostgresNames {
  /** Of a primary key. */
  static final String KEY = "_pkey";

  private static final List<String> CONSTRAINTS = List.of("_key", "_check", "_excl", "_fkey");
  private static final List<String> INDEXES = List.of("_idx");

  private PostgresNames() {}

  static boolean isOfConstraint(String name) {
    return ends(name, CONSTRAINTS);
  }

  static boolean isOfIndex(String name) {
    return ends(name, INDEXES);
  }

  private static boolean ends(String name, List<String> endings) {
    int end = name.length();
    while (end > 0 && name.charAt(end - 1) >= '0' && name.charAt(end - 1) <= '9') {
      end--;
    }
    for (String ending : endings) {
      if (name.startsWith(ending, end - ending.length())) {
        return true;
      }
    }
    return false;
  }
}
