package org.wornladder.service;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.wornladder.ApplyOptions;
import org.wornladder.Approval;
import org.wornladder.FoundRisk;
import org.wornladder.Preview;
import org.wornladder.RefusedException;
import org.wornladder.RunListener;
import org.wornladder.StatementFailedException;
import org.wornladder.TestLadder;
import org.wornladder.change.Risk;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/** The risks of waiting rungs, asked of the database, and what happens where they are ignored. */
class PreviewRisksTest {
  @TempDir Path root;
  private TestDatabase database;
  private TestLadder ladder;

  private void on(Kind kind) {
    database = TestDatabase.make(kind, root);
    ladder = TestLadder.on(database, root);
    ladder.rung(
        "0001-bins",
        "CREATE TABLE grower (id integer NOT NULL PRIMARY KEY);\n"
            + "CREATE TABLE bin (code varchar(10) NOT NULL PRIMARY KEY, grower_id integer,"
            + " weight integer);\n"
            + "INSERT INTO grower (id) VALUES (1);\n"
            + "INSERT INTO bin (code, grower_id, weight) VALUES ('a', 1, 5), ('b', 1, NULL),"
            + " ('c', 9, 5);",
        "DROP TABLE bin; DROP TABLE grower;");
    ladder.apply();
  }

  private Preview preview(String up) {
    ladder.rung("0002-change", up, "SELECT 1;");
    return ladder.open().preview(Optional.of("dev"), ApplyOptions.ALL, true);
  }

  private static List<String> words(Preview preview) {
    return preview.risks().stream()
        .map(one -> one.risk().kind().label() + " " + one.rows().orElse(-1))
        .toList();
  }

  @ParameterizedTest
  @EnumSource
  void doublesAreCountedAndTheStatementDoesFail(Kind kind) {
    on(kind);
    Preview preview = preview("CREATE UNIQUE INDEX one ON bin (weight);");
    assertThat(words(preview)).contains("may-fail 1");
    FoundRisk doubles =
        preview.risks().stream().filter(one -> one.rows().isPresent()).findFirst().orElseThrow();
    assertThat(doubles.examples()).containsExactly("5");
    assertThatThrownBy(ladder::apply).isInstanceOf(StatementFailedException.class);
  }

  @ParameterizedTest
  @EnumSource(names = {"POSTGRES", "MARIADB", "H2"})
  void nullsAndOrphansAreCounted(Kind kind) {
    on(kind);
    String required =
        kind == Kind.MARIADB
            ? "ALTER TABLE bin MODIFY weight integer NOT NULL;"
            : "ALTER TABLE bin ALTER COLUMN weight SET NOT NULL;";
    assertThat(words(preview(required))).contains("may-fail 1");
    assertThat(
            words(
                preview(
                    "ALTER TABLE bin ADD CONSTRAINT k FOREIGN KEY (grower_id)"
                        + " REFERENCES grower (id);")))
        .contains("may-fail 1");
    assertThat(words(preview("ALTER TABLE bin ADD CONSTRAINT c CHECK (weight > 7);")))
        .contains("may-fail 2");
    assertThat(words(preview("ALTER TABLE bin ADD CONSTRAINT u UNIQUE (weight);")))
        .contains("may-fail 1");
  }

  @ParameterizedTest
  @EnumSource
  void whatIsErasedIsCountedAndARenameErasesNothing(Kind kind) {
    on(kind);
    assertThat(words(preview("ALTER TABLE bin DROP COLUMN weight;")))
        .contains("erases 2", "breaks-old-code -1");
    assertThat(words(preview("DROP TABLE bin;"))).contains("erases 3");
    String rename =
        kind == Kind.H2
            ? "ALTER TABLE bin ALTER COLUMN weight RENAME TO kilos;"
            : "ALTER TABLE bin RENAME COLUMN weight TO kilos;";
    if (kind != Kind.H2) {
      assertThat(words(preview(rename))).containsExactly("breaks-old-code -1");
    }
  }

  @ParameterizedTest
  @EnumSource
  void whatIsHarmlessCarriesNoRisk(Kind kind) {
    on(kind);
    assertThat(
            words(
                preview(
                    "CREATE TABLE crate (id integer NOT NULL PRIMARY KEY, bin varchar(10) NOT NULL"
                        + " REFERENCES bin (code));\n"
                        + "INSERT INTO bin (code) VALUES ('d');")))
        .isEmpty();
  }

