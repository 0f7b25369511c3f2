package org.wornladder.service;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.util.Optional;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.wornladder.Against;
import org.wornladder.LadderException;
import org.wornladder.RefusedException;
import org.wornladder.RollbackOptions;
import org.wornladder.RunListener;
import org.wornladder.RunResult;
import org.wornladder.TestLadder;
import org.wornladder.change.Differences;
import org.wornladder.schema.Snapshot;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/** Rungs of which nobody wrote a way down are taken back by one that their structures give. */
class DerivedWayDownTest {
  @TempDir Path root;
  private TestDatabase database;
  private TestLadder ladder;

  private void on(Kind kind) {
    database = TestDatabase.make(kind, root);
    ladder = TestLadder.on(database, root);
    ladder.rung(
        "0001-bins",
        "CREATE TABLE bin (code varchar(10) NOT NULL PRIMARY KEY, weight integer);\n"
            + "INSERT INTO bin (code, weight) VALUES ('a', 5);",
        "DROP TABLE bin;");
    ladder.apply();
  }

  private void oneWay(String name, String up) {
    ladder.file("rungs/" + name + ".sql", "--| up\n" + up + "\n");
  }

  private RunResult rollback(RollbackOptions.Builder options) {
    return ladder
        .open()
        .rollback(
            Optional.of("dev"), options.derived(true).build(), TestLadder.YES, RunListener.SILENT);
  }

  private Snapshot structure() {
    return ladder.open().show(Optional.of("dev")).schema().snapshot();
  }

  private void assertIsAsBefore(Snapshot before) {
    assertThat(Differences.between(before, structure())).isEmpty();
    assertThat(database.query("SELECT code FROM bin")).containsExactly("a");
    assertThat(ladder.open().drift(Optional.of("dev"), Against.EXPECTED, false).structure())
        .isEmpty();
  }

  @ParameterizedTest
  @EnumSource
  void aRungThatRanAloneIsTakenBackByWhatTheJournalKeeps(Kind kind) {
    on(kind);
    Snapshot before = structure();
    oneWay(
        "0002-crates",
        "CREATE TABLE crate (id integer NOT NULL PRIMARY KEY);\n"
            + "ALTER TABLE bin ADD COLUMN note varchar(20);\n"
            + "CREATE INDEX by_weight ON bin (weight);");
    ladder.apply();
    assertThatThrownBy(() -> ladder.rollback(new RollbackOptions.Last(1)))
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("0002 has no way down; none was written");
    ladder.delete("rungs/0002-crates.sql");
    rollback(RollbackOptions.builder().absent());
    assertIsAsBefore(before);
  }

  @ParameterizedTest
  @EnumSource
  void rungsThatRanTogetherAreTakenBackByTheirReplays(Kind kind) {
    on(kind);
    Snapshot before = structure();
    oneWay("0002-crates", "CREATE TABLE crate (id integer NOT NULL PRIMARY KEY);");
    oneWay("0003-note", "ALTER TABLE bin ADD COLUMN note varchar(20);");
    ladder.apply();
    rollback(RollbackOptions.builder().to(1));
    assertIsAsBefore(before);
    ladder.apply();
    ladder.delete("rungs/0003-note.sql");
    assertThatThrownBy(() -> rollback(RollbackOptions.builder().absent()))
        .hasMessageContaining("none can be worked out: it did not run alone");
  }

  @ParameterizedTest
  @EnumSource
  void aRungThatSaysWhyItIsOneWayStaysSo(Kind kind) {
    on(kind);
    ladder.file(
        "rungs/0002-crates.sql",
        "--| no way down: the scale needs it\n--| up\nCREATE TABLE crate (id integer);\n");
    ladder.apply();
    assertThatThrownBy(() -> rollback(RollbackOptions.builder().last(1)))
        .hasMessageContaining("0002 has no way down: the scale needs it");
  }

  @ParameterizedTest
  @EnumSource(names = {"MARIADB", "H2"})
  void oneThatStoppedHalfWayGoesOnAsItBegan(Kind kind) {
    on(kind);
    Snapshot before = structure();
    oneWay(
        "0002-crates",
        "CREATE TABLE crate (id integer NOT NULL PRIMARY KEY);\n"
            + "CREATE TABLE grower (id integer NOT NULL PRIMARY KEY);");
    ladder.apply();
    // What a person made holds the second table, so that only the first one goes.
    database.execute(
        "CREATE TABLE pointing (id integer NOT NULL, FOREIGN KEY (id) REFERENCES grower (id))");
    assertThatThrownBy(() -> rollback(RollbackOptions.builder().last(1)))
        .isInstanceOf(LadderException.class);
    assertThat(ladder.open().status(Optional.of("dev")).toString()).contains("STUCK");
    database.execute("DROP TABLE pointing");
    ladder.rollback(new RollbackOptions.Last(1));
    assertIsAsBefore(before);
  }
}
