package org.wornladder.journal;

import java.sql.SQLException;
import java.util.Iterator;
import java.util.List;
import java.util.Optional;
import org.wornladder.JournalException;
import org.wornladder.change.ExpectedStructure;
import org.wornladder.engine.OwnQuery;
import org.wornladder.engine.OwnQuery.Filter;
import org.wornladder.engine.OwnQuery.Order;
import org.wornladder.engine.OwnRow;
import org.wornladder.engine.Session;
import org.wornladder.project.Secrets;
import org.wornladder.schema.Snapshot;

/**
 * The structures that one database was seen to have, and was expected to have, each content kept
 * once. A caller that adds holds the database's lock.
 */
public final class Snapshots {
  /** What a structure was. */
  private enum Moment {
    /** What was there before a run; the run has not ended if nothing follows. */
    BEFORE("before"),
    /** What the history says should stand, after a run. */
    EXPECTED("expected"),
    /**
     * Right before the latter, where it stood as it should: the fingerprint that the database gives
     * to it.
     */
    CATALOG("catalog"),
    /** None: a person wants the run that is going on to end. */
    STOP("stop");

    private final String word;

    Moment(String word) {
      this.word = word;
    }
  }

  private static final Filter NO_STOP = Filter.other("moment", Moment.STOP.word);

  private final Session session;
  private final SnapshotTable table;
  private final String project;
  private final Secrets secrets;

  /** Whether the table is there; empty while nobody asked. */
  private Optional<Boolean> there = Optional.empty();

  /**
   * @param secrets what is saved as hashes where it is part of a definition
   */
  public Snapshots(Session session, SnapshotTable table, String project, Secrets secrets) {
    this.secrets = secrets;
    this.session = session;
    this.table = table;
    this.project = project;
  }

  /**
   * What the history says should stand now. If a run did not come to its end, what it changed until
   * then counts as its work.
   *
   * @param live what is there
   * @return empty if no run kept a snapshot, or another version wrote the last one
   */
  public Optional<Snapshot> expected(Last last, Snapshot live) throws SQLException {
    if (last.began().isEmpty()) {
      // What stands as it should need not be unpacked.
      return last.expected().equals(Optional.of(hidden(live).fingerprint()))
          ? Optional.of(live)
          : unpacked(last.expected());
    }
    Optional<Snapshot> before = unpacked(last.began());
    // Before the first run nothing is expected but what it found given.
    Optional<Snapshot> expected =
        last.expected().isEmpty() ? before.map(Snapshot::ground) : unpacked(last.expected());
    return expected.isEmpty() || before.isEmpty()
        ? Optional.empty()
        : Optional.of(ExpectedStructure.after(expected.get(), before.get(), live));
  }

  /**
   * What was kept last, by its fingerprints.
   *
   * @param expected what should be there; empty if no run kept it
   * @param began what was there before a run that did not come to its end; empty if there is none
   * @param catalogFingerprint the database's own fingerprint of the structure, where it has one
   */
  public record Last(
      Optional<String> expected, Optional<String> began, Optional<String> catalogFingerprint) {}

  /** Reads what was kept last. */
  public Last last() throws SQLException {
    Optional<String> began = Optional.empty();
    Optional<String> expected = Optional.empty();
    Optional<String> catalogFingerprint = Optional.empty();
    there = Optional.of(table.exists());
    if (!there.get()) {
      return new Last(expected, began, catalogFingerprint);
    }
    Iterator<OwnRow> rows =
        rows(ofProject("moment", "fingerprint").where(NO_STOP).in(Order.FALLING)).iterator();
    while (expected.isEmpty() && rows.hasNext()) {
      OwnRow row = rows.next();
      if (row.text(0).equals(Moment.EXPECTED.word)) {
        expected = Optional.of(row.text(1));
      } else {
        began = Optional.of(row.text(1));
      }
    }
    if (began.isEmpty() && rows.hasNext()) {
      catalogFingerprint =
          Optional.of(rows.next())
              .filter(row -> row.text(0).equals(Moment.CATALOG.word))
              .map(row -> row.text(1));
    }
    return new Last(expected, began, catalogFingerprint);
  }

