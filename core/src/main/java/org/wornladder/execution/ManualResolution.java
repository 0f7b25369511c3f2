package org.wornladder.execution;

import java.sql.SQLException;
import org.wornladder.AcceptedFileApproval;
import org.wornladder.Advice;
import org.wornladder.RefusedException;
import org.wornladder.engine.DatabaseErrors;
import org.wornladder.engine.Engine;
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
    NOT_DONE
  }

  private final Project project;
  private final Environment environment;
  private final Engine engine;
  private final Session session;
  private final Journal journal;

  public ManualResolution(
      Project project, Environment environment, Engine engine, Session session, Journal journal) {
    this.project = project;
    this.environment = environment;
    this.engine = engine;
    this.session = session;
    this.journal = journal;
  }

  /**
   * Writes a verdict on a statement in doubt into the journal.
   *
   * @param because why, in a person's words; it is in the journal
   * @throws RefusedException if there is nothing of the kind to settle
   */
  public void settle(long number, Verdict verdict, String because, History history) {
    RungRecord record = record(number, history);
    switch (verdict) {
      case DONE -> doubt(record, Event.SETTLED_DONE, because);
      case NOT_DONE -> doubt(record, Event.SETTLED_NOT_DONE, because);
    }
  }

  private RungRecord record(long number, History history) {
    return history
        .rung(number)
        .orElseThrow(() -> refusal(number, "never ran on " + environment.name()));
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

  /**
   * Writes into the journal that a person takes it as it is, although its chain is broken.
   *
   * @throws RefusedException if the chain holds
   */
  public void acceptJournal(String because, History history) throws SQLException {
    History.Break broken =
        history
            .broken()
            .orElseThrow(
                () ->
                    RefusedException.of(
                        "the journal's chain holds: there is nothing to accept",
                        "environment " + environment.name(),
                        Advice.of(Advice.Code.SHOW_STATUS, environment.name())));
    journal.create();
    session.begin();
    journal.accept("broken at entry " + broken.entry() + ": " + broken.reason() + "; " + because);
    session.commit();
  }

  /** Writes into the journal that a rung is in place which did not run here. */
  public void adopt(Rung rung, String because) throws SQLException {
    journal.create();
    append(
        Event.ADOPTED,
        new RecordedScript.OfFile(rung, engine.dialect()).subject(),
        EntryDetails.of(because));
  }

  private void doubt(RungRecord record, Event event, String because) {
    Progress progress = record.progress();
    boolean stuck = record.state() == State.STUCK;
    if (stuck && progress.failed() > 0) {
      throw refusal(
          record.number(),
          "has nothing in doubt on "
              + environment.name()
              + ": statement "
              + progress.failed()
              + " failed, and left nothing ("
              + record.last().note().text()
              + ")",
          Advice.of(
              Advice.Code.CORRECT_AND_GO_ON, environment.name(), project.label(record.number())));
    }
    if (!stuck || progress.doubtful() == 0) {
      throw refusal(record.number(), "has no statement in doubt on " + environment.name());
    }
    append(event, record.last().subject(), new EntryDetails(progress.doubtful(), 0, because));
  }

  /**
   * Writes into the journal that an edited file is to count as the one that ran. Of a rung that is
   * stuck, what ran is looked for in the file: what is not there any more stays on the record, and
   * what did not run is left for the next run.
   *
   * @throws RefusedException if the rung is not worn, or a statement of it is in doubt
   */
  public void acceptFile(
      long number, String because, PlanningContext basis, AcceptedFileApproval approval) {
    RungRecord record = record(number, basis.history());
    Rung file =
        project.rung(number).orElseThrow(() -> refusal(number, "has no file in this checkout"));
    boolean stuck = record.state() == State.STUCK;
    WhatRan ran = WhatRan.of(record, basis.history());
    boolean worn = ApplyPlanner.isWorn(record, file) || !ran.isIn(file.script(), basis);
    if (!record.isInPlace() && !stuck || !worn) {
      throw refusal(number, "is not worn on " + environment.name());
    }
    if (record.progress().doubtful() > 0) {
      throw refusal(
          number,
          "has a statement in doubt on " + environment.name() + ", which comes first",
          Advice.of(Advice.Code.DECIDE_STATEMENT, environment.name(), project.label(number)));
    }
    AcceptedFile accepted = ran.beside(file, basis);
    if (!accepted.isAsItRan()) {
      approval.check(accepted);
    }
    write(file, because, accepted);
  }

  /** Says anew what is done, by the numbers that the statements have in the file. */
  private void write(Rung file, String because, AcceptedFile accepted) {
    EntrySubject subject = new RecordedScript.OfFile(file, engine.dialect()).subject();
    try {
      session.begin();
      journal.append(Event.FILE_ACCEPTED, subject, EntryDetails.of(because));
      for (AcceptedFile.Line line : accepted.lines()) {
        if (line.state() == AcceptedFile.State.DONE) {
          journal.append(
              Event.SETTLED_DONE,
              subject.withScript(line.mark().text()),
              new EntryDetails(line.number(), 0, "it ran as statement " + line.before()));
        }
      }
      session.commit();
    } catch (SQLException e) {
      throw DatabaseErrors.translate(session, environment.name(), "writing the journal", e);
    }
  }

  private RefusedException refusal(long number, String why) {
    return refusal(number, why, Advice.of(Advice.Code.SHOW_STATUS, environment.name()));
  }

  private RefusedException refusal(long number, String why, Advice advice) {
    return RefusedException.of(
        project.label(number) + " " + why, "environment " + environment.name(), advice);
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
