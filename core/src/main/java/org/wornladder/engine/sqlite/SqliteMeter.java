package org.wornladder.engine.sqlite;

import java.nio.file.Path;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.wornladder.engine.StatementMeter;
import org.wornladder.engine.StatementWords;
import org.wornladder.sql.Statement;

/**
 * How many pages of the file a statement writes, and whether a table is made anew for it. It runs
 * in a transaction that is rolled back. Pages that were there are counted by the size of the
 * rollback journal, which takes each of them once (SQLite's documentation, "Database File Format",
 * "The Rollback Journal").
 */
final class SqliteMeter implements StatementMeter {
  private static final int JOURNAL_HEADER = 512;

  /** What stands in the journal around a page. */
  private static final int AROUND_PAGE = 8;

  private final SqliteSession session;
  private final Path journal;

  SqliteMeter(SqliteSession session, Path file) {
    this.session = session;
    journal = file.resolveSibling(file.getFileName() + "-journal");
  }

  @Override
  public List<Measured> measure(List<Statement> statements) throws SQLException {
    List<Measured> measured = new ArrayList<>();
    String mode = pragma("journal_mode");
    // The journal of the transaction alone.
    pragma("journal_mode = DELETE");
    long pageSize = Long.parseLong(pragma("page_size"));
    try {
      session.begin(statements);
      for (Statement statement : statements) {
        measured.add(measure(statement, pageSize));
      }
    } catch (SQLException e) {
      // The proof runs it once more, and says why it fails.
      return measured;
    } finally {
      session.rollback();
      pragma("journal_mode = " + mode);
    }
    return measured;
  }

  private Measured measure(Statement statement, long pageSize) throws SQLException {
    Optional<String> anew =
        session.carriedOutBy(statement).size() > 1
            ? SqliteAlteration.of(statement).map(SqliteAlteration::table)
            : Optional.empty();
    long before = written(pageSize);
    long start = System.nanoTime();
    session.execute(statement);
    double millis = (System.nanoTime() - start) / 1e6;
    long pages = written(pageSize) - before;
    List<String> effects = new ArrayList<>();
    anew.ifPresent(table -> effects.add("makes " + table + " anew"));
    if (pages > 0) {
      effects.add("writes " + pages + (pages == 1 ? " page" : " pages"));
    }
    return new Measured(millis, effects, anew.or(() -> indexed(statement)).stream().toList());
  }

  /** The table that a statement makes an index of. */
  private static Optional<String> indexed(Statement statement) {
    List<String> words = StatementWords.first(statement, 12);
    int on = words.indexOf("ON");
    boolean isIndex =
        !words.isEmpty()
            && words.get(0).equals("CREATE")
            && words.contains("INDEX")
            && on > 0
            && on + 1 < words.size();
    return isIndex
        ? Optional.of(unquoted(StatementWords.tokens(statement, on + 2).get(on + 1)))
        : Optional.empty();
  }

  private static String unquoted(String name) {
    return name.replaceAll("^[\"`\\[]|[\"`\\]]$", "");
  }

  /** Pages that the transaction has changed, and those that it has added. */
  private long written(long pageSize) throws SQLException {
    long size = Math.max(0, journal.toFile().length() - JOURNAL_HEADER);
    return size / (pageSize + AROUND_PAGE) + Long.parseLong(pragma("page_count"));
  }

  private String pragma(String text) throws SQLException {
    try (java.sql.Statement sql = session.connection().createStatement();
        ResultSet rows = sql.executeQuery("PRAGMA " + text)) {
      return rows.next() ? rows.getString(1) : "";
    }
  }
}
