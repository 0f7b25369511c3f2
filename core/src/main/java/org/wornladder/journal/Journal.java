package org.wornladder.journal;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.TreeSet;
import org.wornladder.JournalException;
import org.wornladder.engine.Engine;
import org.wornladder.engine.Fault;
import org.wornladder.engine.Session;
import org.wornladder.sql.Place;

/**
 * The journal of one database: reads it, and adds to it. A caller that adds holds the database's
 * lock and the transaction.
 */
public final class Journal {
  private static final List<String> COLUMNS =
      List.of(
          "number",
          "at",
          "project",
          "event",
          "rung",
          "name",
          "up_text",
          "up_fingerprint",
          "statement",
          "elapsed_ms",
          "note",
          "down_fingerprint",
          "script",
          "database_user",
          "os_user",
          "host",
          "session",
          "tool",
          "previous_hash",
          "hash");

  private static final List<String> GLANCED = COLUMNS.subList(0, COLUMNS.indexOf("note") + 1);

  private final Session session;
  private final Engine engine;
  private final String table;
  private final SnapshotTable beside;
  private final String project;
  private final String tool;
  private final Clock clock;

  private Optional<Entry.Who> who = Optional.empty();
  private final Set<String> others = new TreeSet<>();

  /** Whether the table is there, and the place for its head. */
  private boolean ready;

  private HashChain chain = new HashChain();

  /** This project's entries, as far as {@link #chain} has followed them. */
  private final List<Entry> followed = new ArrayList<>();

  private JournalHead head = JournalHead.NONE;

  /** The milliseconds of what was appended, by the entry's number. */
  private final SortedMap<Long, Long> elapsed = new TreeMap<>();

  /**
   * @param table the journal's table, as the settings name it
   * @param beside where the journal's head is recorded
   * @param tool the version that writes, for the record
   */
  public Journal(
      Session session,
      Engine engine,
      String table,
      SnapshotTable beside,
      String project,
      String tool,
      Clock clock) {
    this.session = session;
    this.engine = engine;
    this.table = table;
    this.beside = beside;
    this.project = project;
    this.tool = tool;
    this.clock = clock;
  }

  /** The tables that are the tool's own. */
  public List<String> tables() {
    return List.of(table, beside.name());
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
    chain = new HashChain();
    followed.clear();
    others.clear();
    return readOn(depth);
  }

  /**
   * Reads the entries that came since the last whole reading, and takes those before them as they
   * were then: for a database that no other process writes to.
   *
   * @throws JournalException as for {@link #read}
   */
  public History readOn() throws SQLException {
    return readOn(Depth.WHOLE);
  }

  private History readOn(Depth depth) throws SQLException {
    List<Entry> entries = new ArrayList<>(followed);
    Optional<History.Break> broken = Optional.empty();
    try {
      boolean exists = exists();
      if (exists) {
        readEntries(depth, entries);
      }
      if (depth == Depth.WHOLE) {
        Optional<JournalHead> recorded = beside.head();
        ready = exists && recorded.isPresent();
        broken = chain.end(recorded, beside.name());
        followed.clear();
        followed.addAll(entries);
      }
    } catch (SQLException e) {
      throw unreadable(e);
    }
    head = chain.last();
    return History.of(entries, broken, engine.dialect());
  }

  /** The entries of all projects, with their hashes; none if there is no journal yet. */
  public List<Entry> everything() throws SQLException {
    List<Entry> all = new ArrayList<>();
    if (exists()) {
      String query = query(COLUMNS, "", " ORDER BY [number]");
      try (Statement sql = session.connection().createStatement();
          ResultSet rows = sql.executeQuery(query)) {
        while (rows.next()) {
          all.add(entry(rows, Depth.WHOLE));
        }
      }
    }
    return all;
  }

  /**
   * Makes the entries of another database this one's own, which has none.
   *
   * @param entries of all projects, in order
   */
  public void restore(List<Entry> entries) throws SQLException {
    read(Depth.WHOLE);
    if (entries.isEmpty()) {
      return;
    }
    create();
    session.begin();
    for (Entry entry : entries) {
      insert(entry);
      head = new JournalHead(entry.number(), entry.hash());
    }
    beside.saveHead(head);
    session.commit();
  }

  private boolean exists() throws SQLException {
    return beside.exists(table, COLUMNS);
  }

  /** A query of the journal's table, in the form of {@link OwnSql}. */
  private String query(List<String> columns, String condition, String order) {
    return OwnSql.of(session, "SELECT " + OwnSql.list(columns) + " FROM ")
        + session.quoted(table)
        + OwnSql.of(session, condition + order);
  }

