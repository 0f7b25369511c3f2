package org.wornladder.engine.jdbc;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.wornladder.RollbackOptions;
import org.wornladder.TestLadder;
import org.wornladder.journal.History;
import org.wornladder.schema.Table;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.WithoutTransactionsDriver;
import org.wornladder.server.WithoutTransactionsDriver.DeadClient;

/**
 * A client that ends before any statement, where nothing is undone: what follows is a plain run.
 */
class WithoutTransactionsTest {
  private static final Optional<String> DEV = Optional.of("dev");

  @TempDir Path root;

  @AfterEach
  void calm() {
    WithoutTransactionsDriver.endBefore(Integer.MAX_VALUE);
  }

  private TestDatabase database(String name) {
    return new TestDatabase("PLAIN", WithoutTransactionsDriver.PREFIX + "hsqldb:mem:" + name);
  }

  private TestLadder ladder(TestDatabase database) throws Exception {
    Path folder = Files.createDirectories(root.resolve(Integer.toString(database.hashCode())));
    TestLadder ladder = new TestLadder(folder);
    ladder.settings(database, "");
    ladder.rung(
        "0001-bins",
        "CREATE TABLE bin (id integer);\nCREATE TABLE crate (id integer);",
        "DROP TABLE crate;\nDROP TABLE bin;");
    return ladder;
  }

  /** As a run does that finds that the holder's number stands still. */
  private static void freeLock(TestDatabase database) {
    if (!database
        .query("SELECT 1 FROM information_schema.tables WHERE table_name = 'ladder_lock'")
        .isEmpty()) {
      database.execute("UPDATE \"ladder_lock\" SET \"holder\" = ''");
    }
  }

  private static boolean ends(Runnable run, int statement) {
    WithoutTransactionsDriver.endBefore(statement);
    try {
      run.run();
      return false;
    } catch (DeadClient e) {
      return true;
    } finally {
      WithoutTransactionsDriver.endBefore(Integer.MAX_VALUE);
    }
  }

  private static void assertPlain(
      TestLadder ladder, int statement, String event, String... tables) {
    History history = ladder.open().history(DEV).history();
    assertThat(history.broken()).as("chain, ended before statement %d", statement).isEmpty();
    assertThat(history.entries())
        .as("ended before statement %d", statement)
        .filteredOn(entry -> entry.event().label().equals(event))
        .hasSize(1);
    assertThat(ladder.open().show(DEV).schema().tables())
        .as("ended before statement %d", statement)
        .extracting(Table::name)
        .containsExactly(tables);
  }

  @Test
  void aRunGoesOnWhereItsClientEnded() throws Exception {
    int ended = 0;
    boolean more = true;
    for (int statement = 1; more; statement++) {
      TestDatabase database = database("up_" + statement);
      TestLadder ladder = ladder(database);
      more = ends(ladder::apply, statement);
      freeLock(database);
      ladder.apply();
      assertPlain(ladder, statement, "applied", "BIN", "CRATE");
      ended++;
    }
    assertThat(ended).isGreaterThan(30);
  }

  @Test
  void aWayDownGoesOnWhereItsClientEnded() throws Exception {
    int ended = 0;
    boolean more = true;
    for (int statement = 1; more; statement++) {
      TestDatabase database = database("down_" + statement);
      TestLadder ladder = ladder(database);
      ladder.apply();
      more = ends(() -> ladder.rollback(new RollbackOptions.To(0)), statement);
      freeLock(database);
      ladder.rollback(new RollbackOptions.To(0));
      assertPlain(ladder, statement, "rolled-back");
      ended++;
    }
    assertThat(ended).isGreaterThan(30);
  }

  @Test
  void itIsSaidThatNothingIsUndone() throws Exception {
    TestLadder ladder = ladder(database("said"));
    ladder.apply();
    assertThat(ladder.open().history(DEV).history().entries())
        .extracting(entry -> entry.event().label())
        .containsSubsequence(List.of("statement-started", "statement-done", "applied"));
  }
}
