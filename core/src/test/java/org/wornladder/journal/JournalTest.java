package org.wornladder.journal;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.sql.SQLException;
import java.time.Clock;
import java.util.Optional;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.wornladder.engine.Access;
import org.wornladder.engine.Session;
import org.wornladder.engine.sqlite.SqliteEngine;
import org.wornladder.journal.Journal.Depth;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;
import org.wornladder.server.TestSession;

/** A journal that is read on from where it was read before. */
class JournalTest {
  private static final SqliteEngine ENGINE = new SqliteEngine();

  @TempDir Path root;
  private Session session;

  @BeforeEach
  void open() {
    session = TestSession.open(TestDatabase.make(Kind.SQLITE, root), root, Access.WRITE);
  }

  @AfterEach
  void close() {
    session.close();
  }

  private Journal journal(String project) {
    SnapshotTable beside =
        new SnapshotTable(session, ENGINE, "ladder_snapshot", Optional.empty(), Clock.systemUTC());
    return new Journal(
        session, ENGINE, "ladder_journal", beside, project, "test", Clock.systemUTC());
  }

  private void append(Journal journal, long rung) throws SQLException {
    session.begin();
    journal.append(
        Event.APPLIED,
        new EntrySubject(rung, "step-" + rung, "", "", "", ""),
        EntryDetails.of("a note"));
    session.commit();
  }

  @Test
  void whatIsReadOnIsWhatAWholeReadingFinds() throws Exception {
    Journal journal = journal("x");
    assertThat(journal.readOn().entries()).isEmpty();
    for (long rung = 1; rung <= 5; rung++) {
      append(journal, rung);
      if (rung != 3) {
        assertThat(journal.readOn()).isEqualTo(journal("x").read(Depth.WHOLE));
      }
    }
    assertThat(journal.others()).isEmpty();
    Journal other = journal("y");
    other.read(Depth.WHOLE);
    append(other, 1);
    assertThat(journal.readOn()).isEqualTo(journal("x").read(Depth.WHOLE));
    assertThat(journal.others()).containsExactly("y");
  }

  @Test
  void aGlanceIsNotReadOn() throws Exception {
    Journal journal = journal("x");
    journal.read(Depth.WHOLE);
    append(journal, 1);
    journal.read(Depth.GLANCE);
    assertThat(journal.readOn()).isEqualTo(journal("x").read(Depth.WHOLE));
  }

  @Test
  void anEntryThatDoesNotFollowIsNoticed() throws Exception {
    Journal journal = journal("x");
    journal.read(Depth.WHOLE);
    append(journal, 1);
    journal.readOn();
    append(journal, 2);
    session.change("UPDATE ladder_journal SET note = 'another' WHERE number = 2");
    assertThat(journal.readOn().broken())
        .hasValueSatisfying(at -> assertThat(at.entry()).isEqualTo(2));
  }
}
