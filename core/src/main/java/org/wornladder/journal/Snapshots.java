package org.wornladder.journal;

import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.util.List;
import java.util.Optional;
import org.wornladder.diff.ExpectedStructure;
import org.wornladder.engine.Engine;
import org.wornladder.engine.Session;
import org.wornladder.project.Condition;
import org.wornladder.schema.Snapshot;
import org.wornladder.sql.Place;
import org.wornladder.sql.Statement;

/**
 * The structures that one database was seen to have, and was expected to have, each content kept
 * once. Whoever adds holds the database's lock.
 */
public final class Snapshots {
  private static final List<String> COLUMNS =
      List.of("number", "at", "project", "moment", "entry", "fingerprint", "content");

  /** What a structure was. */
  private enum Moment {
    /** What stood there before a run; the run has not ended if nothing follows. */
    BEFORE("before"),
    /** What the history says should stand, after a run. */
    EXPECTED("expected");

    private final String word;

    Moment(String word) {
      this.word = word;
    }
  }

  private final Session session;
  private final Engine engine;
  private final String table;
  private final String project;
  private final Clock clock;

  /**
   * @param table as {@link #tableBeside} names it
   */
  public Snapshots(Session session, Engine engine, String table, String project, Clock clock) {
    this.session = session;
    this.engine = engine;
    this.table = table;
    this.project = project;
    this.clock = clock;
  }

  /** The name of the snapshots' table: {@code ladder_snapshot} beside {@code ladder_journal}. */
  public static String tableBeside(String journal) {
    String ending = "_journal";
    boolean regular = journal.endsWith(ending);
    return (regular ? journal.substring(0, journal.length() - ending.length()) : journal)
        + "_snapshot";
  }

  /**
   * What the history says should stand now. If a run did not come to its end, what it changed until
   * then counts as its work.
   *
   * @param live what stands there
   * @return empty if no run kept a snapshot, or the last one is told in another version's words
   */
  public Optional<Snapshot> expected(Snapshot live) throws SQLException {
    if (!exists()) {
      return Optional.empty();
    }
    Optional<String> began = Optional.empty();
    String query =
        "SELECT moment, fingerprint FROM "
            + session.quoted(table)
            + " WHERE project = ? ORDER BY number DESC";
    try (PreparedStatement sql = session.connection().prepareStatement(query)) {
      sql.setString(1, project);
      try (ResultSet rows = sql.executeQuery()) {
        while (rows.next()) {
          if (rows.getString(1).equals(Moment.EXPECTED.word)) {
            return after(content(rows.getString(2)), began, live);
          }
          began = Optional.of(rows.getString(2));
        }
      }
    }
    return began.isEmpty() ? Optional.empty() : after(Optional.of(Snapshot.EMPTY), began, live);
  }

  /** What was expected, with what a run changed that began behind it and did not end. */
  private Optional<Snapshot> after(
      Optional<Snapshot> expected, Optional<String> began, Snapshot live) throws SQLException {
    if (began.isEmpty() || expected.isEmpty()) {
      return expected;
    }
    return content(began.get())
        .map(before -> ExpectedStructure.after(expected.get(), before, live));
  }

  /** Keeps what stands there before a run. */
  public void keepBefore(Snapshot live, long entry) throws SQLException {
    keep(Moment.BEFORE, live, entry);
  }

  /** Keeps what should stand there from now on, and so ends a run. */
  public void keepExpected(Snapshot expected, long entry) throws SQLException {
    keep(Moment.EXPECTED, expected, entry);
  }

  private boolean exists() throws SQLException {
    return session.exists(
        new Condition.Presence(Condition.Kind.TABLE, table, "", true, "snapshots"));
  }

  private void keep(Moment moment, Snapshot snapshot, long entry) throws SQLException {
    if (!exists()) {
      String definition = OwnTables.snapshots(session.quoted(table), engine.storage());
      session.execute(new Statement(definition, Place.of(table), ""));
    }
    String json = snapshot.json();
    String fingerprint = Snapshot.fingerprint(json);
    String content = packed(fingerprint).isPresent() ? "" : Packing.pack(json);
    long number = last() + 1;
    session.begin();
    session.insert(
        table,
        COLUMNS,
        List.of(number, Stamp.now(clock), project, moment.word, entry, fingerprint, content));
    session.commit();
  }

  private long last() throws SQLException {
    try (java.sql.Statement sql = session.connection().createStatement();
        ResultSet row = sql.executeQuery("SELECT max(number) FROM " + session.quoted(table))) {
      return row.next() ? row.getLong(1) : 0;
    }
  }

  /** Empty if it is told in another version's words. */
  private Optional<Snapshot> content(String fingerprint) throws SQLException {
    String json =
        packed(fingerprint).flatMap(Packing::unpack).orElseThrow(() -> spoilt(fingerprint));
    if (!Snapshot.isInTheseWords(json)) {
      return Optional.empty();
    }
    return Optional.of(Snapshot.read(json).orElseThrow(() -> spoilt(fingerprint)));
  }

  private JournalException spoilt(String fingerprint) {
    return new JournalException(
        "a snapshot in " + table + " cannot be read: " + fingerprint.substring(0, 12),
        session.address(),
        "somebody wrote to the table; empty it, and the next apply keeps a new one",
        null);
  }

  private Optional<String> packed(String fingerprint) throws SQLException {
    String query =
        "SELECT content FROM "
            + session.quoted(table)
            + " WHERE fingerprint = ? AND content <> '' ORDER BY number";
    try (PreparedStatement sql = session.connection().prepareStatement(query)) {
      sql.setString(1, fingerprint);
      try (ResultSet rows = sql.executeQuery()) {
        return rows.next() ? Optional.of(rows.getString(1)) : Optional.empty();
      }
    }
  }
}
