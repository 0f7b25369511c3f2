package org.wornladder.engine.postgres;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.wornladder.engine.postgres.PostgresQueries.Query;
import org.wornladder.engine.postgres.PostgresQueries.Question;
import org.wornladder.sql.Fingerprint;

/**
 * What the catalogue answers to all queries of a structure, as one fingerprint: worked out here
 * from rows that are read, or by the server, which then need not send them. The same queries with
 * the same answers are the same structure.
 */
final class PostgresAnswers {
  /** A query without rows. */
  private static final String NO_ROWS = "";

  /** Characters of one answer: the server has it all in memory at once. */
  private static final int LARGEST = 8 << 20;

  private final Map<String, String> byQuery = new TreeMap<>();
  private boolean tooLarge;

  /** Questions whose answers are worked out here too when they are read. */
  List<Question> seeing(List<Question> questions) {
    List<Question> seeing = new ArrayList<>();
    for (Question question : questions) {
      List<Query> queries = new ArrayList<>();
      question.queries().forEach(query -> queries.add(seen(query)));
      seeing.add(new Question(queries));
    }
    return seeing;
  }

  /** Questions that have the server work out the answers, in one message. */
  List<Question> asking(List<Question> questions) {
    List<Query> queries = new ArrayList<>();
    for (Question question : questions) {
      for (Query query : question.queries()) {
        queries.add(
            query.steers()
                ? seen(query)
                : new Query(query(query.text()), row -> take(query.text(), row)));
      }
    }
    return List.of(new Question(queries));
  }

  private Query seen(Query query) {
    return new Query(
        query.text(),
        rows -> {
          see(query.text(), rows);
          query.reader().read(rows);
        });
  }

  /** The query that has the server work out what another one answers. */
  private static String query(String of) {
    return "SELECT pg_catalog.encode(pg_catalog.sha256(pg_catalog.convert_to("
        + "pg_catalog.string_agg(answer::text, pg_catalog.chr(10)), 'UTF8')), 'hex') FROM ("
        + of
        + ") answer";
  }

  /** Takes what the server worked out of a query. */
  private void take(String of, ResultSet row) throws SQLException {
    row.next();
    String fingerprint = row.getString(1);
    byQuery.put(of, fingerprint == null ? NO_ROWS : fingerprint);
  }

  /** Works out what a query answers, and leaves its rows to be read. */
  private void see(String query, ResultSet rows) throws SQLException {
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

  /** All answers as one fingerprint; empty if there was one too large to be asked for so. */
  Optional<String> fingerprint() {
    if (tooLarge) {
      return Optional.empty();
    }
    List<String> parts = new ArrayList<>();
    byQuery.forEach(
        (query, answer) -> {
          parts.add(query);
          parts.add(answer);
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
    boolean quoted = value.isEmpty();
    for (int i = 0; i < value.length() && !quoted; i++) {
      quoted = isQuoted(value.charAt(i));
    }
    if (quoted) {
      text.append('"').append(value.replace("\\", "\\\\").replace("\"", "\"\"")).append('"');
    } else {
      text.append(value);
    }
  }

  private static boolean isQuoted(char sign) {
    return switch (sign) {
      case '"', '\\', '(', ')', ',', ' ', '\t', '\n', '\u000b', '\f', '\r' -> true;
      default -> false;
    };
  }
}
