package org.wornladder.engine.postgres;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;

/**
 * Queries of the catalogue, asked in an open transaction. They are parsed while the search path is
 * the server's own schema alone, so that no function or operator of a user takes part, and run
 * while it is the first managed schema, so that names in that alone are printed without a schema. A
 * cursor allows that: it is parsed when it is declared, and runs when its rows are fetched (manual,
 * "DECLARE").
 */
final class PostgresCatalogQueries {
  /** The server's own schema alone; the last word keeps temporary objects from coming first. */
  static final String CATALOG_PATH = "SET LOCAL search_path = pg_catalog, pg_temp; ";

  private static final String CURSOR = "ladder_catalog_";

  private final Connection connection;
  private final String managedPath;

  /**
   * @param schemas the managed ones
   */
  PostgresCatalogQueries(Connection connection, List<String> schemas) {
    this.connection = connection;
    String own = PostgresEngine.QUOTING.names(schemas.subList(0, Math.min(1, schemas.size())));
    managedPath = "SET LOCAL search_path = " + (own.isEmpty() ? "pg_catalog" : own) + "; ";
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
  void inTurn(List<Question> questions) throws SQLException {
    for (Question question : questions) {
      try (Statement sql =
          connection.createStatement(
              // Rows may be read twice.
              ResultSet.TYPE_SCROLL_INSENSITIVE, ResultSet.CONCUR_READ_ONLY)) {
        sql.setEscapeProcessing(false);
        sql.execute(message(question.queries()));
        for (Query query : question.queries()) {
          try (ResultSet rows = nextRows(sql)) {
            query.reader().read(rows);
          }
          sql.getMoreResults();
        }
      }
    }
  }

  private String message(List<Query> queries) {
    StringBuilder declarations = new StringBuilder(CATALOG_PATH);
    StringBuilder fetches = new StringBuilder(managedPath);
    for (int i = 0; i < queries.size(); i++) {
      String cursor = CURSOR + i;
      declarations
          .append("DECLARE ")
          .append(cursor)
          .append(" CURSOR FOR ")
          .append(queries.get(i).text())
          .append("; ");
      fetches.append("FETCH ALL FROM ").append(cursor).append("; CLOSE ").append(cursor);
      fetches.append("; ");
    }
    return declarations.append(fetches).toString();
  }

  /** The next result that has rows: other statements of a message have none. */
  static ResultSet nextRows(Statement sql) throws SQLException {
    while (sql.getResultSet() == null) {
      sql.getMoreResults();
    }
    return sql.getResultSet();
  }
}