  /**
   * What stood before a run and behind it.
   *
   * @param from the last entry before the run
   * @param to its last entry
   */
  public record AroundRun(Snapshot before, Snapshot after, long from, long to) {}

  /**
   * The structures around the run that an entry belongs to; empty if they were not kept, or by
   * another version.
   */
  public Optional<AroundRun> around(long entry) throws SQLException {
    if (!table.exists()) {
      return Optional.empty();
    }
    OwnQuery query =
        ofProject("moment", "entry", "fingerprint")
            .where(NO_STOP)
            .where(Filter.other("moment", Moment.CATALOG.word))
            .in(Order.RISING);
    String before = "";
    long from = 0;
    for (OwnRow row : rows(query)) {
      long at = row.number(1);
      if (at < entry) {
        from = at;
        before = row.text(2);
      } else if (row.text(0).equals(Moment.EXPECTED.word) && !before.isEmpty()) {
        Optional<Snapshot> was = unpacked(before);
        Optional<Snapshot> is = unpacked(row.text(2));
        long since = from;
        return was.flatMap(one -> is.map(other -> new AroundRun(one, other, since, at)));
      }
    }
    return Optional.empty();
  }

  /** Keeps what is there before a run. */
  public void saveBefore(Snapshot live, long entry) throws SQLException {
    keep(Moment.BEFORE, live, Optional.empty(), entry);
  }

  /**
   * Keeps what should be there from now on, and so ends a run.
   *
   * @param catalogFingerprint the database's own fingerprint of the structure, if the expected
   *     structure is there
   */
  public void saveExpected(Snapshot expected, Optional<String> catalogFingerprint, long entry)
      throws SQLException {
    keep(Moment.EXPECTED, expected, catalogFingerprint, entry);
  }

  private void keep(
      Moment moment, Snapshot snapshot, Optional<String> catalogFingerprint, long entry)
      throws SQLException {
    if (!there.orElse(false) && !table.exists()) {
      table.createHead();
    }
    there = Optional.of(true);
    Snapshot hidden = hidden(snapshot);
    String fingerprint = hidden.fingerprint();
    // That of the database is over the secrets themselves.
    Optional<String> catalog = catalogFingerprint.filter(one -> hidden.equals(snapshot));
    Row row = rowFor(fingerprint);
    String content = row.holdsContent() ? "" : SnapshotCodec.pack(hidden.json());
    session.begin();
    if (catalog.isPresent()) {
      insert(row.number(), Moment.CATALOG, entry, catalog.get(), "");
    }
    long number = row.number() + (catalog.isPresent() ? 1 : 0);
    insert(number, moment, entry, fingerprint, content);
    session.commit();
  }

  /**
   * Asks whoever runs batches to end behind the one that is running.
   *
   * @param who asks, in words
   */
  public void askStop(String who) throws SQLException {
    session.begin();
    insert(rowFor("").number(), Moment.STOP, 0, who, "");
    session.commit();
  }

  /** Who asked the run to stop; empty if no stop was requested. */
  public Optional<String> stopAsked() throws SQLException {
    OwnQuery query = ofProject("fingerprint").where(Filter.equal("moment", Moment.STOP.word));
    return rows(query).stream().map(row -> row.text(0)).findFirst();
  }

  /** What was asked before is not meant for the next run. */
  public void forgetStop() throws SQLException {
    if (table.exists()) {
      session.begin();
      table.rows().delete(table.name(), Filter.equal("moment", Moment.STOP.word));
      session.commit();
    }
  }

  /** The statement that keeps what is there before a run, for a script that another runs. */
  public String statementBefore(Snapshot live, long entry) throws SQLException {
    return statement(Moment.BEFORE, hidden(live), entry);
  }

