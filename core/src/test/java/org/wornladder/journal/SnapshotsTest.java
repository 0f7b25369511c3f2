package org.wornladder.journal;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.wornladder.JournalException;
import org.wornladder.engine.Access;
import org.wornladder.engine.Session;
import org.wornladder.engine.Target;
import org.wornladder.engine.sqlite.SqliteEngine;
import org.wornladder.project.EnvironmentReader;
import org.wornladder.project.ProjectReader;
import org.wornladder.project.Secrets;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.Kind;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.Snapshot;

/** What should stand in a database, kept there. */
class SnapshotsTest {
  private static final SqliteEngine ENGINE = new SqliteEngine();

  @TempDir Path root;
  private Session session;
  private Snapshots snapshots;

  @BeforeEach
  void open() throws Exception {
    Files.writeString(
        root.resolve("ladder.yaml"),
        "name: x\nenvironments: { dev: { url: 'jdbc:sqlite:data.db' } }\n");
    EnvironmentReader environments =
        new EnvironmentReader(
            root, ProjectReader.read(root, name -> false).settings(), name -> Optional.empty());
    session =
        ENGINE.open(
            new Target(
                environments.read(Optional.of("dev")),
                Optional.empty(),
                root,
                Duration.ofSeconds(1),
                Duration.ZERO,
                what -> {}),
            Access.WRITE);
    SnapshotTable table =
        new SnapshotTable(session, ENGINE, "ladder_snapshot", Optional.empty(), Clock.systemUTC());
    snapshots = new Snapshots(session, table, "x", Secrets.NONE);
  }

  @AfterEach
  void close() {
    session.close();
  }

  private static Snapshot of(String... tables) {
    List<DatabaseObject> objects = new ArrayList<>();
    for (String table : tables) {
      objects.add(
          DatabaseObject.of(
              ObjectId.of(Kind.TABLE, table), Map.of("comment", "a bin"), List.of(), List.of()));
    }
    return new Snapshot(objects);
  }

  private Optional<Snapshot> expectedWhere(Snapshot live) throws SQLException {
    return snapshots.expected(snapshots.last(), live);
  }

  private void spoil() throws SQLException {
    try (java.sql.Statement sql = session.connection().createStatement()) {
      sql.execute("UPDATE ladder_snapshot SET content = 'torn' WHERE content <> ''");
    }
  }

  @Test
  void nothingIsExpectedBeforeTheFirstRun() throws SQLException {
    assertThat(expectedWhere(of("bin"))).isEmpty();
  }

  @Test
  void whatWasKeptLastIsExpectedWhateverStands() throws SQLException {
    snapshots.saveExpected(of("bin"), Optional.empty(), 1);
    snapshots.saveExpected(of("bin", "crate"), Optional.empty(), 2);
    assertThat(expectedWhere(of("bin"))).contains(of("bin", "crate"));
    assertThat(expectedWhere(of())).contains(of("bin", "crate"));
  }

  @Test
  void whatStandsAsExpectedIsKnownWithoutTheKeptText() throws SQLException {
    snapshots.saveExpected(of("bin"), Optional.empty(), 1);
    spoil();
    Snapshot live = of("bin");
    assertThat(expectedWhere(live).orElseThrow()).isSameAs(live);
    assertThatThrownBy(() -> expectedWhere(of("crate")))
        .isInstanceOf(JournalException.class)
        .hasMessageContaining("a snapshot in ladder_snapshot cannot be read");
  }

  @Test
  void whatARunChangedThatDidNotEndIsItsWork() throws SQLException {
    snapshots.saveExpected(of("bin"), Optional.empty(), 1);
    // Somebody made a crate by hand; then a run made a press, and was killed.
    snapshots.saveBefore(of("bin", "crate"), 1);
    assertThat(expectedWhere(of("bin", "crate", "press"))).contains(of("bin", "press"));
  }

  @Test
  void whatTheDatabaseAnswersCountsUntilTheNextRunBegins() throws SQLException {
    snapshots.saveExpected(of("bin"), Optional.of("a"), 1);
    assertThat(snapshots.last().catalogFingerprint()).contains("a");
    snapshots.saveBefore(of("bin"), 1);
    assertThat(snapshots.last().catalogFingerprint()).isEmpty();
    snapshots.saveExpected(of("bin"), Optional.empty(), 2);
    assertThat(snapshots.last().catalogFingerprint()).isEmpty();
    snapshots.saveExpected(of("bin"), Optional.of("b"), 3);
    assertThat(snapshots.last().catalogFingerprint()).contains("b");
    assertThat(expectedWhere(of("crate"))).contains(of("bin"));
  }

  @Test
  void aTextThatIsKeptAlreadyIsNotKeptAgain() throws SQLException {
    for (int entry = 1; entry <= 3; entry++) {
      snapshots.saveBefore(of("bin"), entry);
      snapshots.saveExpected(of("bin"), Optional.empty(), entry);
    }
    try (java.sql.Statement sql = session.connection().createStatement();
        java.sql.ResultSet rows =
            sql.executeQuery(
                "SELECT count(*), sum(CASE WHEN content <> '' THEN 1 ELSE 0 END)"
                    + " FROM ladder_snapshot WHERE number > 0")) {
      rows.next();
      assertThat(rows.getInt(1)).isEqualTo(6);
      assertThat(rows.getInt(2)).isEqualTo(1);
    }
  }
}
