package org.wornladder.seed;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.wornladder.Advice;
import org.wornladder.LadderException;
import org.wornladder.SeedCounts;
import org.wornladder.SeedListener;
import org.wornladder.SeedResult;
import org.wornladder.StatementFailedException;
import org.wornladder.StatementFailedException.Failure;
import org.wornladder.engine.DatabaseErrors;
import org.wornladder.engine.Fault;
import org.wornladder.engine.Session;
import org.wornladder.engine.Staging;
import org.wornladder.engine.StagingTable;
import org.wornladder.journal.EntryDetails;
import org.wornladder.journal.EntrySubject;
import org.wornladder.journal.Event;
import org.wornladder.journal.Journal;
import org.wornladder.project.Environment;
import org.wornladder.project.Seed;
import org.wornladder.schema.Column;
import org.wornladder.sql.Statement;

/** Writes planned seeds: all of them in one transaction, with their entries in the journal. */
final class SeedExecution {
  private static final String LEFT = "Nothing was written: all seeds are one transaction.";

  private final Environment environment;
  private final Session session;
  private final Staging staging;
  private final SeedOrder order;
  private final List<SeedScript> scripts;
  private final SeedListener listener;
  private final ReferenceCheck references;

  /** What is being written, for a failure's words. */
  private Optional<BoundSeed> current = Optional.empty();

  private Optional<Statement> statement = Optional.empty();
  private boolean anyOrder;
  private boolean whateverStands;

  SeedExecution(
      Environment environment,
      Session session,
      Staging staging,
      SeedOrder order,
      List<SeedScript> scripts,
      ReferenceCheck references,
      SeedListener listener) {
    this.environment = environment;
    this.session = session;
    this.staging = staging;
    this.order = order;
    this.scripts = scripts;
    this.references = references;
    this.listener = listener;
  }

  /** Writes what is right whatever stands in the tables, for a record of the statements. */
  SeedExecution whateverStands() {
    whateverStands = true;
    return this;
  }

  /**
   * @param all what was planned; what changes something gets an entry
   */
  void write(Map<Seed, SeedResult> results, List<SeedResult> all, Journal journal)
      throws SQLException {
    journal.create();
    long start = System.nanoTime();
    try {
      session.begin();
      rows(results);
      if (staging.numbersJoinTransaction()) {
        numbersGoOn();
      }
      for (SeedScript script : scripts) {
        run(script);
      }
      if (whateverStands) {
        refuseUnresolved();
      }
      for (SeedResult result : all) {
        if (result.isQuiet()) {
          continue;
        }
        long elapsed = (System.nanoTime() - start) / 1_000_000;
        journal.append(
            Event.SEEDED,
            EntrySubject.standing(result.label(), result.fingerprint(), "", ""),
            new EntryDetails(0, elapsed, whateverStands ? "" : note(result)));
      }
      session.commit();
    } catch (SQLException e) {
      throw failure(e);
    }
    if (!staging.numbersJoinTransaction()) {
      numbersGoOn();
    }
  }

  /** Fails where a meaning led nowhere, which only the real tables can say. */
  private void refuseUnresolved() throws SQLException {
    for (BoundSeed seed : order.seeds()) {
      for (LookupColumn look : seed.looks()) {
        String stage = staging.staged(seed.stage());
        // Every engine refuses this, if there is a row to refuse it for.
        session.change(
            "UPDATE %1$s SET %2$s = %2$s / 0 WHERE %3$s IS NULL AND %4$s IS NOT NULL"
                .formatted(
                    stage, Staging.LINE, staging.name(look.column()), staging.name(look.part())));
      }
    }
  }

  private static String note(SeedResult result) {
    return result.statements() > 0
        ? result.statements() + (result.statements() == 1 ? " statement" : " statements")
        : result.counts().text();
  }

