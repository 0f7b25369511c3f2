package org.wornladder.execution;

import java.sql.SQLException;
import org.wornladder.engine.Session;
import org.wornladder.journal.EntryDetails;
import org.wornladder.journal.EntrySubject;
import org.wornladder.journal.Event;
import org.wornladder.journal.Journal;

/** Writes entries of the journal, each in a transaction of its own or with the work it records. */
record EntryWriter(Session session, Journal journal) {
  /** What is recorded by an entry, and commits with it. */
  interface Work {
    EntryDetails run() throws SQLException;
  }

  /** Writes one entry. */
  void write(Event event, EntrySubject subject, EntryDetails note) throws SQLException {
    together(event, subject, () -> note);
  }

  /** Does some work, and writes the entry that records it in the same transaction. */
  void together(Event event, EntrySubject subject, Work work) throws SQLException {
    Journal.Mark mark = journal.mark();
    try {
      session.begin();
      EntryDetails note = work.run();
      journal.append(event, subject, note);
      session.commit();
    } catch (SQLException e) {
      undo(mark, e);
      throw e;
    }
  }

  /** Undoes what is not committed. A second failure is attached to the cause. */
  void undo(Journal.Mark mark, Exception cause) {
    journal.forgetUncommitted(mark);
    try {
      session.rollback();
    } catch (SQLException e) {
      cause.addSuppressed(e);
    }
  }
}
