package org.wornladder.journal;

import java.sql.SQLException;
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
import org.wornladder.engine.OwnQuery;
import org.wornladder.engine.OwnQuery.Filter;
import org.wornladder.engine.OwnQuery.Order;
import org.wornladder.engine.OwnRow;
import org.wornladder.engine.Session;

/**
 * The journal of one database: reads it, and adds to it. A caller that adds holds the database's
 * lock and the transaction.
 */
public final class Journal {
  /** Those of a glance come first. */
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
        broken = chain.end(recorded, beside.name(), session.commitsTogether());
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
      for (OwnRow row : rows(OwnQuery.of(table, COLUMNS).in(Order.RISING))) {
        all.add(entry(row, Depth.WHOLE));
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

  private List<OwnRow> rows(OwnQuery query) throws SQLException {
    return beside.rows().rows(query);
  }

  private void readEntries(Depth depth, List<Entry> entries) throws SQLException {
    OwnQuery all = OwnQuery.of(table, depth == Depth.WHOLE ? COLUMNS : GLANCED).in(Order.RISING);
    boolean begins = chain.last().equals(JournalHead.NONE);
    OwnQuery query =
        begins ? all : all.where(Filter.greater(Session.NUMBER_COLUMN, chain.last().number()));
    for (OwnRow row : rows(query)) {
      Entry entry = entry(row, depth);
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

  private Entry entry(OwnRow row, Depth depth) {
    long number = row.number(0);
    boolean whole = depth == Depth.WHOLE;
    return new Entry(
        number,
        time(number, row.text(1)),
        row.text(2),
        event(number, row.text(3)),
        new EntrySubject(
            row.number(4),
            row.text(5),
            row.text(6),
            row.text(7),
            whole ? row.text(11) : "",
            whole ? row.text(12) : ""),
        new EntryDetails((int) row.number(8), row.number(9), row.text(10)),
        whole
            ? new Entry.Who(row.text(13), row.text(14), row.text(15), row.text(16))
            : Entry.Who.NOT_READ,
        whole ? row.text(17) : "",
        whole ? row.text(18) : "",
        whole ? row.text(19) : "");
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
      beside.rows().create(JournalTables.journal(table));
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
    session.runWaiting();
    SortedMap<Long, Long> measured = new TreeMap<>();
    OwnQuery query = OwnQuery.of(table, List.of(Session.NUMBER_COLUMN, Session.ELAPSED_COLUMN));
    for (OwnRow row : rows(query.where(Filter.greater(Session.NUMBER_COLUMN, mark.number())))) {
      measured.put(row.number(0), row.number(1));
    }
    return measured;
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
    OwnQuery query =
        OwnQuery.of(table, List.of("hash"))
            .where(Filter.equal(Session.NUMBER_COLUMN, entry.number()));
    return exists() && rows(query).stream().anyMatch(row -> row.text(0).equals(entry.hash()));
  }

  /** The other projects that have entries, as far as was read. */
  public Set<String> others() {
    return Set.copyOf(others);
  }

  /** The number of the last entry that is committed. */
  public long lastInDatabase() throws SQLException {
    return last(
        rows(OwnQuery.of(table, List.of(Session.NUMBER_COLUMN)).in(Order.FALLING).atMost(1)));
  }

  private static long last(List<OwnRow> rows) {
    return rows.isEmpty() ? 0 : rows.get(0).number(0);
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
