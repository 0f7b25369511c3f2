package org.wornladder.journal;

import java.security.SecureRandom;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.wornladder.JournalException;
import org.wornladder.engine.Engine;
import org.wornladder.engine.Session;
import org.wornladder.project.Condition;
import org.wornladder.sql.Place;
import org.wornladder.sql.Quoting;
import org.wornladder.sql.Statement;

/**
 * The table beside the journal. It holds snapshots, and in its row 0 the journal's head, which
 * shows when the journal's last entries are lost, and the salt of hashes of secrets.
 */
public final class SnapshotTable {
  static final List<String> COLUMNS =
      List.of("number", "at", "project", "moment", "entry", "fingerprint", "content");

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

  private String sql(String text) {
    return OwnSql.of(session, text);
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
      List<String> more = new ArrayList<>(columnsOf(table));
      List<String> missing = new ArrayList<>(columns);
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

  private List<String> columnsOf(String table) throws SQLException {
    List<String> columns = new ArrayList<>();
    String query = "SELECT * FROM " + session.quoted(table) + " WHERE 1 = 0";
    try (java.sql.Statement sql = session.connection().createStatement();
        ResultSet row = sql.executeQuery(query)) {
      for (int i = 1; i <= row.getMetaData().getColumnCount(); i++) {
        columns.add(row.getMetaData().getColumnLabel(i).toLowerCase(Locale.ROOT));
      }
    }
    return columns;
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
    String definition = JournalTables.snapshots(session, name, engine.storage());
    session.execute(new Statement(definition, Place.of(name), engine.dialect()));
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
    return sql("INSERT INTO %s (%s) SELECT max([number]) + 1, %s, %s, %s, %d, %s, %s FROM %s")
        .formatted(
            quoted(),
            sql(OwnSql.list(COLUMNS)),
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
    String query =
        sql("SELECT [entry], [fingerprint] FROM %s WHERE [number] = 0").formatted(quoted());
    try (java.sql.Statement sql = session.connection().createStatement();
        ResultSet row = sql.executeQuery(query)) {
      return row.next()
          ? Optional.of(new JournalHead(row.getLong(1), row.getString(2)))
          : Optional.empty();
    }
  }

  /** What hashes of secrets are salted with; empty while nothing is saved. */
  String salt() throws SQLException {
    if (!exists()) {
      return "";
    }
    String query = sql("SELECT [content] FROM %s WHERE [number] = 0").formatted(quoted());
    try (java.sql.Statement sql = session.connection().createStatement();
        ResultSet row = sql.executeQuery(query)) {
      return row.next() ? row.getString(1) : "";
    }
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
    // At once: what waits would be undone with the transaction that it waits for.
    session.change(
        "INSERT INTO %s (%s) VALUES (0, '%s', '', 'head', 0, '', '%s')"
            .formatted(quoted(), sql(OwnSql.list(COLUMNS)), Timestamps.now(clock), newSalt()));
  }

  /** Records the journal's head, which has a place, in the transaction that is open. */
  void saveHead(JournalHead head) throws SQLException {
    session.amend(
        sql("UPDATE %s SET [at] = '%s', [entry] = %d, [fingerprint] = '%s' WHERE [number] = 0")
            .formatted(quoted(), Timestamps.now(clock), head.number(), head.hash()));
  }
}
