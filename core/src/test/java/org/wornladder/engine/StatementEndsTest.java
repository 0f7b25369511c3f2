package org.wornladder.engine;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.wornladder.Ladder;
import org.wornladder.TestLadder;
import org.wornladder.change.Differences;
import org.wornladder.schema.Snapshot;
import org.wornladder.server.OwnClient;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/**
 * Scripts of several statements, run by the database itself from one text, by its own client where
 * that is on the machine, and by the program as rungs. Afterwards all databases must hold the same:
 * so all found the same ends of statements. Each script is one of the contexts of a file with one
 * of its expressions in it.
 */
class StatementEndsTest {
  private static final List<String> BASE =
      List.of(
          "CREATE TABLE sink (id int, v varchar(200))",
          "CREATE TABLE source (a varchar(200), begin int)");

  @TempDir Path root;

  @ParameterizedTest
  @EnumSource(Kind.class)
  void areWhereTheDatabaseFindsThem(Kind kind) throws Exception {
    List<String> scripts = scripts(kind);
    assertThat(scripts).hasSizeGreaterThanOrEqualTo(400);
    TestDatabase theirs = make(kind, "theirs");
    TestDatabase ours = make(kind, "ours");
    List<String> refused = runWhole(theirs, scripts);
    assertThat(refused).isEmpty();
    TestLadder project = TestLadder.on(ours, root.resolve("ours"));
    for (int i = 0; i < scripts.size(); i++) {
      project.file(
          "rungs/%04d-case.sql".formatted(i + 1),
          "--| no way down: none\n--| up\n" + scripts.get(i));
    }
    project.apply();
    assertSame(ours, theirs);
    if (OwnClient.isHere(kind)) {
      TestDatabase clients = make(kind, "clients");
      runByClient(clients, scripts);
      assertSame(ours, clients);
    }
  }

  /** In order, since triggers keep theirs. */
  private void runByClient(TestDatabase clients, List<String> scripts) throws Exception {
    int from = 0;
    for (int i = 1; i <= scripts.size(); i++) {
      boolean beyond = isBeyondClient(clients.kind(), scripts.get(from));
      if (i == scripts.size() || isBeyondClient(clients.kind(), scripts.get(i)) != beyond) {
        List<String> part = scripts.subList(from, i);
        if (beyond) {
          assertThat(runWhole(clients, part)).isEmpty();
        } else {
          assertThat(OwnClient.run(clients, root.resolve("clients"), part)).isEmpty();
        }
        from = i;
      }
    }
  }

  /** What the client takes for more statements than the server does. */
  private static boolean isBeyondClient(Kind kind, String script) {
    return switch (kind) {
      // A column named end is the end of the body to psql.
      case POSTGRES -> script.contains(" AS end;");
      // RunScript knows no names in backticks, and no $$ behind a bracket.
      case H2 -> script.contains("`A;B`") || script.contains("$$");
      // The client mariadb changes the delimiter inside comments.
      case MARIADB -> script.contains("/* ; begin */");
      case SQLITE -> false;
    };
  }

  private void assertSame(TestDatabase ours, TestDatabase other) {
    assertThat(rows(ours)).isEqualTo(rows(other));
    assertThat(Differences.between(structure(other), structure(ours)))
        .extracting(found -> found.description() + " " + found.facts())
        .isEmpty();
  }

  private static List<String> scripts(Kind kind) throws IOException {
    String name = "/sql/ends/" + kind.name().toLowerCase(Locale.ROOT) + ".txt";
    try (InputStream in = StatementEndsTest.class.getResourceAsStream(name)) {
      String[] parts = new String(in.readAllBytes(), StandardCharsets.UTF_8).split("===\n");
      List<String> scripts = new ArrayList<>();
      for (String context : parts[1].split("---\n")) {
        for (String expression : parts[0].lines().toList()) {
          scripts.add(
              context
                  .replace("«x»", expression.replace("⏎", "\n"))
                  .replace("«n»", Integer.toString(scripts.size() + 1)));
        }
      }
      return scripts;
    }
  }

  private TestDatabase make(Kind kind, String folder) throws IOException {
    TestDatabase database = TestDatabase.make(kind, Files.createDirectory(root.resolve(folder)));
    database.execute(BASE.toArray(String[]::new));
    if (kind == Kind.SQLITE) {
      database.execute(
          "ALTER TABLE source ADD COLUMN end int", "CREATE VIEW seen AS SELECT a FROM source");
    }
    return database;
  }

  /** The scripts that the database itself does not take. */
  private static List<String> runWhole(TestDatabase database, List<String> scripts)
      throws SQLException {
    List<String> refused = new ArrayList<>();
    String several =
        switch (database.kind()) {
          case MARIADB -> "&allowMultiQueries=true";
          // Otherwise the driver splits the text by its own lights.
          case POSTGRES -> "&preferQueryMode=simple";
          case SQLITE, H2 -> "";
        };
    try (Connection connection = DriverManager.getConnection(database.url() + several)) {
      for (String script : scripts) {
        try (Statement sql = connection.createStatement()) {
          sql.setEscapeProcessing(false);
          run(database.kind(), sql, script);
        } catch (SQLException e) {
          refused.add(script + "\n" + e.getMessage());
        }
      }
    }
    return refused;
  }

  private static void run(Kind kind, Statement sql, String script) throws SQLException {
    if (kind == Kind.SQLITE) {
      // This one runs all statements of a text; the other ones leave out all but the first.
      sql.executeUpdate(script);
      return;
    }
    boolean rows = sql.execute(script);
    while (rows || sql.getUpdateCount() >= 0) {
      rows = sql.getMoreResults();
    }
  }

  private static List<String> rows(TestDatabase database) {
    return database.query("SELECT concat(id, ' ', v) FROM sink ORDER BY id, v");
  }

  /** Seen from a project of its own, which knows no rungs. */
  private Snapshot structure(TestDatabase database) {
    try (Ladder ladder = TestLadder.on(database, root.resolve("seen")).open()) {
      return ladder.show(Optional.of("dev")).schema().snapshot();
    }
  }
}
