package org.wornladder.service;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.assertj.core.api.InstanceOfAssertFactories;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.wornladder.Against;
import org.wornladder.ApplyOptions;
import org.wornladder.AtticChoice;
import org.wornladder.RefusedException;
import org.wornladder.RollbackOptions;
import org.wornladder.RunListener;
import org.wornladder.StatementFailedException;
import org.wornladder.TestLadder;
import org.wornladder.attic.KeptItem;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/** What rungs erase is kept for a while, and comes back with a roll-back. */
class AtticTest {
  private static final String SLIM =
      "DROP TABLE bin;\nDROP TABLE grower;\nDELETE FROM grade;\n"
          + "ALTER TABLE block DROP COLUMN hectares;";

  @TempDir Path root;
  private TestDatabase database;
  private TestLadder ladder;

  private void on(Kind kind, String attic) {
    database = TestDatabase.make(kind, root);
    ladder = TestLadder.on(database, root);
    ladder.settings(database, ", attic: " + attic);
    String tables =
        "CREATE TABLE grower (id "
            + kind.identity()
            + ", name varchar(20), boss integer REFERENCES grower (id));\n"
            + "CREATE TABLE bin (code varchar(9) NOT NULL PRIMARY KEY, grower_id integer"
            + " REFERENCES grower (id), weight decimal(8,2));\n";
    ladder.rung(
        "0001-all",
        tables
            + "CREATE TABLE grade (code char(1) NOT NULL PRIMARY KEY, words varchar(20));\n"
            + "CREATE TABLE block (id integer NOT NULL PRIMARY KEY, hectares decimal(6,2));\n"
            + "CREATE TABLE loose (a integer, b integer);\n"
            + "INSERT INTO grower (name) VALUES ('Ann'), ('Bo'), ('Cy');\n"
            + "UPDATE grower SET boss = 1 WHERE name = 'Bo';\n"
            + "INSERT INTO bin VALUES ('a', 1, 1.50), ('b', 2, NULL), ('c', 3, 2.25);\n"
            + "INSERT INTO grade VALUES ('A', 'first'), ('B', 'second');\n"
            + "INSERT INTO block VALUES (1, 2.50), (2, NULL), (3, 4.00);\n"
            + "INSERT INTO loose VALUES (1, 2);",
        "SELECT 1;");
    ladder.apply();
    ladder.rung(
        "0002-slim", SLIM, "ALTER TABLE block ADD COLUMN hectares decimal(6,2);\n" + tables);
  }

  private List<KeptItem> kept() {
    return ladder.open().attic(Optional.of("dev"));
  }

  private List<String> rollback() {
    List<String> words = new ArrayList<>();
    RunListener listener =
        new RunListener() {
          @Override
          public void broughtBack(String one) {
            words.add(one.toLowerCase(Locale.ROOT));
          }
        };
    ladder
        .open()
        .rollback(Optional.of("dev"), RollbackOptions.builder().build(), TestLadder.YES, listener);
    return words;
  }

  private List<String> rows() {
    List<String> rows = new ArrayList<>();
    for (String query :
        List.of(
            "SELECT concat(id, name, coalesce(boss, 0)) FROM grower ORDER BY id",
            "SELECT concat(code, grower_id, ' ', coalesce(weight, 0)) FROM bin ORDER BY code",
            "SELECT concat(code, words) FROM grade ORDER BY code",
            "SELECT concat(id, ' ', coalesce(hectares, 0)) FROM block ORDER BY id")) {
      rows.add(database.query(query).toString());
    }
    return rows;
  }

  @ParameterizedTest
  @EnumSource
  void aRollBackBringsTablesColumnsAndRowsBack(Kind kind) {
    on(kind, "on");
    List<String> before = rows();
    ladder.apply();
    assertThat(kept()).hasSize(4);
    assertThat(ladder.open().drift(Optional.of("dev"), Against.EXPECTED, false).structure())
        .isEmpty();
    assertThat(ladder.open().show(Optional.of("dev")).schema().tables())
        .noneMatch(table -> table.name().toLowerCase(Locale.ROOT).contains("attic"));
    assertThat(rollback()).hasSize(4).allMatch(words -> words.contains("back"));
    assertThat(rows()).isEqualTo(before);
    assertThat(kept()).isEmpty();
    assertThat(ladder.open().history(Optional.of("dev")).history().broken()).isEmpty();
    database.execute("INSERT INTO grower (name) VALUES ('Dot')");
    ladder.apply();
    assertThat(rollback()).hasSize(4);
    assertThat(database.query("SELECT count(*) FROM grower")).containsExactly("4");
  }