  private void rows(Map<Seed, SeedResult> results) throws SQLException {
    anyOrder = staging.deferReferences();
    List<BoundSeed> deleting = deleting(results);
    List<BoundSeed> last = new ArrayList<>();
    for (BoundSeed seed : deleting) {
      // Gone early, a row makes room for what must be unique; one that is pointed to goes last.
      if (references.arePointedTo(seed)) {
        last.add(seed);
        for (String statement : new UniqueMoves(session, staging).leaveRoom(seed)) {
          session.change(statement);
        }
      } else {
        delete(seed);
      }
    }
    for (BoundSeed seed : order.seeds()) {
      current = Optional.of(seed);
      listener.writing(seed.seed().label());
      SeedCounts counts = results.get(seed.seed()).counts();
      write(seed, counts, "");
    }
    for (BoundSeed seed : order.seeds()) {
      if (!later(seed).isEmpty()) {
        current = Optional.of(seed);
        close(seed);
      }
    }
    for (BoundSeed seed : last) {
      delete(seed);
    }
    current = Optional.empty();
  }

  /** In the opposite order. */
  private List<BoundSeed> deleting(Map<Seed, SeedResult> results) {
    List<BoundSeed> deleting = new ArrayList<>(order.seeds());
    Collections.reverse(deleting);
    deleting.removeIf(seed -> results.get(seed.seed()).counts().deleted() == 0);
    return deleting;
  }

  private void delete(BoundSeed seed) throws SQLException {
    current = Optional.of(seed);
    session.change(staging.delete(seed.stage()));
  }

  /** What is filled in the end; where any order will do, only what is looked up in rows to come. */
  private Set<String> later(BoundSeed seed) {
    Set<String> later = new HashSet<>(order.later(seed));
    if (anyOrder) {
      later.retainAll(seed.looks().stream().map(LookupColumn::column).toList());
    }
    return later;
  }

  /**
   * Adds and updates the rows of one seed.
   *
   * @param condition on the stage's rows; empty for all of them
   */
  private void write(BoundSeed seed, SeedCounts counts, String condition) throws SQLException {
    new StagedSeeds(session, staging, List.of()).resolveRest(seed);
    Set<String> later = later(seed);
    if (counts.updated() > 0) {
      for (String statement : new UniqueMoves(session, staging).makeRoom(seed)) {
        session.change(statement);
      }
    }
    if (counts.added() > 0) {
      boolean empty = counts.unchanged() == 0 && counts.updated() == 0 && isEmpty(seed);
      for (String insert : inserts(seed, later, empty, condition)) {
        session.change(insert);
      }
    }
    List<String> updated = new ArrayList<>(seed.updated());
    updated.removeAll(later);
    if (counts.updated() > 0 && !updated.isEmpty()) {
      String differing = staging.differing(seed.stage(), seed.table(), updated);
      String which = condition.isEmpty() ? differing : differing + " AND " + condition;
      session.change(staging.update(seed.stage(), updated, which));
    }
  }

  /** One statement for all rows; or one for all that leave the same columns to their defaults. */
  private List<String> inserts(BoundSeed seed, Set<String> later, boolean empty, String condition)
      throws SQLException {
    StagingTable stage = seed.stage();
    if (stage.optional().isEmpty()) {
      return List.of(
          staging.insert(stage, seed.columns(), later, empty, isNumbered(seed), condition));
    }
    List<String> inserts = new ArrayList<>();
    String query = "SELECT DISTINCT " + staging.leftOutColumn() + " FROM " + staging.staged(stage);
    for (String which : new TableQueries(session).list(query + " s", row -> row.getString(1))) {
      List<String> columns = new ArrayList<>(seed.columns());
      for (int i = 0; i < which.length(); i++) {
        if (which.charAt(i) == '1') {
          columns.remove(stage.optional().get(i));
        }
      }
      String rows = condition.isEmpty() ? "" : condition + " AND ";
      inserts.add(
          staging.insert(
              stage,
              columns,
              later,
              empty,
              true,
              rows + staging.leftOutColumn() + " = '" + which + "'"));
    }
    return inserts;
  }

  /** Whether the database gives rows numbers of its own. */
  private boolean isNumbered(BoundSeed seed) {
    return seed.table().columns().stream()
        .anyMatch(
            column ->
                staging.numbers(seed.table(), column) && !seed.columns().contains(column.name()));
  }

  private boolean isEmpty(BoundSeed seed) throws SQLException {
    session.flush();
    return new TableQueries(session).isEmpty(seed.table().name());
  }

