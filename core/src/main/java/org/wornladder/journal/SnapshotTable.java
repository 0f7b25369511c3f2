package org.wornladder.journal;

import java.security.SecureRandom;
import java.sql.SQLException;
import java.time.Clock;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.Optional;
import java.util.SortedMap;
import java.util.TreeMap;
import org.wornladder.JournalException;
import org.wornladder.engine.Engine;
import org.wornladder.engine.OwnQuery;
import org.wornladder.engine.OwnRow;
import org.wornladder.engine.OwnTables;
import org.wornladder.engine.Session;
import org.wornladder.project.Condition;
import org.wornladder.sql.Quoting;

/**
 * The table beside the journal. It holds snapshots, and in its row 0 the journal's head, which
 * shows when the journal's last entries are lost, and the salt of hashes of secrets.
 */
public final class SnapshotTable {
  static final List<String> COLUMNS = JournalTables.snapshots("").columnNames();

  private static final OwnQuery.Filter ROW_ZERO = OwnQuery.Filter.equal("number", 0L);

  private final Session session;
  private final Engine engine;
  private final String name;
  private final Optional<String> owner;
  private final Clock clock;

  /**
   * @param name as {@link #beside} gives it
   * @param owner who may own the tool's tables beside the connection's own user
   */
  public SnapshotTable(
      Session session, Engine engine, String name, Optional<String> owner, Clock clock) {
    this.owner = owner;
    this.session = session;
    this.engine = engine;
    this.name = name;
    this.clock = clock;
  }

  /** The table's name: {@code ladder_snapshot} beside {@code ladder_journal}. */
  public static String beside(String journal) {
    String ending = "_journal";
    boolean regular = journal.endsWith(ending);
    return (regular ? journal.substring(0, journal.length() - ending.length()) : journal)
        + "_snapshot";
  }

  String name() {
    return name;
  }

  /** The name as statements write it. */
  String quoted() {
    return session.quoted(name);
  }

  /** Where this table's rows and the journal's are. */
  OwnTables rows() {
    return session.ownTables(session, engine);
  }

  boolean exists() throws SQLException {
    return exists(name, COLUMNS);
  }

  /**
   * Whether a table of the tool's own is there.
   *
   * @throws JournalException if a table of this name is there that is not to be trusted
   */
  boolean exists(String table, List<String> columns) throws SQLException {
    boolean there =
        session.exists(new Condition.Presence(Condition.Kind.TABLE, table, "", true, "own"));
    if (there) {
      Optional<String> suspicion = session.suspicion(table, owner);
      if (suspicion.isPresent()) {
        throw distrusted(table, suspicion.get());
      }
      List<String> more = new ArrayList<>(rows().columns(table));
      List<String> missing = new ArrayList<>(more.isEmpty() ? more : columns);
      missing.removeAll(more);
      if (!missing.isEmpty()) {
        throw ofAnotherVersion(table, "it has no column " + missing.get(0), Optional.empty());
      }
      more.removeAll(columns);
      if (!more.isEmpty()) {
        throw distrusted(table, "it has a column " + more.get(0) + " that is not the tool's");
      }
    }
    return there;
  }

  /** The refusal of a table of the tool's own name that this version cannot read. */
  JournalException ofAnotherVersion(String table, String why, Optional<SQLException> cause) {
    return new JournalException(
        "the table " + table + " is not a journal of this version: " + why,
        session.address(),
        "if it belongs to another program, name another under journal: table: in ladder.yaml",
        cause.orElse(null));
  }

  private JournalException distrusted(String table, String why) {
    return new JournalException(
        "the table " + table + " is not to be trusted: " + why,
        session.address(),
        "find out who made it; drop that, or name another table under journal: table: in"
            + " ladder.yaml; if its owner is to be trusted, journal: owner: names one",
        null);
  }

  /** Makes the table, which is not there. */
  void create() throws SQLException {
    rows().create(JournalTables.snapshots(name));
  }

  void insert(
      long number, String project, String moment, long entry, String fingerprint, String content)
      throws SQLException {
    session.insert(
        name,
        COLUMNS,
        List.of(number, Timestamps.now(clock), project, moment, entry, fingerprint, content));
  }

  /** The statement that adds a row with the next number; for a script that another runs. */
  String insertion(String project, String moment, long entry, String fingerprint, String content) {
    Quoting quoting = engine.quoting();
    return "INSERT INTO %s (%s) SELECT max(%s) + 1, %s, %s, %s, %d, %s, %s FROM %s"
        .formatted(
            quoted(),
            String.join(", ", COLUMNS.stream().map(session::ownColumn).toList()),
            session.ownColumn("number"),
            quoting.text(Timestamps.now(clock)),
            quoting.text(project),
            quoting.text(moment),
            entry,
            quoting.text(fingerprint),
            quoting.text(content),
            quoted());
  }

  /** The journal's head as it was recorded; empty if nothing is recorded. */
  Optional<JournalHead> head() throws SQLException {
    if (!exists()) {
      return Optional.empty();
    }
    return rowZero("entry", "fingerprint").map(row -> new JournalHead(row.number(0), row.text(1)));
  }

  private Optional<OwnRow> rowZero(String... columns) throws SQLException {
    OwnQuery query = OwnQuery.of(name, List.of(columns)).where(ROW_ZERO);
    return rows().rows(query).stream().findFirst();
  }

  /** What hashes of secrets are salted with; empty while nothing is saved. */
  String salt() throws SQLException {
    return exists() ? rowZero("content").map(row -> row.text(0)).orElse("") : "";
  }

  private static String newSalt() {
    byte[] salt = new byte[16];
    new SecureRandom().nextBytes(salt);
    return HexFormat.of().formatHex(salt);
  }

  /** Makes the place for the journal's head and the salt, and the table if it is not there. */
  void createHead() throws SQLException {
    if (!exists()) {
      create();
    }
    SortedMap<String, Object> head = new TreeMap<>();
    head.put("number", 0L);
    head.put("at", Timestamps.now(clock));
    head.put("project", "");
    head.put("moment", "head");
    head.put("entry", 0L);
    head.put("fingerprint", "");
    head.put("content", newSalt());
    rows().insertNow(name, head);
  }

  /** Records the journal's head, which has a place, in the transaction that is open. */
  void saveHead(JournalHead head) throws SQLException {
    SortedMap<String, Object> values = new TreeMap<>();
    values.put("at", Timestamps.now(clock));
    values.put("entry", head.number());
    values.put("fingerprint", head.hash());
    rows().amend(name, values, ROW_ZERO);
  }
}
