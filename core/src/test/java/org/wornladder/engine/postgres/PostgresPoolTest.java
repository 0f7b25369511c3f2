package org.wornladder.engine.postgres;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.nio.file.Path;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.wornladder.Against;
import org.wornladder.RollbackOptions;
import org.wornladder.TestLadder;
import org.wornladder.UnreachableException;
import org.wornladder.server.PoolingProxy;
import org.wornladder.server.PostgresServer;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/** A pool in between that deals sessions out anew: found out wherever it happens. */
class PostgresPoolTest {
  @TempDir Path root;

  @Test
  void aSessionThatIsDealtAnewIsRefusedAndLeavesNothingHalf() throws Exception {
    TestDatabase database = TestDatabase.make(Kind.POSTGRES, root);
    assumeTrue(PostgresServer.isOurs(), "the proxy signs in without a password");
    TestLadder ladder = TestLadder.on(database, root);
    ladder.rung("0001-bins", "CREATE TABLE bin (id int);", "DROP TABLE bin;");
    ladder.rung(
        "0002-rows",
        "CREATE TABLE crate (id int);\nINSERT INTO bin VALUES (1);",
        "DROP TABLE crate;\nDELETE FROM bin;");
    int refused = 0;
    boolean unnoticed = false;
    for (int queries = 1; !unnoticed; queries++) {
      try (PoolingProxy pool = new PoolingProxy(database.port(), queries)) {
        ladder.settings(new TestDatabase(Kind.POSTGRES, database.urlAt(pool.port())), "");
        ladder.apply();
        unnoticed = true;
      } catch (UnreachableException e) {
        refused++;
        assertThat(e.getMessage()).contains("transaction pooler");
        assertThat(e.advice().toString()).contains("a pool in session mode");
      }
      ladder.settings(database, "").apply();
      assertThat(database.query("SELECT id FROM bin"))
          .as("%d queries", queries)
          .containsExactly("1");
      assertThat(ladder.open().history(Optional.of("dev")).history().broken()).isEmpty();
      assertThat(ladder.open().drift(Optional.of("dev"), Against.EXPECTED, false).structure())
          .isEmpty();
      ladder.rollback(new RollbackOptions.To(0));
    }
    assertThat(refused).isGreaterThan(4);
  }
}
