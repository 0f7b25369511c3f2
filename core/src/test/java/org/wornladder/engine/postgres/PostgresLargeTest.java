package org.wornladder.engine.postgres;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.wornladder.Against;
import org.wornladder.RunResult;
import org.wornladder.TestLadder;
import org.wornladder.change.Difference;
import org.wornladder.schema.Index;
import org.wornladder.schema.Table;
import org.wornladder.server.PostgresServer;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/** A structure so large that a second connection reads a part of it, if it is to be had. */
class PostgresLargeTest {
  private static final int TABLES = 520;

  @TempDir Path root;

  private TestDatabase database;
  private TestLadder ladder;

  @BeforeEach
  void large() {
    database = TestDatabase.make(Kind.POSTGRES, root);
    ladder = TestLadder.on(database, root);
    List<String> up = new ArrayList<>();
    for (int i = 0; i < TABLES; i++) {
      String table = "crate_" + i;
      up.add("CREATE TABLE " + table + " (id int PRIMARY KEY, code varchar(9), weight int);");
      up.add("CREATE INDEX " + table + "_code ON " + table + " (code, weight);");
      if (i % 10 == 0) {
        up.add("CREATE INDEX " + table + "_low ON " + table + " (lower(code) DESC);");
        up.add("CREATE UNIQUE INDEX " + table + "_one ON " + table + " (weight) WHERE id > 3;");
      }
    }
    ladder.rung("0001-crates", String.join("\n", up), "SELECT 1;");
  }

  private static List<String> definitions(Table table) {
    return table.indexes().stream()
        .filter(index -> !index.fromConstraint())
        .map(Index::definition)
        .toList();
  }

  private void isReadWhole(TestLadder by) {
    List<Table> tables = by.open().show(Optional.of("dev")).schema().tables();
    assertThat(tables).hasSize(TABLES);
    for (Table table : tables) {
      assertThat(table.primaryKey()).containsExactly("id");
      boolean more = Integer.parseInt(table.name().substring("crate_".length())) % 10 == 0;
      assertThat(definitions(table))
          .as(table.name())
          .hasSize(more ? 3 : 1)
          .contains("CREATE INDEX USING btree (code, weight)");
    }
    assertThat(by.open().drift(Optional.of("dev"), Against.EXPECTED, false).structure()).isEmpty();
  }

  @Test
  void isReadWholeBeforeAndAfterARunAndAfterIt() {
    RunResult outcome = ladder.apply();
    assertThat(outcome.structure().text())
        .isEqualTo("520 tables, 1560 columns and 624 indexes added");
    isReadWhole(ladder);
    ladder.rung("0002-less", "DROP INDEX crate_10_low;", "SELECT 1;");
    assertThat(ladder.apply().structure().text()).isEqualTo("1 index dropped");
    database.execute("DROP INDEX crate_20_one", "ALTER INDEX crate_30_code RENAME TO other");
    assertThat(ladder.open().drift(Optional.of("dev"), Against.EXPECTED, false).structure())
        .extracting(Difference::fullName)
        .containsExactlyInAnyOrder(
            "crate_20.crate_20_one", "crate_30.crate_30_code", "crate_30.other");
  }

  @Test
  void isReadWholeByWhoMayHaveOneConnectionAlone() {
    assumeTrue(PostgresServer.isOurs(), "the server lets anybody in by a name alone");
    ladder.apply();
    String role = "single_" + System.nanoTime();
    database.execute("CREATE ROLE " + role + " LOGIN CONNECTION LIMIT 1");
    try {
      database.execute("GRANT SELECT ON ALL TABLES IN SCHEMA public TO " + role);
      String url = database.url().replaceFirst("user=[^&]*", "user=" + role);
      assertThat(url).contains(role);
      ladder.settings(new TestDatabase(Kind.POSTGRES, url), "");
      isReadWhole(ladder);
    } finally {
      database.execute("DROP OWNED BY " + role, "DROP ROLE " + role);
    }
  }
}