  private void readEntries(Depth depth, List<Entry> entries) throws SQLException {
    boolean begins = chain.last().equals(JournalHead.NONE);
    String query =
        query(
            depth == Depth.WHOLE ? COLUMNS : GLANCED,
            begins ? "" : " WHERE [number] > " + chain.last().number(),
            " ORDER BY [number]");
    try (Statement sql = session.connection().createStatement();
        ResultSet rows = sql.executeQuery(query)) {
      while (rows.next()) {
        Entry entry = entry(rows, depth);
        if (depth == Depth.WHOLE) {
          chain.next(entry);
        }
        if (entry.project().equals(project)) {
          entries.add(entry);
        } else {
          others.add(entry.project());
        }
      }
    }
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
                  + beside.quoted(),
              e);
      case STATEMENT -> beside.ofAnotherVersion(table, fault.message(), Optional.of(e));
      default -> throw e;
    };
  }

  private Entry entry(ResultSet row, Depth depth) throws SQLException {
    long number = row.getLong(1);
    boolean whole = depth == Depth.WHOLE;
    return new Entry(
        number,
        time(number, text(row, 2)),
        text(row, 3),
        event(number, text(row, 4)),
        new EntrySubject(
            row.getLong(5),
            text(row, 6),
            text(row, 7),
            text(row, 8),
            whole ? text(row, 12) : "",
            whole ? text(row, 13) : ""),
        new EntryDetails(row.getInt(9), row.getLong(10), text(row, 11)),
        whole
            ? new Entry.Who(text(row, 14), text(row, 15), text(row, 16), text(row, 17))
            : Entry.Who.NOT_READ,
        whole ? text(row, 18) : "",
        whole ? text(row, 19) : "",
        whole ? text(row, 20) : "");
  }

  /** Nothing is NULL in a table of ours; in one that was made anew, it counts as edited. */
  private static String text(ResultSet row, int column) throws SQLException {
    String text = row.getString(column);
    return row.wasNull() ? "" : text;
  }

  private String time(long number, String text) {
    if (!Timestamps.isOne(text)) {
      throw nonsense(number, "the time '" + text + "'");
    }
    return text;
  }

  private Event event(long number, String word) {
    return Event.of(word).orElseThrow(() -> nonsense(number, "the event '" + word + "'"));
  }

  private JournalException nonsense(long number, String what) {
    return new JournalException(
        "entry " + number + " of the journal has " + what + ", which this version does not know",
        session.address(),
        "if a newer version wrote it, use that one; else find out who wrote to " + table,
        null);
  }

  /**
   * Adds an entry, in the transaction that is open, and makes the table if it is not there. The
   * journal must have been read before.
   */
  public void append(Event event, EntrySubject subject, EntryDetails note) throws SQLException {
    create();
    if (who.isEmpty()) {
      who = Optional.of(Identity.of(session));
    }
    Entry entry =
        new Entry(
                head.number() + 1,
                Timestamps.now(clock),
                project,
                event,
                subject,
                note,
                who.get(),
                tool,
                head.hash(),
                "")
            .sealed();
    insert(entry);
    elapsed.put(entry.number(), note.elapsedMs());
    head = new JournalHead(entry.number(), entry.hash());
    beside.saveHead(head);
  }

  /**
   * Adds an entry that takes a broken journal as it is: the chain holds from there on, as long as
   * nothing before it changes again. The journal must have been read before.
   *
   * @param because why, in a person's words
   */
  public void accept(String because) throws SQLException {
    append(
        Event.JOURNAL_ACCEPTED,
        EntrySubject.standing("journal", "", "", chain.digest()),
        EntryDetails.of(because));
  }

  /** Makes what is not there of the tables. The journal must have been read before. */
  public void create() throws SQLException {
    if (ready) {
      return;
    }
    if (!exists()) {
      String definition = JournalTables.journal(session, table, engine.storage());
      session.execute(
          new org.wornladder.sql.Statement(definition, Place.of(table), engine.dialect()));
    }
    if (beside.head().isEmpty()) {
      beside.createHead();
    }
    ready = true;
  }

  /**
   * The milliseconds that the journal has for what was done since a mark, by the entry's number.
   * Some databases measure them themselves, so what was given to {@link #append} may be another.
   */
  public SortedMap<Long, Long> elapsedSince(Mark mark) throws SQLException {
    if (!session.measuresElapsed()) {
      return elapsed.tailMap(mark.number() + 1);
    }
    return session.numbers(
        query(List.of("number", "elapsed_ms"), " WHERE [number] > " + mark.number(), ""));
  }

  /** Whether the tables are there, as far as was read and written. */
  public boolean isThere() {
    return ready;
  }

  /** The last entry of all projects, as far as was read and written. */
  public JournalHead head() {
    return head;
  }

  /** Whether an entry with this number and hash is in the journal, whoever's it is. */
  public boolean holds(JournalHead entry) throws SQLException {
    String query = query(List.of("hash"), " WHERE [number] = " + entry.number(), "");
    if (!exists()) {
      return false;
    }
    try (Statement sql = session.connection().createStatement();
        ResultSet row = sql.executeQuery(query)) {
      return row.next() && text(row, 1).equals(entry.hash());
    }
  }

  /** The other projects that have entries, as far as was read. */
  public Set<String> others() {
    return Set.copyOf(others);
  }

  /** The number of the last entry that is committed. */
  public long lastInDatabase() throws SQLException {
    String query = OwnSql.of(session, "SELECT max([number]) FROM ") + session.quoted(table);
    try (Statement sql = session.connection().createStatement();
        ResultSet row = sql.executeQuery(query)) {
      return row.next() ? row.getLong(1) : 0;
    }
  }

  /** Forgets entries whose transaction was rolled back. */
  public void forgetUncommitted(Mark mark) {
    ready = mark.ready();
    head = mark.head();
    elapsed.tailMap(head.number() + 1).clear();
  }

  /** Where the journal stands, to go back to. */
  public record Mark(boolean ready, JournalHead head) {
    /** The number of the last entry. */
    public long number() {
      return head.number();
    }
  }

  public Mark mark() {
    return new Mark(ready, head);
  }

  private void insert(Entry entry) throws SQLException {
    session.insert(
        table,
        COLUMNS,
        List.of(
            entry.number(),
            entry.at(),
            entry.project(),
            entry.event().label(),
            entry.subject().rung(),
            entry.subject().name(),
            entry.subject().upText(),
            entry.subject().upFingerprint(),
            entry.note().statement(),
            entry.note().elapsedMs(),
            entry.note().text(),
            entry.subject().downFingerprint(),
            entry.subject().script(),
            entry.who().databaseUser(),
            entry.who().osUser(),
            entry.who().host(),
            entry.who().session(),
            entry.tool(),
            entry.previousHash(),
            entry.hash()));
  }
}
