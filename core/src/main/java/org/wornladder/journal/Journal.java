package org.wornladder.journal;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.wornladder.JournalException;
import org.wornladder.engine.Engine;
import org.wornladder.engine.Fault;
import org.wornladder.engine.Session;
import org.wornladder.project.Condition;
import org.wornladder.sql.Place;

/**
 * The journal of one database: reads it, and adds to it. A caller that adds holds the database's
 * lock and the transaction.
 */
public final class Journal {
  private static final String GLANCED =
      "number, at, project, event, rung, name, up_text, up_fingerprint, statement, elapsed_ms, note";
  private static final String COLUMNS =
      GLANCED
          + ", down_fingerprint, script, database_user, os_user, host, session, tool,"
          + " previous_hash, hash";

  private static final List<String> COLUMN_LIST = List.of(COLUMNS.split(", "));

  private final Session session;
  private final Engine engine;
  private final String table;
  private final String project;
  private final String tool;
  private final Clock clock;

  private Optional<Entry.Who> who = Optional.empty();
  private final Set<String> others = new TreeSet<>();
  private boolean exists;
  private long lastNumber;
  private String lastHash = "";

  /**
   * @param table the journal's table, as the settings name it
   * @param tool the version that writes, for the record
   */
  public Journal(
      Session session, Engine engine, String table, String project, String tool, Clock clock) {
    this.session = session;
    this.engine = engine;
    this.table = table;
    this.project = project;
    this.tool = tool;
    this.clock = clock;
  }

  /** The tables that are the tool's own. */
  public List<String> tables() {
    return List.of(table, Snapshots.tableBeside(table));
  }

  /** How much of the journal is read. */
  public enum Depth {
    /** Without scripts, hashes and who it was, the chain unproven: for a look. */
    GLANCE,
    /** With scripts, the chain proven: before a change. */
    WHOLE
  }

  /**
   * Reads the entries of this project; none if there is no journal yet. Only a whole reading may be
   * followed by additions.
   *
   * @throws JournalException if the table is there and is not a journal that this version can read
   */
  public History read(Depth depth) throws SQLException {
    exists =
        session.exists(new Condition.Presence(Condition.Kind.TABLE, table, "", true, "journal"));
    lastNumber = 0;
    lastHash = "";
    others.clear();
    if (!exists) {
      return History.of(List.of(), Optional.empty());
    }
    String columns = depth == Depth.WHOLE ? COLUMNS : GLANCED;
    String query = "SELECT " + columns + " FROM " + session.quoted(table) + " ORDER BY number";
    List<Entry> entries = new ArrayList<>();
    Optional<History.Break> broken = Optional.empty();
    try (Statement sql = session.connection().createStatement();
        ResultSet rows = sql.executeQuery(query)) {
      while (rows.next()) {
        Entry entry = entry(rows, depth);
        if (depth == Depth.WHOLE && broken.isEmpty()) {
          broken = prove(entry);
        }
        lastNumber = entry.number();
        lastHash = entry.hash();
        if (entry.project().equals(project)) {
          entries.add(entry);
        } else {
          others.add(entry.project());
        }
      }
    } catch (SQLException e) {
      throw unreadable(e);
    }
    return History.of(entries, broken);
  }

  /**
   * @throws SQLException the failure itself, if it says nothing of the journal
   */
  private JournalException unreadable(SQLException e) throws SQLException {
    Fault fault = session.fault(e);
    return switch (fault.kind()) {
      case DENIED ->
          new JournalException(
              "the journal may not be read: " + fault.message(),
              session.address(),
              "let its owner GRANT SELECT ON "
                  + session.quoted(table)
                  + ", and on "
                  + session.quoted(Snapshots.tableBeside(table)),
              e);
      case STATEMENT ->
          new JournalException(
              "the table " + table + " is not a journal of this version: " + fault.message(),
              session.address(),
              "if it is somebody else's, name another under journal: table: in ladder.yaml",
              e);
      default -> throw e;
    };
  }

