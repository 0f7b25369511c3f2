package org.wornladder.change;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.wornladder.engine.Access;
import org.wornladder.engine.Session;
import org.wornladder.schema.Snapshot;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;
import org.wornladder.server.TestSession;

/** What leans on a thing that is made anew is there again afterwards, with who may use it. */
class DependentsTest {
  @TempDir Path root;

  private TestDatabase database;

  private void has(Kind kind, List<String> statements) throws Exception {
    database = TestDatabase.make(kind, Files.createDirectories(root.resolve("it")));
    statements.forEach(database::execute);
  }

  private Snapshot read() {
    try (Session session = TestSession.open(database, root, Access.READ)) {
      return session.structure(List.of()).snapshot();
    } catch (java.sql.SQLException e) {
      throw new IllegalStateException(e);
    }
  }

  /** Brings the database back to what it was, and says how. */
  private List<String> bringsBack(Snapshot was) {
    ChangeScript script;
    try (Session session = TestSession.open(database, root, Access.READ)) {
      Snapshot is = read();
      script =
          ChangeScript.of(
              Differences.between(is, was),
              is,
              was,
              session.ddl(),
              ChangeScript.Origin.ONE_DATABASE);
    }
    assertThat(script.leftOut()).isEmpty();
    database.execute(script.statements().toArray(String[]::new));
    assertThat(Differences.withRights(was, read())).isEmpty();
    return script.statements();
  }

  private static List<String> orchard() {
    return List.of(
        "CREATE TABLE tree (id int PRIMARY KEY, kind varchar(20), height int)",
        "CREATE VIEW tall AS SELECT id, kind FROM tree WHERE height > 3",
        "CREATE VIEW tall_kinds AS SELECT kind FROM tall",
        "CREATE VIEW first_kind AS SELECT min(kind) AS kind FROM tall_kinds",
        "CREATE VIEW ids AS SELECT id FROM tree");
  }

  @ParameterizedTest
  @EnumSource
  void viewsOnAViewThatAHandReplaced(Kind kind) throws Exception {
    has(kind, orchard());
    Snapshot was = read();
    for (String view : List.of("first_kind", "tall_kinds", "tall")) {
      database.execute("DROP VIEW " + view);
    }
    database.execute("CREATE VIEW tall AS SELECT id, kind FROM tree WHERE height > 5");
    orchard().subList(2, 4).forEach(database::execute);
    assertThat(bringsBack(was)).noneMatch(statement -> statement.contains("ids"));
    assertThat(database.query("SELECT kind FROM first_kind")).hasSize(1);
  }

  @ParameterizedTest
  @EnumSource(names = {"POSTGRES", "H2"})
  void viewsOnAColumnThatAHandReshaped(Kind kind) throws Exception {
    has(kind, orchard());
    Snapshot was = read();
    for (String view : List.of("first_kind", "tall_kinds", "tall")) {
      database.execute("DROP VIEW " + view);
    }
    database.execute(
        "ALTER TABLE tree ALTER COLUMN kind "
            + (kind == Kind.H2 ? "SET DATA TYPE " : "TYPE ")
            + "varchar(60)");
    orchard().subList(1, 4).forEach(database::execute);
    List<String> statements = bringsBack(was);
    assertThat(statements).noneMatch(statement -> statement.contains("ids"));
    assertThat(statements.get(0)).startsWith("DROP VIEW");
  }

  @Test
  void triggersOnAView() throws Exception {
    has(
        Kind.SQLITE,
        List.of(
            "CREATE TABLE tree (id int PRIMARY KEY, kind text)",
            "CREATE VIEW kinds AS SELECT kind FROM tree",
            "CREATE TRIGGER planted INSTEAD OF INSERT ON kinds BEGIN"
                + " INSERT INTO tree (kind) VALUES (NEW.kind); END"));
    Snapshot was = read();
    database.execute("DROP VIEW kinds");
    database.execute("CREATE VIEW kinds AS SELECT upper(kind) AS kind FROM tree");
    database.execute(
        "CREATE TRIGGER planted INSTEAD OF INSERT ON kinds BEGIN"
            + " INSERT INTO tree (kind) VALUES (NEW.kind); END");
    bringsBack(was);
    database.execute("INSERT INTO kinds VALUES ('pear')");
    assertThat(database.query("SELECT kind FROM kinds")).containsExactly("pear");
  }

  @Test
  void indexesOwnersAndGrantsOfViews() throws Exception {
    String role = "picker_" + System.nanoTime() + "_of \"rows\"";
    String quoted = '"' + role.replace("\"", "\"\"") + '"';
    List<String> views =
        List.of(
            "CREATE MATERIALIZED VIEW \"tall to x\" AS SELECT id, kind FROM tree",
            "CREATE UNIQUE INDEX tall_id ON \"tall to x\" (id)",
            "CREATE VIEW tall AS SELECT kind FROM \"tall to x\"",
            "CREATE VIEW \"tall to y\" AS SELECT 1 AS one",
            "GRANT SELECT ON \"tall to x\" TO " + quoted,
            "GRANT SELECT ON \"tall to y\" TO " + quoted,
            "GRANT SELECT ON tall TO PUBLIC",
            "GRANT INSERT ON tall TO " + quoted + " WITH GRANT OPTION",
            "GRANT SELECT ON tall TO " + quoted,
            "ALTER VIEW tall OWNER TO " + quoted);
    has(Kind.POSTGRES, List.of("CREATE TABLE tree (id int PRIMARY KEY, kind varchar(20))"));
    database.execute("CREATE ROLE " + quoted);
    try {
      database.execute("GRANT CREATE ON SCHEMA public TO " + quoted);
      views.forEach(database::execute);
      Snapshot was = read();
      database.execute("DROP VIEW tall", "DROP MATERIALIZED VIEW \"tall to x\"");
      database.execute("ALTER TABLE tree ALTER COLUMN kind TYPE text");
      views.stream().filter(one -> !one.contains("tall to y")).forEach(database::execute);
      bringsBack(was);
    } finally {
      database.execute("DROP OWNED BY " + quoted, "DROP ROLE " + quoted);
    }
  }
}