  /** Fills what closes circles; a row that is left as it was keeps what it has. */
  private void close(BoundSeed seed) throws SQLException {
    new StagedSeeds(session, staging, List.of()).resolveRest(seed);
    List<String> later = new ArrayList<>(later(seed));
    String differing = staging.differing(seed.stage(), seed.table(), later);
    if (!seed.seed().update()) {
      List<String> unset = new ArrayList<>();
      later.forEach(column -> unset.add("t." + staging.name(column) + " IS NULL"));
      differing = differing + " AND " + String.join(" AND ", unset);
    }
    session.change(staging.update(seed.stage(), later, differing));
  }

  private void run(SeedScript script) throws SQLException {
    listener.writing(script.seed().label());
    for (Statement one : script.statements()) {
      statement = Optional.of(one);
      session.execute(one);
      session.flush();
    }
    statement = Optional.empty();
    session.reset();
  }

  /** Undoes all, and finds out which row it was. */
  private LadderException failure(SQLException e) throws SQLException {
    Fault fault = session.fault(e);
    Optional<Statement> failed = session.unfinished().or(() -> statement);
    Optional<BoundSeed> seed = current;
    boolean ofTheDatabase = fault.kind() != Fault.Kind.STATEMENT;
    if (fault.kind() == Fault.Kind.CUT) {
      return DatabaseErrors.translate(session, environment.name(), "writing seeds", e);
    }
    session.rollback();
    if (ofTheDatabase) {
      return DatabaseErrors.translate(session, environment.name(), "writing seeds", e);
    }
    if (seed.isPresent()) {
      BoundSeed wrong = seed.get();
      new StagedSeeds(session, staging, List.of()).refuseDoubleKeys(wrong);
      String place =
          position(wrong).map(at -> wrong.rows().place(at).toString()).orElse(wrong.seed().file());
      return failed(wrong.seed().label(), place, Optional.empty(), fault, e);
    }
    return failed(
        "the seed",
        failed.map(one -> one.place().toString()).orElse("environment " + environment.name()),
        failed.map(one -> environment.secrets().mask(one.text())),
        fault,
        e);
  }

  private LadderException failed(
      String label, String place, Optional<String> text, Fault fault, SQLException e) {
    String words = environment.secrets().mask(fault.message());
    return new StatementFailedException(
        new Failure(
            environment.name(),
            label,
            place,
            text,
            words,
            fault.values().map(environment.secrets()::mask),
            LEFT,
            0),
        Advice.of(Advice.Code.CORRECT_THEN_SEED, environment.name()),
        new SQLException(environment.secrets().mask(String.valueOf(e.getMessage()))));
  }

  /** The position of the first row that the database does not take, found by halving. */
  private Optional<Long> position(BoundSeed seed) {
    try {
      long high =
          new TableQueries(session)
              .number("SELECT max(" + Staging.LINE + ") FROM " + staging.staged(seed.stage()));
      if (!fails(seed, high)) {
        return Optional.empty();
      }
      long low = 0;
      while (low + 1 < high) {
        long middle = (low + high) >>> 1;
        if (fails(seed, middle)) {
          high = middle;
        } else {
          low = middle;
        }
      }
      return Optional.of(high);
    } catch (SQLException e) {
      // The place only helps; the failure itself is reported anyway.
      return Optional.empty();
    }
  }

  /** Whether it fails with the rows up to a position; nothing stays of the trial. */
  private boolean fails(BoundSeed seed, long upTo) throws SQLException {
    session.begin();
    try {
      staging.deferReferences();
      for (BoundSeed before : order.seeds()) {
        boolean last = before == seed;
        String condition = last ? "s." + Staging.LINE + " <= " + upTo : "";
        write(before, new SeedCounts(1, 1, 0, 1), condition);
        if (last) {
          break;
        }
      }
      return false;
    } catch (SQLException e) {
      return true;
    } finally {
      session.rollback();
    }
  }

  private void numbersGoOn() throws SQLException {
    Set<String> seen = new HashSet<>();
    for (BoundSeed seed : order.seeds()) {
      for (Column column : seed.table().columns()) {
        if (staging.numbers(seed.table(), column)
            && seed.columns().contains(column.name())
            && seen.add(seed.table().name())) {
          for (String change : staging.numbersGoOn(seed.table(), column)) {
            session.change(change);
          }
        }
      }
    }
  }
}