  private Optional<History.Break> prove(Entry entry) {
    if (entry.number() != lastNumber + 1) {
      return Optional.of(new History.Break(entry.number(), "an entry is missing before it"));
    }
    if (!entry.previousHash().equals(lastHash)) {
      return Optional.of(
          new History.Break(entry.number(), "it does not follow from the entry before it"));
    }
    String hash =
        Entry.hash(
            entry.number(),
            entry.project(),
            entry.event().label(),
            entry.subject(),
            entry.previousHash());
    return hash.equals(entry.hash())
        ? Optional.empty()
        : Optional.of(new History.Break(entry.number(), "it was edited after it was written"));
  }

  private Entry entry(ResultSet row, Depth depth) throws SQLException {
    String word = row.getString(4);
    Event event =
        Event.of(word)
            .orElseThrow(
                () ->
                    new JournalException(
                        "the journal holds '" + word + "', which this version does not know",
                        session.address(),
                        "a newer version wrote it: use that one",
                        null));
    boolean whole = depth == Depth.WHOLE;
    return new Entry(
        row.getLong(1),
        row.getString(2),
        row.getString(3),
        event,
        new EntrySubject(
            row.getLong(5),
            row.getString(6),
            row.getString(7),
            row.getString(8),
            whole ? row.getString(12) : "",
            whole ? row.getString(13) : ""),
        new EntryDetails(row.getInt(9), row.getLong(10), row.getString(11)),
        whole
            ? new Entry.Who(
                row.getString(14), row.getString(15), row.getString(16), row.getString(17))
            : Entry.Who.NOT_READ,
        whole ? row.getString(18) : "",
        whole ? row.getString(19) : "",
        whole ? row.getString(20) : "");
  }

  /**
   * Adds an entry, in the transaction that is open, and makes the table if it is not there. The
   * journal must have been read before.
   */
  public void append(Event event, EntrySubject subject, EntryDetails note) throws SQLException {
    if (!exists) {
      create();
    }
    long number = lastNumber + 1;
    String hash = Entry.hash(number, project, event.label(), subject, lastHash);
    write(number, hash, event, subject, note);
    lastNumber = number;
    lastHash = hash;
  }

  /** Makes the table if it is not there. The journal must have been read before. */
  public void create() throws SQLException {
    if (!exists) {
      String definition = JournalTables.journal(session.quoted(table), engine.storage());
      session.execute(new org.wornladder.sql.Statement(definition, Place.of(table), ""));
      exists = true;
    }
  }

  /** Whether the table is there, as far as was read and written. */
  public boolean isThere() {
    return exists;
  }

  /** The other projects that have entries, as far as was read. */
  public Set<String> others() {
    return Set.copyOf(others);
  }

  /** The number of the last entry that is committed. */
  public long lastInDatabase() throws SQLException {
    try (Statement sql = session.connection().createStatement();
        ResultSet row = sql.executeQuery("SELECT max(number) FROM " + session.quoted(table))) {
      return row.next() ? row.getLong(1) : 0;
    }
  }

  /** Forgets entries whose transaction was rolled back. */
  public void forgetUncommitted(Mark mark) {
    exists = mark.exists();
    lastNumber = mark.number();
    lastHash = mark.hash();
  }

  /** Where the journal stands, to go back to. */
  public record Mark(boolean exists, long number, String hash) {}

  public Mark mark() {
    return new Mark(exists, lastNumber, lastHash);
  }

  private void write(long number, String hash, Event event, EntrySubject subject, EntryDetails note)
      throws SQLException {
    if (who.isEmpty()) {
      who = Optional.of(Identity.of(session));
    }
    session.insert(
        table,
        COLUMN_LIST,
        List.of(
            number,
            Timestamps.now(clock),
            project,
            event.label(),
            subject.rung(),
            subject.name(),
            subject.upText(),
            subject.upFingerprint(),
            note.statement(),
            note.elapsedMs(),
            note.text(),
            subject.downFingerprint(),
            subject.script(),
            who.get().databaseUser(),
            who.get().osUser(),
            who.get().host(),
            who.get().session(),
            tool,
            lastHash,
            hash));
  }
}