  /**
   * The statement that keeps what should be there behind a run, and so ends it.
   *
   * @param made what the table beside the journal will be salted with if it is not there yet
   */
  public String statementExpected(Snapshot expected, long entry, String made) throws SQLException {
    String salt = table.salt();
    SecretPlaceholders placeholders = new SecretPlaceholders(secrets, salt.isEmpty() ? made : salt);
    return statement(Moment.EXPECTED, placeholders.hide(expected), entry);
  }

  /** What hashes of secrets are salted with here; empty while nothing is saved. */
  public String salt() throws SQLException {
    return table.salt();
  }

  private String statement(Moment moment, Snapshot hidden, long entry) {
    return table.insertion(
        project, moment.word, entry, hidden.fingerprint(), SnapshotCodec.pack(hidden.json()));
  }

  /** Whether a text of a saved structure lacks a secret, whose value is another by now. */
  public static boolean lacksSecret(String text) {
    return SecretPlaceholders.isIn(text);
  }

  private Snapshot hidden(Snapshot snapshot) throws SQLException {
    return placeholders().hide(snapshot);
  }

  private SecretPlaceholders placeholders() throws SQLException {
    return new SecretPlaceholders(secrets, secrets.spellings().isEmpty() ? "" : table.salt());
  }

  private void insert(long number, Moment moment, long entry, String fingerprint, String content)
      throws SQLException {
    table.insert(number, project, moment.word, entry, fingerprint, content);
  }

  /**
   * Where a snapshot comes.
   *
   * @param holdsContent whether its content is in the table already
   */
  private record Row(long number, boolean holdsContent) {}

  private Row rowFor(String fingerprint) throws SQLException {
    OwnQuery numbers = OwnQuery.of(table.name(), List.of("number"));
    List<OwnRow> last = rows(numbers.in(Order.FALLING).atMost(1));
    return new Row(
        last.isEmpty() ? 1 : last.get(0).number(0) + 1,
        !rows(withContent(fingerprint, "number").atMost(1)).isEmpty());
  }

  private List<OwnRow> rows(OwnQuery query) throws SQLException {
    return table.rows().rows(query);
  }

  private OwnQuery ofProject(String... columns) {
    return OwnQuery.of(table.name(), List.of(columns)).where(Filter.equal("project", project));
  }

  private OwnQuery withContent(String fingerprint, String column) {
    return OwnQuery.of(table.name(), List.of(column))
        .where(Filter.equal("fingerprint", fingerprint))
        .where(Filter.filled("content"));
  }

  /** Empty for none, and if another version wrote it. */
  private Optional<Snapshot> unpacked(Optional<String> fingerprint) throws SQLException {
    return fingerprint.isEmpty() ? Optional.empty() : unpacked(fingerprint.get());
  }

  private Optional<Snapshot> unpacked(String fingerprint) throws SQLException {
    String json =
        packed(fingerprint).flatMap(SnapshotCodec::unpack).orElseThrow(() -> spoilt(fingerprint));
    if (!Snapshot.isOfThisVersion(json)) {
      return Optional.empty();
    }
    Snapshot saved = Snapshot.read(json).orElseThrow(() -> spoilt(fingerprint));
    return Optional.of(placeholders().reveal(saved));
  }

  private JournalException spoilt(String fingerprint) {
    return new JournalException(
        "a snapshot in "
            + table.name()
            + " cannot be read: "
            + fingerprint.substring(0, Math.min(12, fingerprint.length())),
        session.address(),
        "somebody wrote to the table; empty it, and the next apply keeps a new one",
        null);
  }

  private Optional<String> packed(String fingerprint) throws SQLException {
    return rows(withContent(fingerprint, "content").in(Order.RISING).atMost(1)).stream()
        .map(row -> row.text(0))
        .findFirst();
  }
}
