package org.wornladder.execution;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.wornladder.LadderException;
import org.wornladder.RefusedException;
import org.wornladder.RunListener;
import org.wornladder.RunResult.Done;
import org.wornladder.change.Ddl;
import org.wornladder.engine.Engine;
import org.wornladder.engine.Session;
import org.wornladder.journal.Entry;
import org.wornladder.journal.EntryDetails;
import org.wornladder.journal.EntrySubject;
import org.wornladder.journal.Event;
import org.wornladder.journal.History;
import org.wornladder.journal.Snapshots;
import org.wornladder.project.Batching;
import org.wornladder.schema.Column;
import org.wornladder.schema.Schema;
import org.wornladder.schema.Table;
import org.wornladder.sql.Statement;

/**
 * Runs a rung's one statement in batches of rows, each with its entry in a transaction of its own:
 * one that was stopped goes on behind the last batch.
 */
final class BatchRunner {
  private static final long LAG_PAUSE_MS = 500;

  private final Engine engine;
  private final Session session;
  private final EntryWriter entries;
  private final RunListener listener;
  private final FailureReport failures;
  private final RetryPolicy retryPolicy;
  private final Snapshots snapshots;

  BatchRunner(
      Engine engine,
      Session session,
      EntryWriter entries,
      RunListener listener,
      FailureReport failures,
      RetryPolicy retryPolicy,
      Snapshots snapshots) {
    this.engine = engine;
    this.session = session;
    this.entries = entries;
    this.listener = listener;
    this.failures = failures;
    this.retryPolicy = retryPolicy;
    this.snapshots = snapshots;
  }

  /** The last batch of a rung that has begun, as the journal has it; empty if none is done. */
  static Optional<Entry> last(History history, long rung) {
    Optional<Entry> last = Optional.empty();
    for (Entry entry : history.entries()) {
      if (entry.subject().rung() == rung) {
        last =
            switch (entry.event()) {
              case BATCH_DONE -> Optional.of(entry);
              case STATEMENT_FAILED, BATCHES_STOPPED, FILE_ACCEPTED -> last;
              default -> Optional.empty();
            };
      }
    }
    return last;
  }

  /** What a run knows of its rows. */
  private record Rows(BatchedText text, String from, String key, String literal, long total) {}

  /**
   * @return empty if it was stopped on the way
   * @throws SQLException if the journal cannot be written
   */
  Optional<Done> run(Step.OfRung rung, Batching batching, Schema schema, int stepsDone)
      throws SQLException {
    long start = System.nanoTime();
    Rows rows = rows(rung, batching, schema);
    String last = rung.batch().map(entry -> entry.subject().script()).orElse("");
    long done = rung.batch().map(BatchRunner::rows).orElse(0L);
    if (rung.batch().isEmpty()) {
      entries.write(Event.UP_STARTED, rung.subject(), EntryDetails.NONE);
    }
    snapshots.forgetStop();
    Optional<String> upper = upper(rows, last, batching.rows());
    while (upper.isPresent()) {
      done += batching.rows();
      Batch batch = new Batch(last, upper, done, Event.BATCH_DONE);
      run(rung, rows, batch, start, stepsDone);
      listener.batchDone(rung, done, Math.max(rows.total(), done));
      if (stops(rung)) {
        return Optional.empty();
      }
      pause(batching);
      last = upper.get();
      upper = upper(rows, last, batching.rows());
    }
    // The last batch and the rung's end are one transaction: it can never run twice.
    run(rung, rows, new Batch(last, upper, rows.total(), Event.APPLIED), start, stepsDone);
    long elapsed = (System.nanoTime() - start) / 1_000_000;
    return Optional.of(new Done(rung, Runner.resultOf(rung), "", elapsed));
  }

  /**
   * Rows between two keys.
   *
   * @param last the key before the first; empty for none
   * @param upper the key of the last; empty for all that are left
   * @param done how many rows are behind when it is done
   */
  private record Batch(String last, Optional<String> upper, long done, Event event) {}

  /** How many rows were behind when a batch was done: its entry's text begins with the number. */
  private static long rows(Entry batch) {
    return Long.parseLong(batch.note().text().replaceFirst("\\D.*", ""));
  }

  private Rows rows(Step.OfRung rung, Batching batching, Schema schema) throws SQLException {
    BatchedText text = BatchedText.of(rung.statements().get(0), batching);
    String name = text.table().replaceAll("[\"`\\[\\]]", "");
    Optional<Table> table =
        schema
            .table(name)
            .or(
                () ->
                    schema.tables().stream()
                        .filter(one -> one.id().displayName().equalsIgnoreCase(name))
                        .findFirst());
    if (table.isEmpty()) {
      throw refused(rung, text.table() + " is no table here");
    }
    Column column = column(rung, text, table.get());
    if (column.nullable() && !table.get().primaryKey().contains(column.name())) {
      throw refused(rung, "rows without " + text.column() + " would be left out: it may be NULL");
    }
    if (!isOrdered(column) && place(text, table.get()).isEmpty()) {
      throw refused(
          rung, "values of " + text.column() + " have no order that is known for certain");
    }
    String key = engine.quoting().name(column.name());
    long total = Long.parseLong(first("SELECT count(*) FROM " + text.table()).orElse("0"));
    return new Rows(text, text.table(), key, session.ddl().literal(column), total);
  }