  @ParameterizedTest
  @EnumSource
  void whatOthersChangedStaysAndWhatNoLongerFitsIsSaid(Kind kind) {
    on(kind, "on");
    ladder.apply();
    database.execute(
        "INSERT INTO grade VALUES ('B', 'others'), ('C', 'new')",
        "DELETE FROM block WHERE id = 3",
        "INSERT INTO block (id) VALUES (9)");
    ladder.file(
        "rungs/0002-slim.sql",
        ladder
            .text("rungs/0002-slim.sql")
            .replaceFirst("(?s)(--\\| down.*weight decimal\\(8,2\\))", "$1 CHECK (weight < 2)"));
    assertThat(rollback())
        .anyMatch(words -> words.startsWith("table bin: 2 of 3 rows back; not fitting: 1 ("));
    assertThat(database.query("SELECT code FROM bin ORDER BY code")).containsExactly("a", "b");
    assertThat(database.query("SELECT concat(code, words) FROM grade ORDER BY code"))
        .containsExactly("Afirst", "Bothers", "Cnew");
    assertThat(
            database.query("SELECT concat(id, ' ', coalesce(hectares, 0)) FROM block ORDER BY id"))
        .hasSize(3)
        .last(InstanceOfAssertFactories.STRING)
        .startsWith("9 0");
    assertThat(kept()).hasSize(1);
    database.execute(
        "DELETE FROM bin",
        "DROP TABLE bin",
        "CREATE TABLE bin (code varchar(9) NOT NULL PRIMARY KEY, weight decimal(8,2))");
    String words =
        ladder
            .open()
            .restoreFromAttic(
                Optional.of("dev"), kept().get(0).entry(), TestLadder.YES, RunListener.SILENT);
    assertThat(words).endsWith("all rows are back");
    assertThat(database.query("SELECT code FROM bin ORDER BY code")).containsExactly("a", "b", "c");
  }

  @ParameterizedTest
  @EnumSource
  void whatDoesNotFitOrCannotBeKeptIsRefusedBeforehand(Kind kind) {
    on(kind, "{ keep: on, most-rows: 7 }");
    assertThatThrownBy(ladder::apply)
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("what goes does not fit into the attic: 11 rows, and it takes 7");
    ladder.settings(database, ", attic: on");
    ladder.rung("0002-slim", "ALTER TABLE loose DROP COLUMN b;", "SELECT 1;");
    assertThatThrownBy(ladder::apply)
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("cannot be kept: its table has no primary key");
    ladder
        .open()
        .apply(
            Optional.of("dev"),
            ApplyOptions.builder().attic(false).build(),
            TestLadder.YES,
            RunListener.SILENT);
    assertThat(kept()).isEmpty();
  }

  @ParameterizedTest
  @EnumSource
  void aPersonDecidesWhereTheSettingsAsk(Kind kind) {
    on(kind, "ask");
    assertThatThrownBy(ladder::apply)
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("nobody says whether what goes is kept: table bin, table grower");
    ApplyOptions all = ApplyOptions.ALL;
    ApplyOptions asked =
        new ApplyOptions(
            all.to(), false, Optional.empty(), Optional.empty(), AtticChoice.always(true));
    ladder.open().apply(Optional.of("dev"), asked, TestLadder.YES, RunListener.SILENT);
    assertThat(kept()).hasSize(4);
    assertThat(empty(Duration.ofDays(1))).isEmpty();
    assertThat(empty(Duration.ZERO)).hasSize(4);
    assertThat(rollback()).isEmpty();
    assertThat(database.query("SELECT count(*) FROM bin")).containsExactly("0");
  }

  private List<KeptItem> empty(Duration age) {
    return ladder.open().emptyAttic(Optional.of("dev"), age, TestLadder.YES, RunListener.SILENT);
  }

  @ParameterizedTest
  @EnumSource
  void aRungThatFailsKeepsNothingOrGoesOn(Kind kind) {
    on(kind, "on");
    ladder.rung("0002-slim", "DROP TABLE bin;\nDROP TABLE nothing_of_this_name;", "SELECT 1;");
    assertThatThrownBy(ladder::apply).isInstanceOf(StatementFailedException.class);
    boolean undone = kind == Kind.SQLITE || kind == Kind.POSTGRES;
    assertThat(kept()).hasSize(undone ? 0 : 1);
    database.execute("CREATE TABLE nothing_of_this_name (id integer)");
    ladder.apply();
    assertThat(kept()).hasSize(1);
  }
}
