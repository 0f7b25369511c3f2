package org.wornladder.execution;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.junit.jupiter.api.Assumptions.assumeTrue;
import static org.wornladder.execution.NothingLostTest.ALL;
import static org.wornladder.execution.NothingLostTest.end;
import static org.wornladder.execution.NothingLostTest.ladder;

import java.nio.file.Path;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.api.parallel.Isolated;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.wornladder.LadderException;
import org.wornladder.TestLadder;
import org.wornladder.execution.NothingLostTest.End;
import org.wornladder.server.InterruptedEngine;
import org.wornladder.server.MariadbServer;
import org.wornladder.server.PostgresServer;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/** Restarts the servers that other tests work on. */
@Isolated
class ServerRestartTest {
  @TempDir Path root;

  @ParameterizedTest
  @EnumSource(names = {"POSTGRES", "MARIADB"})
  void afterTheServerWasRestartedAPlainRunEndsWhereAnUndisturbedOneEnds(Kind kind)
      throws Exception {
    boolean postgres = kind == Kind.POSTGRES;
    assumeTrue(postgres ? PostgresServer.isOurs() : MariadbServer.isOurs());
    TestDatabase calm = TestDatabase.make(kind, root);
    TestLadder undisturbed = ladder(calm, root.resolve("calm"));
    undisturbed.apply();
    End up = end(undisturbed, calm);
    TestDatabase database = TestDatabase.make(kind, root);
    TestLadder ladder = ladder(database, root.resolve("restarted"));
    for (int step : new int[] {2, 5, 9}) {
      ladder.settings(new TestDatabase(kind, InterruptedEngine.PREFIX + database.url()), "");
      InterruptedEngine.at(
          now -> {
            if (now == step) {
              restart(postgres);
            }
          });
      assertThatThrownBy(ladder::apply)
          .isInstanceOf(LadderException.class)
          .hasMessageContaining("the connection was cut");
      ladder.settings(database, "").apply();
      assertThat(end(ladder, database)).as("restarted at step %d", step).isEqualTo(up);
      ladder.rollback(ALL);
    }
  }

  private static void restart(boolean postgres) {
    if (postgres) {
      PostgresServer.restart();
    } else {
      MariadbServer.restart();
    }
  }
}
