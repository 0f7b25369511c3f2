package org.wornladder.journal;

import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
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
   * What was kept last.
   *
   * @param expected what the history says should stand; empty if no run kept a snapshot, or the
   *     last one is told in another version's words
   * @param runBegan whether a run began since that did not come to its end
   * @param began what stood there before it; empty if that is told in another version's words
   */
  public record Kept(Optional<Snapshot> expected, boolean runBegan, Optional<Snapshot> began) {
    /**
     * What the history says should stand now. If a run did not come to its end, what it changed
     * until then counts as its work.
     *
     * @param live what stands there
     */
    public Optional<Snapshot> beside(Snapshot live) {
      return runBegan && expected.isPresent()
          ? began.map(before -> ExpectedStructure.after(expected.get(), before, live))
          : expected;
    }
  }

  /**
   * Reads what was kept last.
   *
   * @return unpacks it, which takes time and no session
   */
  public Callable<Kept> last() throws SQLException {
    if (!exists()) {
      return () -> new Kept(Optional.empty(), false, Optional.empty());
    }
    Optional<String> began = Optional.empty();
    Optional<String> expected = Optional.empty();
    String query =
        "SELECT moment, fingerprint FROM "
            + session.quoted(table)
            + " WHERE project = ? ORDER BY number DESC";
    try (PreparedStatement sql = session.connection().prepareStatement(query)) {
      sql.setString(1, project);
      try (ResultSet rows = sql.executeQuery()) {
        while (expected.isEmpty() && rows.next()) {
          if (rows.getString(1).equals(Moment.EXPECTED.word)) {
            expected = Optional.of(rows.getString(2));
          } else {
            began = Optional.of(rows.getString(2));
          }
        }
      }
    }
    return unpacking(expected, began);
  }

  private Callable<Kept> unpacking(Optional<String> expected, Optional<String> began)
      throws SQLException {
    Optional<Packed> should = kept(expected);
    Optional<Packed> was = kept(began);
    return () ->
        new Kept(
            // Before the first run nothing is expected but what it found given.
            should.isEmpty() && was.isPresent()
                ? was.flatMap(this::unpacked).map(Snapshot::ground)
                : should.flatMap(this::unpacked),
            was.isPresent(),
            was.flatMap(this::unpacked));
  }

  /** Keeps what stands there before a run. */
  public void keepBefore(Snapshot live, long entry) throws SQLException {
    keep(Moment.BEFORE, Ready.of(live), entry);
  }

  /** Keeps what should stand there from now on, and so ends a run. */
  public void keepExpected(Ready expected, long entry) throws SQLException {
    keep(Moment.EXPECTED, expected, entry);
  }

  /** A snapshot as it is kept, but for the packing: most contents are in the table already. */
  public record Ready(String fingerprint, String json) {
    public static Ready of(Snapshot snapshot) {
      String json = snapshot.json();
      return new Ready(Snapshot.fingerprint(json), json);
    }
  }

  private boolean exists() throws SQLException {
    return session.exists(
        new Condition.Presence(Condition.Kind.TABLE, table, "", true, "snapshots"));
  }

  private void keep(Moment moment, Ready snapshot, long entry) throws SQLException {
    if (!exists()) {
      String definition = OwnTables.snapshots(session.quoted(table), engine.storage());
      session.execute(new Statement(definition, Place.of(table), ""));
    }
    Row row = rowFor(snapshot.fingerprint());
    String content = row.holdsContent() ? "" : Packing.pack(snapshot.json());
    session.begin();
    session.insert(
        table,
        COLUMNS,
        List.of(
            row.number(),
            Stamp.now(clock),
            project,
            moment.word,
            entry,
            snapshot.fingerprint(),
            content));
    session.commit();
  }

  /**
   * Where a snapshot comes.
   *
   * @param holdsContent whether its content stands in the table already
   */
  private record Row(long number, boolean holdsContent) {}

  private Row rowFor(String fingerprint) throws SQLException {
    String query =
        "SELECT max(number), max(CASE WHEN fingerprint = ? AND content <> '' THEN 1 ELSE 0 END) FROM "
            + session.quoted(table);
    try (PreparedStatement sql = session.connection().prepareStatement(query)) {
      sql.setString(1, fingerprint);
      try (ResultSet found = sql.executeQuery()) {
        found.next();
        return new Row(found.getLong(1) + 1, found.getInt(2) == 1);
      }
    }
  }

  /** A snapshot as the table holds it. */
  private record Packed(String fingerprint, String content) {}

  private Optional<Packed> kept(Optional<String> fingerprint) throws SQLException {
    if (fingerprint.isEmpty()) {
      return Optional.empty();
    }
    String content = packed(fingerprint.get()).orElseThrow(() -> spoilt(fingerprint.get()));
    return Optional.of(new Packed(fingerprint.get(), content));
  }

  /** Empty if it is told in another version's words. */
  private Optional<Snapshot> unpacked(Packed packed) {
    String json = Packing.unpack(packed.content()).orElseThrow(() -> spoilt(packed.fingerprint()));
    if (!Snapshot.isInTheseWords(json)) {
      return Optional.empty();
    }
    return Optional.of(Snapshot.read(json).orElseThrow(() -> spoilt(packed.fingerprint())));
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
