package org.wornladder.engine.postgres;

import java.sql.Connection;
import java.sql.ResultSet;
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
final class PostgresCatalogQueries {
  /** How the names of the statements begin that are prepared on the server. */
  static final String PREPARED = "ladder_query_";

  private final long backend;
  private final boolean readsAgain;
  private final Map<String, String> names = new HashMap<>();
  private int prepared;

  /**
   * @param backend the session's process on the server
   * @param readsAgain whether the session reads the structure more than once, and is one session to
   *     the server from its beginning to its end
   */
  PostgresCatalogQueries(long backend, boolean readsAgain) {
    this.backend = backend;
    this.readsAgain = readsAgain;
  }

  /** Forgets what was prepared: a script may have undone it. */
  void forget() {
    names.clear();
  }

  /** What is done with the rows of a query. */
  interface Reader {
    void read(ResultSet rows) throws SQLException;
  }

  /**
   * A query, and who reads its rows.
   *
   * @param steers whether its rows say what else is to be asked, so that they are always read
   */
  record Query(String text, Reader reader, boolean steers) {
    Query(String text, Reader reader) {
      this(text, reader, false);
    }
  }

  /** Queries that are asked in one message. */
  record Question(List<Query> queries) {
    Question(Query only) {
      this(List.of(only));
    }
  }

  /** Asks one question after the other, and reads its answer. */
  void inTurn(Connection connection, List<Question> questions) throws SQLException {
    for (Question question : questions) {
      try (Statement sql = statement(connection)) {
        sql.execute(asking(sql, question.queries()));
        read(sql, question.queries());
      }
    }
  }

  private static void read(Statement answered, List<Query> queries) throws SQLException {
    for (Query query : queries) {
      try (ResultSet rows = answered.getResultSet()) {
        query.reader().read(rows);
      }
      answered.getMoreResults();
    }
  }

  /** A statement for queries of the catalogue, whose rows may be read twice. */
  static Statement statement(Connection connection) throws SQLException {
    Statement sql =
        connection.createStatement(ResultSet.TYPE_SCROLL_INSENSITIVE, ResultSet.CONCUR_READ_ONLY);
    // The driver would go through the text once more, sign by sign.
    sql.setEscapeProcessing(false);
    return sql;
  }

  /**
   * The text that asks some queries, in one message.
   *
   * @param sql prepares those that are new
   */
  private String asking(Statement sql, List<Query> queries) throws SQLException {
    List<String> texts = new ArrayList<>();
    queries.forEach(query -> texts.add(query.text()));
    return String.join("; ", readsAgain ? prepared(sql, texts) : texts);
  }

  private List<String> prepared(Statement sql, List<String> queries) throws SQLException {
    StringBuilder preparations = new StringBuilder();
    List<String> texts = new ArrayList<>();
    Map<String, String> added = new HashMap<>();
    for (String query : queries) {
      String name = names.get(query);
      if (name == null) {
        name = PREPARED + backend + "_" + ++prepared;
        added.put(query, name);
        preparations.append("PREPARE ").append(name).append(" AS ").append(query).append("; ");
      }
      texts.add("EXECUTE " + name);
    }
    if (!added.isEmpty()) {
      sql.execute(preparations.toString());
      names.putAll(added);
    }
    return texts;
  }
}