  @Test
  void whatIsBuiltBesideWritersBlocksNobody() {
    on(Kind.POSTGRES);
    assertThat(words(preview("CREATE INDEX by_weight ON bin (weight);")))
        .containsExactly("blocks 3");
    ladder.file(
        "rungs/0002-change.sql",
        "--| run: outside-transaction\n--| up\nCREATE INDEX CONCURRENTLY by_weight ON bin"
            + " (weight);\n--| down\nDROP INDEX by_weight;\n");
    assertThat(words(ladder.open().preview(Optional.of("dev"), ApplyOptions.ALL, true))).isEmpty();
  }

  @Test
  void aGuardedDatabaseRefusesErasureUntilTheRungSaysThatItIsMeant() {
    on(Kind.SQLITE);
    ladder.settings(database, ", guarded: true");
    ladder.file("ladder.yaml", ladder.text("ladder.yaml").replace("disposable: true, ", ""));
    Preview preview = preview("DELETE FROM bin WHERE code = 'a';");
    assertThat(preview.refusal()).isPresent();
    Approval yes = Approval.given(Optional.of("dev"), true);
    assertThatThrownBy(
            () ->
                ladder.open().apply(Optional.of("dev"), ApplyOptions.ALL, yes, RunListener.SILENT))
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("0002 erases, and does not say that it is meant: table bin");
    ladder.file(
        "rungs/0002-change.sql",
        "--| accepts: erases, because bin a was burnt\n" + ladder.text("rungs/0002-change.sql"));
    ladder.open().apply(Optional.of("dev"), ApplyOptions.ALL, yes, RunListener.SILENT);
    assertThat(database.query("SELECT count(*) FROM bin")).containsExactly("2");
  }

  private void limits(String risks) {
    ladder.settings(database, ", risks: { " + risks + " }");
  }

  @ParameterizedTest
  @EnumSource
  void anEnvironmentRefusesRisksAboveItsLimit(Kind kind) {
    on(kind);
    String up = "ALTER TABLE bin DROP COLUMN weight;";
    limits("erases: refuse over 2 rows, breaks-old-code: allow");
    assertThat(preview(up).refusal()).isEmpty();
    limits("erases: refuse over 1 rows");
    assertThat(preview(up).refusal().orElseThrow())
        .hasMessageContaining("dev refuses erases over 1 rows, and 0002 has it: column")
        .hasMessageContaining("2 rows now");
    assertThatThrownBy(ladder::apply).isInstanceOf(RefusedException.class);
    limits("breaks-old-code: refuse");
    assertThatThrownBy(ladder::apply).hasMessageContaining("dev refuses breaks-old-code");
    ladder.file(
        "rungs/0002-change.sql",
        "--| accepts: breaks-old-code, because nobody reads it\n--| up\n"
            + up
            + "\n--| down\nSELECT 1;\n");
    ladder.apply();
  }

  @ParameterizedTest
  @EnumSource
  void whatOthersWaitForIsRefusedByTheRowsOfItsTable(Kind kind) {
    on(kind);
    String up =
        switch (kind) {
          case POSTGRES -> "CREATE INDEX by_weight ON bin (weight);";
          case MARIADB -> "ALTER TABLE bin MODIFY weight varchar(20);";
          case SQLITE, H2 -> "ALTER TABLE bin ALTER COLUMN weight SET DATA TYPE varchar(20);";
        };
    limits("blocks: refuse over 3 rows");
    Preview preview = preview(up);
    assertThat(preview.refusal()).isEmpty();
    assertThat(preview.risks())
        .filteredOn(found -> found.risk().kind() == Risk.Kind.BLOCKS)
        .isNotEmpty()
        .allSatisfy(found -> assertThat(found.rows()).hasValue(3))
        .allSatisfy(found -> assertThat(found.bytes().orElseThrow()).isPositive());
    limits("blocks: refuse over 2 rows");
    assertThatThrownBy(ladder::apply).hasMessageContaining("dev refuses blocks over 2 rows");
  }

  @Test
  void limitsThatMeanNothingAreRefusedWithTheirPlace() {
    on(Kind.SQLITE);
    limits("erase: refuse, blocks: refuse over many rows");
    assertThatThrownBy(ladder::open).hasMessageContaining("there is no risk 'erase'");
    limits("blocks: refuse over many rows");
    assertThatThrownBy(ladder::open)
        .hasMessageContaining("blocks cannot be 'refuse over many rows'");
  }
}
