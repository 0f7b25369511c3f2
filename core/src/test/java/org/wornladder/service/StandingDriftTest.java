package org.wornladder.service;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.util.Optional;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.wornladder.DriftRung;
import org.wornladder.RefusedException;
import org.wornladder.RunListener;
import org.wornladder.Status;
import org.wornladder.TestLadder;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/** Drift of what standing scripts make, and rungs that are made official while others wait. */
class StandingDriftTest {
  @TempDir Path root;
  private TestDatabase database;
  private TestLadder ladder;

  private void on(Kind kind) {
    database = TestDatabase.make(kind, root);
    ladder = TestLadder.on(database, root);
    ladder.rung(
        "0001-bins",
        "CREATE TABLE bin (id int NOT NULL PRIMARY KEY, weight int);",
        "DROP TABLE bin;");
    ladder.file(
        "standing/light.sql",
        "--| up\nCREATE VIEW light AS SELECT id FROM bin WHERE weight < 20;\n--| down\nDROP VIEW light;\n");
    ladder.apply();
  }

  private DriftRung official() {
    return ladder
        .open()
        .driftAsRung(Optional.of("dev"), "by hand", TestLadder.YES, RunListener.SILENT);
  }

  @ParameterizedTest
  @EnumSource
  void whatAStandingScriptMakesIsNoPartOfARung(Kind kind) {
    on(kind);
    database.execute("DROP VIEW light", "CREATE VIEW light AS SELECT id FROM bin WHERE weight < 9");
    assertThatThrownBy(this::official)
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("standing/light.sql makes");
    database.execute("CREATE TABLE crate (id int NOT NULL PRIMARY KEY)");
    DriftRung rung = official();
    assertThat(rung.written()).hasSize(1);
    assertThat(rung.standing())
        .singleElement()
        .satisfies(
            one -> {
              assertThat(one.file()).isEqualTo("standing/light.sql");
              assertThat(one.difference().name()).isEqualToIgnoringCase("light");
            });
    assertThat(ladder.text(rung.file()).toLowerCase(java.util.Locale.ROOT))
        .contains("crate")
        .doesNotContain("light");
    assertThat(
            ladder
                .open()
                .drift(Optional.of("dev"), org.wornladder.Against.EXPECTED, false)
                .structure())
        .as("the view still differs")
        .hasSize(1);
  }

  @ParameterizedTest
  @EnumSource
  void aRungThatIsMadeOfficialMakesNoWaitingOneLate(Kind kind) {
    on(kind);
    ladder.rung("0002-boxes", "CREATE TABLE box (id int NOT NULL PRIMARY KEY);", "DROP TABLE box;");
    database.execute("CREATE TABLE crate (id int NOT NULL PRIMARY KEY)");
    assertThat(official().file()).startsWith("rungs/0003-");
    assertThat(ladder.open().status(Optional.of("dev")).rungs())
        .filteredOn(line -> line.state() == Status.State.WAITING)
        .hasSize(1);
    assertThat(ladder.apply().done()).hasSize(1);
    ladder.rung(
        "0004-more", "CREATE TABLE more (id int NOT NULL PRIMARY KEY);", "DROP TABLE more;");
    assertThat(ladder.apply().done()).hasSize(1);
    assertThat(
            ladder
                .open()
                .drift(Optional.of("dev"), org.wornladder.Against.EXPECTED, false)
                .structure())
        .isEmpty();
  }
}
