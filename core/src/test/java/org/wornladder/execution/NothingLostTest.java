package org.wornladder.execution;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.api.parallel.ResourceLock;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.wornladder.Against;
import org.wornladder.LadderException;
import org.wornladder.RollbackOptions;
import org.wornladder.TestLadder;
import org.wornladder.engine.Ability;
import org.wornladder.journal.History;
import org.wornladder.schema.Schema;
import org.wornladder.server.CuttingProxy;
import org.wornladder.server.InterruptedEngine;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/**
 * Cut connections at every step of a run, and restarts of its server: what follows is a plain run,
 * and it ends where an undisturbed one ends.
 */
@Order(3)
@ResourceLock("org.wornladder.server.InterruptedEngine")
class NothingLostTest {
  static final RollbackOptions.Selection ALL = new RollbackOptions.To(0);

  @TempDir Path root;

  /** What a run ends in. */
  record End(String structure, List<String> bins, List<String> standing) {}

  static TestLadder ladder(TestDatabase database, Path folder) throws Exception {
    TestLadder ladder = TestLadder.on(database, Files.createDirectories(folder));
    ladder.rung(
        "0001-bins",
        "CREATE TABLE bin (id integer PRIMARY KEY, code varchar(9));\n"
            + "INSERT INTO bin (id, code) VALUES (1, 'a');\n"
            + "CREATE INDEX bin_code ON bin (code);\n"
            + "INSERT INTO bin (id, code) VALUES (2, 'b');",
        "DROP TABLE bin;");
    ladder.rung(
        "0002-weights",
        "ALTER TABLE bin ADD COLUMN weight integer;\nUPDATE bin SET weight = 7 * id;",
        "ALTER TABLE bin DROP COLUMN weight;");
    ladder.file(
        "rungs/0003-heavier.sql",
        (database.can(Ability.BATCHES) ? "--| in-batches-of: 1 by id\n" : "")
            + "--| up\nUPDATE bin SET weight = weight + 10;\n"
            + "--| down\nUPDATE bin SET weight = weight - 10;\n");
    if (database.name().equals(Kind.POSTGRES.name())) {
      ladder.file(
          "rungs/0004-index.sql",
          "--| run: outside-transaction\n--| up\nCREATE INDEX CONCURRENTLY bin_weight ON bin (weight);\n"
              + "UPDATE bin SET weight = weight + 1;\nVACUUM bin;\n"
              + "--| down\nDROP INDEX CONCURRENTLY bin_weight;\nUPDATE bin SET weight = weight - 1;\n");
      // These travel in one message.
      for (int i = 5; i < 9; i++) {
        String row = "INSERT INTO bin (id, code) VALUES (" + i + ", 'c');";
        ladder.rung("000" + i + "-row", row, "DELETE FROM bin WHERE id = " + i + ";");
      }
    }
    return ladder.file(
        "standing/light.sql",
        "--| up\nCREATE VIEW light AS SELECT code FROM bin WHERE weight < 20;\n--| down\nDROP VIEW light;\n");
  }

  static End end(TestLadder ladder, TestDatabase database) throws SQLException {
    // One connection that stays open: an embedded database closes with its last one, which takes
    // long.
    try (Connection open = database.connect()) {
      Optional<String> dev = Optional.of("dev");
      Schema structure = ladder.open().show(dev).schema();
      boolean up = structure.table("bin").isPresent();
      History history = ladder.open().history(dev).history();
      assertThat(history.broken()).isEmpty();
      assertThat(history.stuck()).isEmpty();
      assertThat(ladder.open().drift(dev, Against.EXPECTED, false).structure()).isEmpty();
      return new End(
          structure.snapshot().meaningFingerprint(),
          up
              ? Stream.of("id", "code", "weight")
                  .flatMap(
                      name -> database.query("SELECT " + name + " FROM bin ORDER BY id").stream())
                  .toList()
              : List.of(),
          up ? database.query("SELECT code FROM light ORDER BY code") : List.of());
    }
  }

  @ParameterizedTest
  @EnumSource(names = {"POSTGRES", "MARIADB"})
  void afterACutAtAnyStepAPlainRunEndsWhereAnUndisturbedOneEnds(Kind kind) throws Exception {
    TestDatabase calm = TestDatabase.make(kind, root);
    TestLadder undisturbed = ladder(calm, root.resolve("calm"));
    undisturbed.apply();
    End up = end(undisturbed, calm);
    undisturbed.rollback(ALL);
    End down = end(undisturbed, calm);
    TestDatabase database = TestDatabase.make(kind, root);
    TestLadder ladder = ladder(database, root.resolve("cut"));
    try (CuttingProxy proxy = new CuttingProxy(database.port())) {
      TestDatabase cut =
          new TestDatabase(kind, InterruptedEngine.PREFIX + database.urlAt(proxy.port()));
      int stepsUp = cutAt(ladder.settings(cut, ""), proxy, 0, true);
      int stepsDown = cutAt(ladder, proxy, 0, false);
      assertThat(Math.min(stepsUp, stepsDown)).isGreaterThan(6);
      for (int step = 1; step <= Math.max(stepsUp, stepsDown); step++) {
        cutAt(ladder.settings(cut, ""), proxy, step, true);
        ladder.settings(database, "").apply();
        assertThat(end(ladder, database)).as("apply cut at step %d", step).isEqualTo(up);
        cutAt(ladder.settings(cut, ""), proxy, step, false);
        ladder.settings(database, "").rollback(ALL);
        assertThat(end(ladder, database)).as("rollback cut at step %d", step).isEqualTo(down);
      }
    }
  }

  /** Cuts at a step; returns how many steps there were. */
  private static int cutAt(TestLadder ladder, CuttingProxy proxy, int step, boolean up) {
    InterruptedEngine.at(
        now -> {
          if (now == step) {
            proxy.cut();
          }
        });
    try {
      if (up) {
        ladder.apply();
      } else {
        ladder.rollback(ALL);
      }
    } catch (LadderException e) {
      assertThat(e.getMessage() + e.advice()).doesNotContain("Exception");
    }
    return InterruptedEngine.steps();
  }
}
