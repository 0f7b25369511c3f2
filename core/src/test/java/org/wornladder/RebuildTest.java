package org.wornladder;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalLong;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;
import org.wornladder.sql.Place;
import org.wornladder.sql.Splitter;
import org.wornladder.sql.Statement;

/** A fresh start, on every engine and with everything odd in the way. */
class RebuildTest {
  private static final RebuildOptions ALL = new RebuildOptions(OptionalLong.empty(), true);

  @TempDir Path root;
  private TestDatabase database;
  private TestLadder ladder;

  private void on(Kind kind) {
    database = TestDatabase.make(kind, root);
    ladder = TestLadder.on(database, root).tables(2);
  }

  private RebuildResult rebuild(RebuildOptions options, String confirmed, boolean yes) {
    Optional<String> name = confirmed.isEmpty() ? Optional.empty() : Optional.of(confirmed);
    return ladder
        .open()
        .rebuild(
            Optional.of("dev"),
            options,
            RebuildApproval.given(name, yes),
            RunListener.SILENT,
            SeedListener.SILENT);
  }

  private String databaseName() {
    return switch (database.kind()) {
      case SQLITE -> "dev.db";
      case H2 -> "dev";
      default -> database.url().replaceFirst("\\?.*", "").replaceFirst(".*/", "");
    };
  }

  private void fillWithOddThings() throws IOException {
    String file = "/structures/" + database.kind().name().toLowerCase(Locale.ROOT) + "-odd.sql";
    try (InputStream in = RebuildTest.class.getResourceAsStream(file)) {
      String text = new String(in.readAllBytes(), StandardCharsets.UTF_8);
      List<Statement> statements =
          Splitter.split(text, database.engine().dialect(), Place.of(file));
      database.execute(statements.stream().map(Statement::text).toArray(String[]::new));
    }
  }

  @ParameterizedTest
  @EnumSource
  void everythingIsTakenOutAndBuiltAnew(Kind kind) throws IOException {
    on(kind);
    ladder.apply();
    fillWithOddThings();
    ladder.file("seeds/bin_1.csv", "id\n7\n");
    ladder.file("ladder.yaml", ladder.text("ladder.yaml") + "seeds: [{ table: bin_1 }]\n");
    assertThatThrownBy(() -> rebuild(ALL, "", false)).isInstanceOf(RefusedException.class);
    RebuildResult rebuilt = rebuild(ALL, "", true);
    assertThat(rebuilt.loss().text()).contains("tables");
    assertThat(rebuilt.applied().rungsRun()).isEqualTo(2);
    assertThat(database.query("SELECT id FROM bin_1")).containsExactly("7");
    assertThat(database.events())
        .startsWith("emptied")
        .endsWith("seeded")
        .containsSubsequence("applied", "applied");
    DatabaseTables tables = new DatabaseTables(ladder.open());
    assertThat(tables.names())
        .hasSize(2)
        .allMatch(name -> name.toLowerCase(Locale.ROOT).startsWith("bin_"));
    assertThat(
            ladder
                .open()
                .drift(Optional.of("dev"), org.wornladder.Against.EXPECTED, false)
                .isClean())
        .isTrue();
  }

  /** What stands in dev. */
  private record DatabaseTables(Ladder ladder) {
    List<String> names() {
      return ladder.show(Optional.of("dev")).schema().snapshot().objects().stream()
          .filter(element -> !element.kind().isRight())
          .filter(element -> element.kind() != org.wornladder.schema.Kind.SCHEMA)
          .map(org.wornladder.schema.DatabaseObject::name)
          .toList();
    }
  }

  @ParameterizedTest
  @EnumSource
  void aDatabaseWithoutAJournalWantsItsOwnName(Kind kind) {
    on(kind);
    database.execute("CREATE TABLE legacy_fax (id integer PRIMARY KEY)");
    assertThatThrownBy(() -> rebuild(ALL, "", true))
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("and no journal");
    assertThatThrownBy(() -> rebuild(ALL, "other", true)).isInstanceOf(RefusedException.class);
    assertThat(database.query("SELECT count(*) FROM legacy_fax")).containsExactly("0");
    assertThat(rebuild(ALL, databaseName(), false).applied().rungsRun()).isEqualTo(2);
    assertThatThrownBy(() -> database.query("SELECT count(*) FROM legacy_fax"))
        .isInstanceOf(IllegalStateException.class);
  }

  @Test
  void aSeedThatCannotBeReadIsFoundBeforeAnythingIsDropped() {
    on(Kind.SQLITE);
    ladder.apply();
    ladder.file("seeds/broken.json", "[{");
    ladder.file(
        "ladder.yaml",
        ladder.text("ladder.yaml") + "seeds:\n  - table: bin_1\n    rows: seeds/broken.json\n");
    assertThatThrownBy(() -> rebuild(ALL, "", true)).isInstanceOf(ProjectException.class);
    assertThat(database.events()).doesNotContain("emptied");
  }

  @Test
  void anotherProjectsDatabaseWantsItsOwnName() {
    on(Kind.SQLITE);
    ladder.apply();
    ladder.file("ladder.yaml", ladder.text("ladder.yaml").replace("hollowfield", "other"));
    assertThatThrownBy(() -> rebuild(ALL, "", true))
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("a journal of hollowfield");
  }

  @Test
  void whatCannotBeBuiltIsToldBeforeAnythingIsLost() {
    on(Kind.SQLITE);
    ladder.apply();
    RebuildOptions wrong = new RebuildOptions(OptionalLong.of(9), true);
    assertThatThrownBy(() -> rebuild(wrong, "", true)).hasMessageContaining("no rung 9");
    ladder.rung("0003-wrong", "COMMIT;", "");
    assertThatThrownBy(() -> rebuild(ALL, "", true)).isInstanceOf(RuntimeException.class);
    assertThat(database.query("SELECT count(*) FROM bin_2")).containsExactly("0");
    ladder.delete("rungs/0003-wrong.sql");
  }

  @Test
  void onlyADisposableEnvironmentIsEmptied() {
    on(Kind.SQLITE);
    String settings = ladder.text("ladder.yaml");
    ladder.file("ladder.yaml", settings.replace("disposable: true", "disposable: false"));
    assertThatThrownBy(() -> rebuild(ALL, "dev.db", true))
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("not disposable");
    ladder.file("ladder.yaml", settings.replace("disposable: true", "guarded: true"));
    assertThatThrownBy(() -> rebuild(ALL, "dev.db", true))
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("guarded");
  }

  @Test
  void whatStandsElsewhereOnThisSchemaStopsIt() {
    on(Kind.POSTGRES);
    ladder.apply();
    database.execute(
        "CREATE SCHEMA reports", "CREATE VIEW reports.bins AS SELECT id FROM public.bin_1");
    assertThatThrownBy(() -> rebuild(ALL, "", true))
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("reports.bins");
    database.execute("DROP VIEW reports.bins", "CREATE TABLE reports.kept (id integer)");
    rebuild(ALL, "", true);
    assertThat(database.query("SELECT count(*) FROM reports.kept")).containsExactly("0");
  }
}
