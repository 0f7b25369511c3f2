package org.wornladder.service;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Assumptions;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.wornladder.Against;
import org.wornladder.ApplyOptions;
import org.wornladder.ClientSqlScript;
import org.wornladder.ClientSqlScript.Content;
import org.wornladder.DriftReport;
import org.wornladder.RollbackOptions;
import org.wornladder.SeedOptions;
import org.wornladder.SeedRunResult;
import org.wornladder.TestLadder;
import org.wornladder.server.OwnClient;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/** A script for the engine's own client leaves what apply would leave, and runs once. */
class ClientScriptTest {
  @TempDir Path root;
  private TestDatabase database;
  private TestLadder ladder;

  private void on(Kind kind) {
    Assumptions.assumeTrue(kind == Kind.MARIADB || kind == Kind.H2 || OwnClient.isHere(kind));
    database = TestDatabase.make(kind, root);
    ladder = TestLadder.on(database, root);
    ladder.rung("0001-bins", "CREATE TABLE bin (code varchar(10) PRIMARY KEY);", "DROP TABLE bin;");
    ladder.rung(
        "0002-crates",
        "CREATE TABLE crate (id integer PRIMARY KEY, note varchar(40));\n"
            + "INSERT INTO crate VALUES (1, 'it''s; -- x');",
        "DROP TABLE crate;");
    ladder.file(
        "standing/stock.sql",
        "--| up\nCREATE VIEW stock AS SELECT code FROM bin;\n--| down\nDROP VIEW stock;\n");
  }

  private String script(boolean down) {
    return ladder
        .open()
        .script(Optional.of("dev"), ApplyOptions.ALL, down ? Content.DOWN : Content.UP)
        .text();
  }

  /** What the client says if it fails; empty otherwise. */
  private String run(String script, String... options) throws Exception {
    if (database.kind() == Kind.H2) {
      return OwnClient.run(database, root, List.of(script));
    }
    Path file = Files.writeString(root.resolve("script.sql"), script);
    int exit = OwnClient.start(database, file, List.of(options)).waitFor();
    return exit == 0 ? "" : Files.readString(root.resolve("script.sql.out"));
  }

  private String said() throws IOException {
    return Files.readString(root.resolve("script.sql.out"));
  }

  private void isAsAfterApply() {
    assertThat(ladder.open().status(Optional.of("dev")).waiting()).isZero();
    assertThat(ladder.open().drift(Optional.of("dev"), Against.EXPECTED, false))
        .matches(DriftReport::isClean);
    assertThat(ladder.open().history(Optional.of("dev")).history().broken()).isEmpty();
  }

  @ParameterizedTest
  @EnumSource
  void itLeavesWhatApplyLeavesAndRunsOnce(Kind kind) throws Exception {
    on(kind);
    ladder.open().apply(Optional.of("dev"), ApplyOptions.builder().to(1).build());
    String script = script(false);
    assertThat(run(script)).isEmpty();
    isAsAfterApply();
    assertThat(database.query("SELECT note FROM crate")).containsExactly("it's; -- x");
    List<String> events = database.events();
    run(script);
    assertThat(database.events()).isEqualTo(events);
    ladder.rollback(new RollbackOptions.To(0));
    assertThat(ladder.open().drift(Optional.of("dev"), Against.EXPECTED, false).isClean()).isTrue();
  }

  @ParameterizedTest
  @EnumSource
  void aDatabaseThatHasNoJournalYetGetsOne(Kind kind) throws Exception {
    on(kind);
    String script = script(false);
    assertThat(run(script)).isEmpty();
    isAsAfterApply();
    List<String> events = database.events();
    String second = run(script);
    assertThat(second.isEmpty()).as(second).isEqualTo(kind == Kind.POSTGRES);
    assertThat(database.events()).isEqualTo(events);
  }

  /** What the client is told with a value, and what the rung does with it. */
  private record WithSecret(List<String> option, String up, String check) {
    static final String SECRET = "it's \\ \"4711\"";

