package org.wornladder.engine.postgres;

import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * Queries of the catalogue. A session that reads more than once has them prepared on the server
 * (manual, "PREPARE"): to plan them takes as long as to run them.
 */
final class PostgresQueries {
  private static final String NAME = "ladder_query_";

  private final boolean readsAgain;
  private final Map<String, String> names = new HashMap<>();
  private int prepared;

  /**
   * @param readsAgain whether the session reads the structure more than once, and is one session to
   *     the server from its beginning to its end
   */
  PostgresQueries(boolean readsAgain) {
    this.readsAgain = readsAgain;
  }

  /** Forgets what was prepared: a script may have undone it. */
  void forget() {
    names.clear();
  }

  /**
   * The text that asks some queries, in one message.
   *
   * @param sql prepares those that are new
   */
  String asking(Statement sql, List<String> queries) throws SQLException {
    if (!readsAgain) {
      return String.join("; ", queries);
    }
    StringBuilder preparations = new StringBuilder();
    List<String> texts = new ArrayList<>();
    Map<String, String> added = new HashMap<>();
    for (String query : queries) {
      String name = names.get(query);
      if (name == null) {
        name = NAME + ++prepared;
        added.put(query, name);
        preparations.append("PREPARE ").append(name).append(" AS ").append(query).append("; ");
      }
      texts.add("EXECUTE " + name);
    }
    if (!added.isEmpty()) {
      sql.execute(preparations.toString());
      names.putAll(added);
    }
    return String.join("; ", texts);
  }
}
