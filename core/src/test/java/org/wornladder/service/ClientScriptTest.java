package org.wornladder.service;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.Optional;
import org.h2.tools.RunScript;
import org.junit.jupiter.api.Assumptions;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.wornladder.Against;
import org.wornladder.ApplyOptions;
import org.wornladder.RollbackOptions;
import org.wornladder.TestLadder;
import org.wornladder.server.OwnClient;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;
import org.wornladder.sql.Dialects;
import org.wornladder.sql.Place;
import org.wornladder.sql.Splitter;

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
    return ladder.open().script(Optional.of("dev"), ApplyOptions.ALL, down).text();
  }

  /** What the client says if it fails; empty otherwise. */
  private String run(String script) throws Exception {
    return switch (database.kind()) {
      case POSTGRES, SQLITE -> OwnClient.run(database, root, List.of(script));
      case H2 -> {
        Path file = Files.writeString(root.resolve("client.sql"), script);
        try {
          RunScript.execute(database.url(), "", "", file.toString(), null, false);
          yield "";
        } catch (SQLException e) {
          yield e.getMessage();
        }
      }
      case MARIADB -> {
        try (Connection connection = database.connect();
            Statement sql = connection.createStatement()) {
          for (var one : Splitter.split(script, Dialects.MARIADB, Place.of("x"))) {
            sql.execute(one.text());
          }
          yield "";
        } catch (SQLException e) {
          yield e.getMessage();
        }
      }
    };
  }

  private void isAsAfterApply() {
    assertThat(ladder.open().status(Optional.of("dev")).waiting()).isZero();
    assertThat(ladder.open().drift(Optional.of("dev"), Against.EXPECTED, false).isClean()).isTrue();
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
    assertThat(run(script(false))).isEmpty();
    isAsAfterApply();
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
