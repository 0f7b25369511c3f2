package org.wornladder.execution;

import java.sql.SQLException;
import java.util.Optional;
import org.wornladder.Advice;
import org.wornladder.RefusedException;
import org.wornladder.engine.DatabaseErrors;
import org.wornladder.engine.Session;
import org.wornladder.journal.EntryDetails;
import org.wornladder.journal.EntrySubject;
import org.wornladder.journal.Event;
import org.wornladder.journal.History;
import org.wornladder.journal.Journal;
import org.wornladder.journal.RungRecord;
import org.wornladder.journal.RungRecord.Progress;
import org.wornladder.journal.RungRecord.State;
import org.wornladder.project.Environment;
import org.wornladder.project.Project;
import org.wornladder.project.Rung;

/** Puts a stuck or worn rung right, on the record. */
public final class ManualResolution {
  /** What a person says of the rung. */
  public enum Verdict {
    /** The statement in doubt took effect. */
    DONE,
    /** The statement in doubt did not take effect. */
    NOT_DONE,
    /** The edited file is to count as the one that ran. */
    ACCEPT_FILE
  }

  private final Project project;
  private final Environment environment;
  private final Session session;
  private final Journal journal;

  public ManualResolution(
      Project project, Environment environment, Session session, Journal journal) {
    this.project = project;
    this.environment = environment;
    this.session = session;
    this.journal = journal;
  }

  /**
   * Writes the verdict into the journal.
   *
   * @param because why, in a person's words; it is in the journal
   * @throws RefusedException if there is nothing of the kind to settle
   */
  public void settle(long number, Verdict verdict, String because, History history) {
    RungRecord record =
        history
            .rung(number)
            .orElseThrow(() -> refusal(number, "never ran on " + environment.name()));
    switch (verdict) {
      case DONE -> doubt(record, Event.SETTLED_DONE, because);
      case NOT_DONE -> doubt(record, Event.SETTLED_NOT_DONE, because);
      case ACCEPT_FILE -> accept(record, because);
    }
  }

  /**
   * Writes into the journal that a rung in place has another number.
   *
   * @throws RefusedException if it is not in place
   */
  public void renumber(long number, long newNumber, History history) {
    RungRecord record =
        history
            .rung(number)
            .filter(RungRecord::isInPlace)
            .orElseThrow(() -> refusal(number, "is not in place on " + environment.name()));
    EntrySubject old = record.run().subject();
    EntrySubject moved =
        new EntrySubject(
            newNumber,
            old.name(),
            old.upText(),
            old.upFingerprint(),
            old.downFingerprint(),
            old.script());
    long elapsed = record.run().note().elapsedMs();
    try {
      session.begin();
      journal.append(Event.MOVED_AWAY, old, EntryDetails.NONE);
      journal.append(
          Event.RENUMBERED, moved, new EntryDetails(0, elapsed, "it was " + project.label(number)));
      session.commit();
    } catch (SQLException e) {
      throw DatabaseErrors.translate(session, environment.name(), "writing the journal", e);
    }
  }

  /**
   * Writes into the journal that a person goes on although the database is not what its history
   * says.
   */
  public void goOnDespite(int differences, String because) throws SQLException {
    journal.create();
    String note =
        differences + (differences == 1 ? " difference" : " differences") + "; " + because;
    append(Event.DRIFT_ACCEPTED, EntrySubject.standing("drift", "", "", ""), EntryDetails.of(note));
  }

  /** Writes into the journal that a rung is in place which did not run here. */
  public void adopt(Rung rung, String because) throws SQLException {
    journal.create();
    append(Event.ADOPTED, new RecordedScript.OfFile(rung).subject(), EntryDetails.of(because));
  }

  private void doubt(RungRecord record, Event event, String because) {
    Progress progress = record.progress();
    int statement = Math.max(progress.doubtful(), progress.failed());
    if (record.state() != State.STUCK || statement == 0) {
      throw refusal(record.number(), "has no statement in doubt on " + environment.name());
    }
    append(event, record.last().subject(), new EntryDetails(statement, 0, because));
  }

  private void accept(RungRecord record, String because) {
    Optional<Rung> file = project.rung(record.number());
    if (file.isEmpty()) {
      throw refusal(record.number(), "has no file in this checkout");
    }
    boolean settled = !record.isInPlace() && record.state() != State.STUCK;
    if (settled || !ApplyPlanner.isWorn(record, file.get())) {
      throw refusal(record.number(), "is not worn on " + environment.name());
    }
    append(
        Event.FILE_ACCEPTED,
        new RecordedScript.OfFile(file.get()).subject(),
        EntryDetails.of(because));
  }

  private RefusedException refusal(long number, String why) {
    return RefusedException.of(
        project.label(number) + " " + why,
        "environment " + environment.name(),
        Advice.of(Advice.Code.SHOW_STATUS, environment.name()));
  }

  private void append(Event event, EntrySubject subject, EntryDetails note) {
    try {
      session.begin();
      journal.append(event, subject, note);
      session.commit();
    } catch (SQLException e) {
      throw DatabaseErrors.translate(session, environment.name(), "writing the journal", e);
    }
  }
}
