package org.wornladder.change;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.wornladder.engine.Access;
import org.wornladder.engine.Session;
import org.wornladder.schema.Snapshot;
import org.wornladder.server.OldestPostgresServer;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;
import org.wornladder.server.TestSession;

/**
 * Random pairs of structures: the script from one to the other runs and makes it, its inverse makes
 * the first one again, and the values of columns that both have stay. The number of pairs is {@code
 * -Dladder.pairs=N}, the seed of the first {@code -Dladder.seed=N}, and {@code
 * -Dladder.engine=NAME} tries one engine alone.
 */
@Order(2)
class RandomPairsTest {
  private static final int PAIRS = Integer.getInteger("ladder.pairs", 300);
  private static final long SEED = Long.getLong("ladder.seed", 1);

  /** The only engine that is tried; all of them if it is not said. */
  private static final String ENGINE = System.getProperty("ladder.engine", "");

  @TempDir Path root;

  @ParameterizedTest
  @EnumSource
  void areMadeOfEachOther(Kind kind) throws Exception {
    assumeTrue(ENGINE.isEmpty() || ENGINE.equalsIgnoreCase(kind.name()));
    pairs(kind, PAIRS, database(kind, "one"), database(kind, "other"));
  }

  @Test
  void areMadeOfEachOtherOnTheOldestPostgres() throws Exception {
    assumeTrue(ENGINE.isEmpty());
    try (OldestPostgresServer server = new OldestPostgresServer()) {
      TestDatabase one = server.newDatabase("one");
      assertThat(one.query("SHOW server_version").get(0)).startsWith("14.");
      pairs(Kind.POSTGRES, Math.min(PAIRS, 60), one, server.newDatabase("other"));
    }
  }

  private TestDatabase database(Kind kind, String name) throws IOException {
    return kind == Kind.H2
        ? new TestDatabase(kind, "jdbc:h2:mem:" + name + ";DB_CLOSE_DELAY=-1")
        : TestDatabase.make(kind, Files.createDirectories(root.resolve(name)));
  }

  private void pairs(Kind kind, int count, TestDatabase one, TestDatabase other)
      throws SQLException {
    try (Site from = new Site(one, root);
        Site to = new Site(other, root)) {
      for (long seed = SEED; seed < SEED + count; seed++) {
        pair(kind, seed, from, to);
      }
    }
  }

  private void pair(Kind kind, long seed, Site from, Site to) throws SQLException {
    Random random = new Random(seed);
    RandomStructure before = RandomStructure.of(kind, random);
    RandomStructure after = before.changed();
    String label = kind + ", -Dladder.seed=" + seed;
    from.empty();
    to.empty();
    from.run(label, before.statements());
    from.run(label, before.rows());
    to.run(label, after.statements());
    Snapshot was = from.read();
    Snapshot goal = to.read();
    Map<String, String> kept = before.kept(after);
    Map<String, List<String>> values = from.values(kept);
    Snapshot made = from.change(label, was, goal);
    assertThat(from.values(kept)).as(label).isEqualTo(values);
    from.change(label + ", back", made, was);
    assertThat(from.values(kept)).as(label + ", back").isEqualTo(values);
  }

  /** One database with a connection that stays open. */
  private static final class Site implements AutoCloseable {
    private final TestDatabase database;
    private final Session session;
    private final Connection connection;

    private Site(TestDatabase database, Path root) throws SQLException {
      this.database = database;
      boolean schemas = database.kind() == Kind.POSTGRES;
      session =
          TestSession.open(
              database, root, Access.WRITE, schemas ? List.of("public", "audit") : List.of());
      connection = database.connect();
    }

    private void empty() throws SQLException {
      if (database.kind() == Kind.POSTGRES) {
        run(
            "empty",
            List.of(
                "DROP SCHEMA IF EXISTS audit CASCADE",
                "DROP SCHEMA public CASCADE",
                "CREATE SCHEMA public",
                "CREATE SCHEMA audit"));
      } else if (database.kind() == Kind.MARIADB) {
        String name = database.url().replaceFirst(".*/([^?]*).*", "$1");
        run("empty", List.of("DROP DATABASE " + name, "CREATE DATABASE " + name, "USE " + name));
        session.change("USE " + name);
      } else {
        session.empty(List.of());
      }
    }

    private void run(String label, List<String> statements) throws SQLException {
      try (Statement sql = connection.createStatement()) {
        sql.setEscapeProcessing(false);
        for (String statement : statements) {
          try {
            sql.execute(statement);
          } catch (SQLException e) {
            throw new SQLException(
                label
                    + ": "
                    + e.getMessage()
                    + " in\n"
                    + statement
                    + "\nof\n"
                    + String.join(";\n", statements),
                e);
          }
        }
      }
    }

    private Snapshot read() throws SQLException {
      return session.structure(List.of()).snapshot().withoutRights();
    }

    /**
     * Makes one structure of another, and returns what is there then; columns may come to stand in
     * another order.
     */
    private Snapshot change(String label, Snapshot was, Snapshot goal) throws SQLException {
      ChangeScript script =
          ChangeScript.of(
              Differences.between(was, goal),
              was,
              goal,
              session.ddl(),
              ChangeScript.Origin.TWO_DATABASES);
      assertThat(script.leftOut())
          .as(label)
          .allMatch(left -> left.reason().contains("behind") || left.reason().contains("order"));
      run(label, script.statements());
      Snapshot made = read();
      List<Difference> left = new ArrayList<>(Differences.between(goal, made));
      left.removeIf(RandomPairsTest::isOrder);
      assertThat(left).as(label + "\n" + String.join(";\n", script.statements())).isEmpty();
      return made;
    }

    private Map<String, List<String>> values(Map<String, String> queries) throws SQLException {
      Map<String, List<String>> values = new LinkedHashMap<>();
      try (Statement sql = connection.createStatement()) {
        for (Map.Entry<String, String> query : queries.entrySet()) {
          List<String> found = new ArrayList<>();
          try (ResultSet rows = sql.executeQuery(query.getValue())) {
            while (rows.next()) {
              found.add(rows.getString(1));
            }
          }
          values.put(query.getKey(), found);
        }
      }
      return values;
    }

    @Override
    public void close() throws SQLException {
      session.close();
      connection.close();
    }
  }

  private static boolean isOrder(Difference difference) {
    return difference.facts().stream().allMatch(fact -> fact.name().equals("column order"))
        && difference.change() == Difference.Change.CHANGED;
  }
}
