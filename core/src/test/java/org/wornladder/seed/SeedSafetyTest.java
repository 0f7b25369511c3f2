package org.wornladder.seed;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.wornladder.Against;
import org.wornladder.RefusedException;
import org.wornladder.SeedApproval;
import org.wornladder.SeedDrift;
import org.wornladder.SeedListener;
import org.wornladder.SeedOptions;
import org.wornladder.SeedRunResult;
import org.wornladder.TestLadder;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/** Several at once, who may what, and what is left when it ends early. */
class SeedSafetyTest {
  @TempDir Path root;
  private TestDatabase database;
  private TestLadder ladder;

  private void on(Enum<?> kind) {
    database = TestDatabase.make(kind, root);
    ladder = TestLadder.on(database, root);
    database.execute(
        "CREATE TABLE grade (code varchar(8) NOT NULL PRIMARY KEY, low integer, high integer)");
    settings(", disposable: true");
    StringBuilder rows = new StringBuilder("code,low,high\n");
    for (int i = 0; i < 500; i++) {
      rows.append('g').append(i).append(',').append(i).append(",\n");
    }
    ladder.file("seeds/grade.csv", rows.toString());
  }

  private void settings(String more) {
    ladder.file(
        "ladder.yaml",
        "name: hollowfield\nenvironments:\n  dev: { url: '"
            + database.url()
            + "'"
            + more
            + " }\nseeds: [{ table: grade }]\n");
  }

  private SeedRunResult seed(SeedListener listener) {
    return ladder
        .open()
        .seed(Optional.of("dev"), SeedOptions.ALL, SeedApproval.given(Optional.empty()), listener);
  }

  @ParameterizedTest
  @MethodSource("org.wornladder.server.TestDatabase#allKinds")
  void severalAtOnceWriteOnce(Enum<?> kind) throws Exception {
    on(kind);
    int count = kind == Kind.H2 ? 2 : 6;
    ExecutorService pool = Executors.newFixedThreadPool(count);
    try {
      List<Callable<SeedRunResult>> seeds = new ArrayList<>();
      for (int i = 0; i < count; i++) {
        seeds.add(() -> seed(SeedListener.SILENT));
      }
      long added = 0;
      for (Future<SeedRunResult> one : pool.invokeAll(seeds)) {
        added += one.get().results().get(0).counts().added();
      }
      assertThat(added).isEqualTo(500);
    } finally {
      pool.shutdownNow();
    }
    assertThat(database.query("SELECT count(*) FROM grade")).containsExactly("500");
    assertThat(database.events()).as("the others found nothing to do").containsExactly("seeded");
  }

  @ParameterizedTest
  @MethodSource("org.wornladder.server.TestDatabase#allKinds")
  void whoIsAskedToStopLeavesNothing(Enum<?> kind) {
    on(kind);
    SeedListener stopping =
        new SeedListener() {
          @Override
          public boolean wantsStop() {
            return true;
          }
        };
    assertThatThrownBy(() -> seed(stopping))
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("nothing was written");
    assertThat(database.query("SELECT count(*) FROM grade")).containsExactly("0");
    assertThat(seed(SeedListener.SILENT).results().get(0).counts().added()).isEqualTo(500);
  }

  @ParameterizedTest
  @MethodSource("org.wornladder.server.TestDatabase#allKinds")
  void aRowThatTheDatabaseRefusesLeavesNothingOfTheOtherSeedsEither(Enum<?> kind) {
    on(kind);
    database.execute(
        "CREATE TABLE variety (id integer NOT NULL PRIMARY KEY, name varchar(8) NOT NULL,"
            + " CHECK (name <> 'worm'))");
    ladder.file("seeds/variety.csv", "id,name\n1,one\n2,two\n3,worm\n");
    String settings = ladder.text("ladder.yaml");
    ladder.file(
        "ladder.yaml",
        settings.replace("[{ table: grade }]", "[{ table: grade }, { table: variety }]"));
    assertThatThrownBy(() -> seed(SeedListener.SILENT))
        .isInstanceOfSatisfying(
            org.wornladder.StatementFailedException.class,
            e -> {
              assertThat(e.failure().place()).isEqualTo("seeds/variety.csv:4");
              assertThat(e.failure().left()).contains("Nothing was written");
              assertThat(e.failure().message())
                  .as("values of rows are not told")
                  .doesNotContain("(3, worm)", "Failing row");
            });
    assertThat(database.query("SELECT count(*) FROM grade")).containsExactly("0");
    assertThat(seed(SeedOptions.ALL, "grade").isQuiet()).isFalse();
  }

  private SeedRunResult seed(SeedOptions options, String only) {
    SeedOptions some = new SeedOptions(List.of(only), options.dryRun(), options.shown());
    return ladder
        .open()
        .seed(Optional.of("dev"), some, SeedApproval.given(Optional.empty()), SeedListener.SILENT);
  }

  @Test
  void driftSaysWhenRowsMayNotBeCompared() {
    on(Kind.POSTGRES);
    seed(SeedListener.SILENT);
    String name = database.query("SELECT current_database()").get(0);
    String role = name + "_looker";
    database.execute(
        "CREATE ROLE " + role,
        "REVOKE TEMPORARY ON DATABASE " + name + " FROM PUBLIC",
        "GRANT SELECT ON ALL TABLES IN SCHEMA public TO " + role);
    settings(", role: " + role);
    assertThat(ladder.open().drift(Optional.of("dev"), Against.EXPECTED, false).seeds().isClean())
        .as("all rows are the same, which reading alone tells")
        .isTrue();
    database.execute("UPDATE grade SET high = 1 WHERE code = 'g7'");
    SeedDrift drift = ladder.open().drift(Optional.of("dev"), Against.EXPECTED, false).seeds();
    assertThat(drift.findings()).hasSize(1);
    assertThat(drift.findings().get(0).what()).contains("cannot be compared");
    assertThat(drift.findings().get(0).advice().toString()).contains("temporary tables");
  }

  @Test
  void whatOnlyTheDatabaseCanTellIsStillTheSame() {
    on(Kind.POSTGRES);
    ladder.file("seeds/grade.csv", "code,low,high\ng1,007,\ng2, 8 ,\n");
    assertThat(seed(SeedListener.SILENT).results().get(0).counts().added()).isEqualTo(2);
    assertThat(seed(SeedListener.SILENT).isQuiet()).isTrue();
    assertThat(ladder.open().drift(Optional.of("dev"), Against.EXPECTED, false).seeds().isClean())
        .isTrue();
    database.execute("UPDATE grade SET low = 9 WHERE code = 'g2'");
    SeedDrift drift = ladder.open().drift(Optional.of("dev"), Against.EXPECTED, false).seeds();
    assertThat(drift.differing()).hasSize(1);
    assertThat(drift.differing().get(0).counts().updated()).isEqualTo(1);
  }
}
