package org.wornladder.engine.postgres;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.wornladder.engine.postgres.PostgresCatalogQueries.Query;
import org.wornladder.engine.postgres.PostgresCatalogQueries.Question;
import org.wornladder.sql.Fingerprint;

/**
 * A fingerprint of the results of all catalogue queries of a structure: computed here from rows
 * that are read, or by the server, which then need not send them. Equal queries with equal results
 * are equal structures.
 */
final class PostgresCatalogFingerprint {
  private static final String NO_ROWS = "";

  /** Characters of one result: the server has it all in memory at once. */
  private static final int LARGEST = 8 << 20;

  private final Map<String, String> byQuery = new TreeMap<>();
  private boolean tooLarge;

  /** Questions whose results are hashed here before they are read. */
  List<Question> observed(List<Question> questions) {
    return questions.stream()
        .map(question -> new Question(question.queries().stream().map(this::observed).toList()))
        .toList();
  }

  private Query observed(Query query) {
    return new Query(
        query.text(),
        rows -> {
          observe(query.text(), rows);
          query.reader().read(rows);
        });
  }

  /** Questions whose results the server hashes, in one message. */
  List<Question> computedByServer(List<Question> questions) {
    List<Query> queries = new ArrayList<>();
    for (Question question : questions) {
      for (Query query : question.queries()) {
        queries.add(
            query.steers()
                ? observed(query)
                : new Query(hashing(query.text()), row -> take(query.text(), row)));
      }
    }
    return List.of(new Question(queries));
  }

  /** The query that has the server hash the result of another one. */
  private static String hashing(String query) {
    return "SELECT pg_catalog.encode(pg_catalog.sha256(pg_catalog.convert_to("
        + "pg_catalog.string_agg(answer::text, pg_catalog.chr(10)), 'UTF8')), 'hex') FROM ("
        + query
        + ") answer";
  }

  private void take(String query, ResultSet row) throws SQLException {
    row.next();
    String hash = row.getString(1);
    byQuery.put(query, hash == null ? NO_ROWS : hash);
  }

  /** Hashes a result as {@link #hashing} does, and leaves its rows to be read. */
  private void observe(String query, ResultSet rows) throws SQLException {
    int columns = rows.getMetaData().getColumnCount();
    StringBuilder text = new StringBuilder();
    while (!tooLarge && rows.next()) {
      text.append(text.isEmpty() ? "" : "\n");
      append(text, rows, columns);
      tooLarge = text.length() > LARGEST;
    }
    rows.beforeFirst();
    byQuery.put(query, text.isEmpty() ? NO_ROWS : Fingerprint.sha256(text.toString()));
  }

  /** The fingerprint of all results; empty if one was too large for the server to hash. */
  Optional<String> value() {
    if (tooLarge) {
      return Optional.empty();
    }
    List<String> parts = new ArrayList<>();
    byQuery.forEach(
        (query, hash) -> {
          parts.add(query);
          parts.add(hash);
        });
    return Optional.of(Fingerprint.ofParts(parts));
  }

  /** A row as the server casts it to text (manual, 8.16.6 "Composite Type Input and Output"). */
  private static void append(StringBuilder text, ResultSet row, int columns) throws SQLException {
    for (int i = 1; i <= columns; i++) {
      text.append(i == 1 ? '(' : ',');
      String value = row.getString(i);
      if (value != null) {
        append(text, value);
      }
    }
    text.append(')');
  }

  private static void append(StringBuilder text, String value) {
    if (value.isEmpty() || value.chars().anyMatch(PostgresCatalogFingerprint::isQuoted)) {
      text.append('"').append(value.replace("\\", "\\\\").replace("\"", "\"\"")).append('"');
    } else {
      text.append(value);
    }
  }

  private static boolean isQuoted(int character) {
    return switch (character) {
      case '"', '\\', '(', ')', ',', ' ', '\t', '\n', '\u000b', '\f', '\r' -> true;
      default -> false;
    };
  }
}
