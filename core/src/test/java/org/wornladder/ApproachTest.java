package org.wornladder;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.wornladder.engine.Access;
import org.wornladder.engine.UnreachableException;
import org.wornladder.project.ProjectException;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/** A session that is opened while the files are read: who hears of what, and that none is left. */
class ApproachTest {
  @TempDir Path root;
  private TestDatabase database;
  private TestLadder ladder;

  @BeforeEach
  void project() {
    database = TestDatabase.make(Kind.POSTGRES, root);
    ladder = TestLadder.on(database, root).tables(2);
    ladder.apply();
  }

  private Ladder approach(String environment) {
    LadderSettings settings =
        LadderSettings.standard("test")
            .withLockWait(Duration.ofSeconds(5))
            .withAwait(Duration.ZERO, what -> {});
    return Ladder.approaching(environment, Access.READ, root, settings);
  }

  /** Sessions of the program; one that was just closed takes the server a moment. */
  private void noneIsLeft() throws InterruptedException {
    String query =
        "SELECT count(*) FROM pg_stat_activity WHERE application_name = 'worn-ladder'"
            + " AND datname = current_database()";
    String left = "";
    for (int i = 0; i < 100 && !left.equals("0"); i++) {
      left = database.query(query).get(0);
      Thread.sleep(20);
    }
    assertThat(left).isEqualTo("0");
  }

  @Test
  void servesTheFirstCallAndLaterOnesOpenTheirOwn() throws Exception {
    Ladder open = approach("");
    assertThat(open.status("dev").at()).isEqualTo(2);
    assertThat(open.status("dev").at()).isEqualTo(2);
    assertThat(open.history("dev").history().entries()).hasSize(2);
    noneIsLeft();
  }

  @Test
  void aFaultInAFileIsToldAndTheSessionGoes() throws Exception {
    ladder.file("rungs/0003-wrong.sql", "CREATE TABLE bin_3 (id int);");
    assertThatThrownBy(() -> approach("dev")).isInstanceOf(ProjectException.class);
    noneIsLeft();
  }

  @Test
  void aFaultInAFileComesBeforeAServerThatIsNotThere() throws Exception {
    String nowhere = "postgres://nobody@localhost:1/none";
    Files.writeString(
        root.resolve("ladder.yaml"),
        "name: hollowfield\nenvironments:\n  dev: { url: '" + nowhere + "' }\n");
    assertThatThrownBy(() -> approach("dev").status("dev"))
        .isInstanceOf(UnreachableException.class);
    ladder.file("rungs/0003-wrong.sql", "CREATE TABLE bin_3 (id int);");
    assertThatThrownBy(() -> approach("dev")).isInstanceOf(ProjectException.class);
  }

  @Test
  void anEnvironmentThatIsNotThereIsToldByTheCall() {
    Ladder open = approach("nowhere");
    assertThatThrownBy(() -> open.status("nowhere"))
        .isInstanceOf(ProjectException.class)
        .hasMessageContaining("nowhere");
    assertThat(open.status("dev").at()).isEqualTo(2);
    assertThat(Optional.of(open.project().name())).contains("hollowfield");
  }
}