    static WithSecret on(Kind kind) {
      return switch (kind) {
        case POSTGRES ->
            new WithSecret(
                List.of("-v", "key_word=" + SECRET),
                "CREATE TABLE kept (a text DEFAULT @{key_word:text});\n"
                    + "INSERT INTO kept VALUES (@{key_word:text}), ('<@{key_word}>\\ x');\n"
                    + "COMMENT ON TABLE kept IS @{key_word:text};",
                "SELECT a FROM kept ORDER BY length(a)");
        case MARIADB ->
            new WithSecret(
                List.of("--init-command=SET @key_word = 'it''s \\\\ \"4711\"'"),
                "CREATE TABLE kept (a varchar(60) DEFAULT @{key_word:text});\n"
                    + "INSERT INTO kept VALUES (@{key_word:text}), (concat('<', @{key_word:text}, '>\\\\ x'));",
                "SELECT a FROM kept ORDER BY length(a)");
        default ->
            new WithSecret(
                List.of("-cmd", ".parameter set @key_word \"'it''s \\\\ \\\"4711\\\"'\""),
                "CREATE TABLE kept (a text);\n"
                    + "INSERT INTO kept VALUES (@{key_word:text}), ('<' || @{key_word:text} || '>\\ x');",
                "SELECT a FROM kept ORDER BY length(a)");
      };
    }
  }

  @ParameterizedTest
  @EnumSource
  void secretsComeFromTheClientsVariables(Kind kind) throws Exception {
    on(kind);
    ladder.file(
        "ladder.yaml", ladder.text("ladder.yaml") + "values: { key_word: '${KEY_WORD}' }\n");
    ladder.file(".env", "KEY_WORD=" + WithSecret.SECRET + "\n");
    WithSecret with = WithSecret.on(kind);
    ladder.rung("0003-kept", with.up(), "DROP TABLE kept;");
    if (kind == Kind.H2) {
      assertThatThrownBy(() -> script(false)).hasMessageContaining("variable");
      return;
    }
    ClientSqlScript script = ladder.open().script(Optional.of("dev"), ApplyOptions.ALL, Content.UP);
    assertThat(script.variables()).containsExactly("key_word");
    assertThat(script.text()).doesNotContain("4711");
    run(script.text());
    assertThat(said()).contains("key_word");
    assertThat(ladder.open().status(Optional.of("dev")).waiting()).isEqualTo(3);
    assertThat(run(script.text(), with.option().toArray(String[]::new))).isEmpty();
    assertThat(database.query(with.check()))
        .containsExactly(WithSecret.SECRET, "<" + WithSecret.SECRET + ">\\ x");
    isAsAfterApply();
    assertThat(String.join("\n", database.events())).doesNotContain("4711");
  }

  @Test
  void valuesWhoseNamesAreAlikeAreTwoVariables() {
    on(Kind.SQLITE);
    ladder.file(
        "ladder.yaml",
        ladder.text("ladder.yaml") + "values: { key_word: '${ONE}', KEY_word: '${OTHER}' }\n");
    ladder.file(".env", "ONE=first4711\nOTHER=second4711\n");
    ladder.rung(
        "0003-kept",
        "CREATE TABLE kept (a text);\nINSERT INTO kept VALUES (@{key_word:text}),"
            + " (@{KEY_word:text});",
        "DROP TABLE kept;");
    assertThat(ladder.open().script(Optional.of("dev"), ApplyOptions.ALL, Content.UP).variables())
        .hasSize(2);
  }