  private Column column(Step.OfRung rung, BatchedText text, Table table) {
    Optional<Column> column =
        table.columns().stream()
            .filter(one -> one.name().equalsIgnoreCase(text.column()))
            .findFirst();
    Optional<Ddl.RowPlace> place = place(text, table);
    if (column.isEmpty() && place.isEmpty()) {
      throw refused(rung, text.table() + " has no column " + text.column());
    }
    if (column.isEmpty() && place.get().moves() && text.isUpdate()) {
      throw refused(
          rung,
          "an UPDATE gives its rows another " + text.column() + ", and would find them again");
    }
    return column.orElseGet(() -> place.get().column());
  }

  /** The engine's own place of rows, if the rung names that. */
  private Optional<Ddl.RowPlace> place(BatchedText text, Table table) {
    return session
        .ddl()
        .rowPlace(table)
        .filter(place -> place.column().name().equalsIgnoreCase(text.column()));
  }

  /** Whether comparisons and ORDER BY agree on the type for certain. */
  private boolean isOrdered(Column column) {
    return switch (session.staging().kind(column)) {
      case WHOLE, DECIMAL, FLOATING, TEXT, DATE, TIME, MOMENT -> true;
      default -> column.type().equalsIgnoreCase("uuid");
    };
  }

  private static RefusedException refused(Step.OfRung rung, String reason) {
    return RefusedException.of(
        rung.label() + " cannot run in batches: " + reason,
        rung.source(),
        "name a column that every row has, such as the primary key: --| in-batches-of: 5000 by id");
  }

  /**
   * The key of the last row of the next batch, as statements write it; empty for the last batch.
   */
  private Optional<String> upper(Rows rows, String last, int size) throws SQLException {
    String behind = last.isEmpty() ? "" : " WHERE " + session.ddl().behind(rows.key(), last);
    return first(
        "SELECT %s FROM %s%s ORDER BY %s LIMIT 1 OFFSET %d"
            .formatted(rows.literal(), rows.from(), behind, rows.key(), size - 1));
  }

  private void run(Step.OfRung rung, Rows rows, Batch batch, long start, int stepsDone)
      throws SQLException {
    Statement whole = rung.statements().get(0);
    Statement part = whole.withText(text(rows, batch, whole));
    boolean isLast = batch.event() == Event.APPLIED;
    EntrySubject subject =
        isLast ? rung.subject() : rung.subject().withScript(batch.upper().orElseThrow());
    for (int attempt = 1; ; attempt++) {
      try {
        session.reset();
        long began = System.nanoTime();
        entries.together(
            batch.event(),
            subject,
            () -> {
              listener.statementStarted(rung, part);
              session.execute(part);
              session.flush();
              long elapsed = (System.nanoTime() - (isLast ? start : began)) / 1_000_000;
              return new EntryDetails(isLast ? 0 : 1, elapsed, isLast ? "" : words(rows, batch));
            });
        return;
      } catch (SQLException e) {
        if (!retryPolicy.again(failures.fault(e), rung, attempt)) {
          throw failed(rung, batch, stepsDone, e);
        }
      }
    }
  }

  private String text(Rows rows, Batch batch, Statement whole) {
    Ddl ddl = session.ddl();
    List<String> limits = new ArrayList<>();
    if (!batch.last().isEmpty()) {
      limits.add(ddl.behind(rows.text().key(), batch.last()));
    }
    batch.upper().ifPresent(key -> limits.add(ddl.upTo(rows.text().key(), key)));
    return limits.isEmpty() ? whole.text() : rows.text().with(String.join(" AND ", limits));
  }

  private static String words(Rows rows, Batch batch) {
    return batch.done() + " of " + Math.max(rows.total(), batch.done()) + " rows";
  }

  private LadderException failed(Step.OfRung rung, Batch batch, int stepsDone, SQLException e)
      throws SQLException {
    session.reset();
    entries.write(
        Event.STATEMENT_FAILED,
        rung.subject().withScript(batch.last()),
        new EntryDetails(1, 0, failures.words(e)));
    boolean any = !batch.last().isEmpty();
    String left =
        any
            ? "the batches before this one are done; it is stuck until it is gone on with"
            : "nothing of it";
    return failures.of(rung, Optional.of(rung.statements().get(0)), left, any, stepsDone, e);
  }

  /** Whether the person at this terminal, or another session, wants it to end here. */
  private boolean stops(Step.OfRung rung) throws SQLException {
    Optional<String> asked =
        listener.wantsStop() ? Optional.of("by whoever ran it") : snapshots.stopAsked();
    if (asked.isPresent()) {
      entries.write(Event.BATCHES_STOPPED, rung.subject(), EntryDetails.of(asked.get()));
      snapshots.forgetStop();
    }
    return asked.isPresent();
  }

  /** Gives others their turn: for as long as is asked, and until the replicas have come near. */
  private void pause(Batching batching) throws SQLException {
    try {
      Thread.sleep(batching.pause().toMillis());
      while (batching.lag().isPresent()
          && session.replicaLag().compareTo(batching.lag().get()) > 0
          && !listener.wantsStop()) {
        Thread.sleep(LAG_PAUSE_MS);
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }

  private Optional<String> first(String query) throws SQLException {
    try (java.sql.Statement sql = session.connection().createStatement();
        ResultSet row = sql.executeQuery(query)) {
      return row.next() ? Optional.ofNullable(row.getString(1)) : Optional.empty();
    }
  }
}
