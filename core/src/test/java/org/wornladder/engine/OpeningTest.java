package org.wornladder.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.wornladder.Ladder;
import org.wornladder.LadderException;
import org.wornladder.LockWaitException;
import org.wornladder.TestLadder;
import org.wornladder.UnreachableException;
import org.wornladder.server.SqlDataSource;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;
import org.wornladder.server.TestSession;

/** What fails while a session is opened or a lock taken leaves nothing behind. */
class OpeningTest {
  @TempDir Path root;

  @ParameterizedTest
  @EnumSource(names = {"POSTGRES", "MARIADB"})
  void aRoleThatDoesNotExistLeavesNoConnection(Kind kind) throws Exception {
    TestDatabase database = TestDatabase.make(kind, root);
    TestLadder project = TestLadder.on(database, root);
    project.settings(database, ", role: nobody_of_that_name");
    SqlDataSource source = new SqlDataSource(database.url());
    for (int i = 0; i < 3; i++) {
      try (Ladder ladder = Ladder.builder().project(root).environment("dev", source).build()) {
        assertThatThrownBy(() -> ladder.status(Optional.of("dev")))
            .isInstanceOf(LadderException.class)
            .hasMessageContaining("nobody_of_that_name");
      }
    }
    assertThat(source.opened()).as("one for the url and one to open, each time").isEqualTo(6);
    assertThat(source.open()).isZero();
  }

  private Session sqlite(String file) {
    return TestSession.open(
        new TestDatabase(Kind.SQLITE, "jdbc:sqlite:" + root.resolve(file)), root, Access.WRITE);
  }

  private static DatabaseLock lock(Session session) {
    return session.lock(Duration.ofMillis(300), holder -> {});
  }

  @Test
  void aLockFileThatCannotBeWrittenHoldsNothing() throws Exception {
    try (Session session = sqlite("dev.db")) {
      session.change("CREATE TABLE bin (id int)");
      Path file = Files.createDirectory(root.resolve("dev.db-ladder-lock"));
      for (int i = 0; i < 2; i++) {
        assertThatThrownBy(() -> lock(session))
            .isInstanceOf(UnreachableException.class)
            .hasMessageContaining("lock file cannot be written");
      }
      Files.delete(file);
      lock(session).close();
    }
  }

  @Test
  void aSymbolicLinkLeadsToTheSameLock() throws Exception {
    try (Session session = sqlite("dev.db")) {
      session.change("CREATE TABLE bin (id int)");
      Files.createDirectories(root.resolve("other"));
      Files.createSymbolicLink(root.resolve("other/link.db"), root.resolve("dev.db"));
      try (Session second = sqlite("other/link.db");
          DatabaseLock held = lock(session)) {
        assertThat(held).isNotNull();
        assertThatThrownBy(() -> lock(second)).isInstanceOf(LockWaitException.class);
      }
    }
  }
}