  /** Rows that stand there are brought to what the files say, as the tool itself would do it. */
  @ParameterizedTest
  @EnumSource
  void referenceDataGoesAlong(Kind kind) throws Exception {
    on(kind);
    ladder.rung(
        "0003-roles",
        "CREATE TABLE role (id "
            + kind.identity()
            + ", name varchar(20) NOT NULL UNIQUE, weight decimal(8,2), active boolean, since"
            + " date, seen timestamp NULL, note varchar(60));\n"
            + "CREATE TABLE person (mail varchar(40) NOT NULL PRIMARY KEY, role_id integer NOT NULL"
            + " REFERENCES role (id));\n"
            + "CREATE TABLE grade (code varchar(2) NOT NULL PRIMARY KEY, name varchar(20));",
        "DROP TABLE grade; DROP TABLE person; DROP TABLE role;");
    ladder.file(
        "seeds/role.csv",
        "name,weight,active,since,seen,note\n"
            + "picker,1.50,true,2026-08-31,2026-08-31T06:30:00Z,it's; \\ x\n"
            + "packer,,false,,,\n");
    ladder.file(
        "seeds/person.yaml",
        "- { mail: ann@hollowfield.example, role_id.name: packer }\n"
            + "- { mail: ben@hollowfield.example, role_id.name: picker }\n");
    ladder.file("seeds/grade.csv", "code,name\nA,First\nB,Second\n");
    ladder.file(
        "ladder.yaml",
        ladder.text("ladder.yaml")
            + "seeds:\n  - { table: person, rows: seeds/person.yaml, key: [mail] }\n"
            + "  - { table: role, key: [name] }\n"
            + "  - { table: grade, key: [code], extra: delete }\n");
    ladder.apply();
    database.execute(
        "INSERT INTO role (name, note) VALUES ('guest', 'mine'), ('picker', 'old')",
        "INSERT INTO person (mail, role_id) SELECT 'ann@hollowfield.example', id FROM role WHERE"
            + " name = 'guest'",
        "INSERT INTO grade VALUES ('B', 'Last'), ('C', 'Third')");
    ladder.rung("0004-more", "CREATE TABLE more (id integer);", "DROP TABLE more;");
    assertThat(
            run(
                ladder
                    .open()
                    .script(Optional.of("dev"), ApplyOptions.ALL, Content.UP_AND_SEEDS)
                    .text()))
        .isEmpty();
    isAsAfterApply();
    assertThat(database.query("SELECT code || name FROM grade ORDER BY code").size()).isEqualTo(2);
    SeedRunResult again = ladder.open().seed(Optional.of("dev"), SeedOptions.ALL);
    assertThat(again.isQuiet()).as("%s", again.results()).isTrue();
    assertThat(database.query("SELECT note FROM role WHERE name = 'guest'"))
        .containsExactly("mine");
    assertThat(database.query("SELECT note FROM role WHERE name = 'picker'"))
        .containsExactly("it's; \\ x");
  }

  @ParameterizedTest
  @EnumSource(mode = EnumSource.Mode.EXCLUDE, names = "H2")
  void aClientThatIsKilledLeavesWhatApplyGoesOnWith(Kind kind) throws Exception {
    on(kind);
    String slow =
        switch (kind) {
          case POSTGRES -> "SELECT pg_sleep(0.05);";
          case MARIADB -> "DO sleep(0.05);";
          default ->
              "INSERT INTO slow WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n"
                  + " WHERE i < 60000) SELECT count(*) FROM n;";
        };
    ladder.rung("0003-slow", "CREATE TABLE slow (n integer);", "DROP TABLE slow;");
    for (int i = 4; i < 12; i++) {
      String table = "tray_" + i;
      ladder.rung(
          "%04d-tray".formatted(i),
          "CREATE TABLE "
              + table
              + " (id integer PRIMARY KEY);\n"
              + slow
              + "\nINSERT INTO "
              + table
              + " VALUES ("
              + i
              + ");\n"
              + slow,
          "DROP TABLE " + table + ";");
    }
    int left = 11;
    for (long pause = 60; left > 0 && pause < 2000; pause = pause * 5 / 3) {
      Path file = Files.writeString(root.resolve("script.sql"), script(false));
      Process client = OwnClient.start(database, file, List.of());
      if (!client.waitFor(pause, TimeUnit.MILLISECONDS)) {
        client.destroyForcibly().waitFor();
      }
      assertThat(ladder.open().history(Optional.of("dev")).history().broken()).isEmpty();
      left = (int) ladder.open().status(Optional.of("dev")).waiting();
      if (left > 1) {
        // The tool itself goes on with the rung that was cut.
        ladder.open().apply(Optional.of("dev"), ApplyOptions.builder().to(12 - left).build());
      }
    }
    ladder.apply();
    isAsAfterApply();
    for (int i = 4; i < 12; i++) {
      assertThat(database.query("SELECT id FROM tray_" + i)).containsExactly(Integer.toString(i));
    }
  }

  @ParameterizedTest
  @EnumSource
  void theWayBackIsAScriptToo(Kind kind) throws Exception {
    on(kind);
    ladder.apply();
    assertThat(run(script(true))).isEmpty();
    assertThat(ladder.open().status(Optional.of("dev")).waiting()).isOne();
    assertThat(ladder.open().history(Optional.of("dev")).history().broken()).isEmpty();
    assertThatThrownBy(() -> database.query("SELECT note FROM crate"))
        .isInstanceOf(IllegalStateException.class);
  }
}
