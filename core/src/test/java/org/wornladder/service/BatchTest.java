package org.wornladder.service;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;
import org.wornladder.ApplyOptions;
import org.wornladder.Ladder;
import org.wornladder.RefusedException;
import org.wornladder.RollbackOptions;
import org.wornladder.RunListener;
import org.wornladder.RunResult;
import org.wornladder.StatementFailedException;
import org.wornladder.TestLadder;
import org.wornladder.execution.Step;
import org.wornladder.journal.Event;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;
import org.wornladder.sql.Statement;

/** Statements that run in batches: each row once, whatever stops them. */
class BatchTest {
  private static final String UP = "UPDATE bin SET weight = weight + 1 WHERE weight < 1000";

  @TempDir Path root;
  private TestDatabase database;
  private TestLadder ladder;

  private void on(Kind kind, String key) {
    database = TestDatabase.make(kind, root);
    ladder = TestLadder.on(database, root);
    StringBuilder rows = new StringBuilder();
    for (int i = 1; i <= 53; i++) {
      rows.append(i == 1 ? "" : ", ")
          .append("('k")
          .append(i)
          .append("', ")
          .append(i * 7 % 60)
          .append(")");
    }
    ladder.rung(
        "0001-bins",
        "CREATE TABLE bin (id "
            + kind.identity()
            + ", code varchar(9) NOT NULL UNIQUE, weight integer NOT NULL, note integer);\n"
            + "CREATE TABLE copied (code varchar(9), weight integer);\n"
            + "CREATE VIEW seen AS SELECT id, weight FROM bin;\n"
            + "INSERT INTO bin (code, weight) VALUES "
            + rows
            + ";",
        "DROP TABLE bin;");
    ladder.apply();
    batches("10 by " + key, UP);
  }

  private void batches(String how, String up) {
    ladder.file(
        "rungs/0002-weights.sql",
        "--| in-batches-of: " + how + "\n--| up\n" + up + ";\n--| down\nSELECT 1;\n");
  }

  private String sum() {
    return database.query("SELECT sum(weight) FROM bin").get(0);
  }

  private long batchesDone() {
    return ladder.open().history(Optional.of("dev")).history().entries().stream()
        .filter(entry -> entry.event() == Event.BATCH_DONE)
        .count();
  }

  private RunResult apply(RunListener listener) {
    return ladder.open().apply(Optional.of("dev"), ApplyOptions.ALL, TestLadder.YES, listener);
  }

  @ParameterizedTest
  @CsvSource({
    "SQLITE,id",
    "SQLITE,code",
    "POSTGRES,id",
    "POSTGRES,code",
    "MARIADB,id",
    "MARIADB,code",
    "H2,id",
    "H2,code",
    "SQLITE,weight",
    "POSTGRES,bin.id"
  })
  void everyRowIsChangedOnceByAnyKeyThatAllRowsHave(Kind kind, String key) {
    on(kind, key);
    if (key.equals("weight")) {
      batches("10 by weight", "UPDATE bin SET note = coalesce(note, 0) + 1");
    }
    long before = Long.parseLong(sum());
    ladder.apply();
    if (key.equals("weight")) {
      assertThat(database.query("SELECT sum(note) FROM bin")).containsExactly("53");
    } else {
      assertThat(Long.parseLong(sum())).isEqualTo(before + 53);
    }
    assertThat(batchesDone()).isBetween(4L, 5L);
    assertThat(ladder.open().history(Optional.of("dev")).history().broken()).isEmpty();
    ladder.rollback(new RollbackOptions.Last(1));
  }

  @ParameterizedTest
  @EnumSource
  void rowsAreDeletedAndCopiedInBatches(Kind kind) {
    on(kind, "id");
    batches("10 by id", "INSERT INTO copied (code, weight) SELECT b.code, b.weight FROM bin b");
    ladder.apply();
    assertThat(database.query("SELECT count(*) FROM copied")).containsExactly("53");
    ladder.file(
        "rungs/0003-empty.sql",
        "--| in-batches-of: 7 by id\n--| pause: 1ms\n--| up\nDELETE FROM bin WHERE weight > 10 OR"
            + " weight < 5; -- all\n");
    ladder.apply();
    assertThat(database.query("SELECT count(*) FROM bin WHERE weight > 10 OR weight < 5"))
        .containsExactly("0");
    assertThat(database.query("SELECT count(*) FROM bin")).isNotEqualTo("0");
  }

  /** Rows without a key are ordered by where the engine keeps them. */
  @ParameterizedTest
  @EnumSource
  void rowsWithoutAKeyGoByTheirPlace(Kind kind) {
    String place = kind == Kind.SQLITE ? "rowid" : "ctid";
    on(kind, "id");
    database.execute("INSERT INTO copied SELECT code, weight FROM bin");
    batches("10 by " + place, "DELETE FROM copied WHERE weight > 20");
    if (kind == Kind.MARIADB || kind == Kind.H2) {
      assertThatThrownBy(ladder::apply).hasMessageContaining("copied has no column ctid");
      return;
    }
    ladder.apply();
    assertThat(batchesDone()).isEqualTo(5);
    assertThat(database.query("SELECT count(*) FROM copied WHERE weight > 20"))
        .containsExactly("0");
    assertThat(database.query("SELECT count(*) FROM copied")).isNotEqualTo(List.of("0"));
    ladder.file(
        "rungs/0003-more.sql",
        "--| in-batches-of: 3 by "
            + place
            + "\n--| up\nUPDATE copied SET weight = weight + 100;\n");
    if (kind == Kind.POSTGRES) {
      assertThatThrownBy(ladder::apply).hasMessageContaining("gives its rows another ctid");
      return;
    }
    ladder.apply();
    assertThat(database.query("SELECT count(*) FROM copied WHERE weight BETWEEN 100 AND 120"))
        .isEqualTo(database.query("SELECT count(*) FROM copied"));
    database.execute("CREATE TABLE bare (code varchar(9) NOT NULL PRIMARY KEY) WITHOUT ROWID");
    ladder.file(
        "rungs/0004-bare.sql", "--| in-batches-of: 3 by rowid\n--| up\nDELETE FROM bare;\n");
    assertThatThrownBy(ladder::apply).hasMessageContaining("bare has no column rowid");
  }

  @ParameterizedTest
  @EnumSource
  void replicasAreWaitedForWhereTheServerShowsThem(Kind kind) {
    on(kind, "id");
    long before = Long.parseLong(sum());
    ladder.file(
        "rungs/0002-weights.sql",
        "--| in-batches-of: 10 by id\n--| replicas-within: 2s\n--| up\n" + UP + ";\n");
    if (kind == Kind.POSTGRES) {
      ladder.apply();
      assertThat(Long.parseLong(sum())).isEqualTo(before + 53);
    } else {
      assertThatThrownBy(ladder::apply)
          .hasMessageContaining("does not show how far its replicas are behind");
      assertThat(batchesDone()).isZero();
    }
  }

  /** Ends the run at the n-th batch: before it runs, or once it is committed. */
  private static RunListener cut(int at, boolean committed) {
    AtomicInteger batch = new AtomicInteger();
    return new RunListener() {
      @Override
      public void statementStarted(Step step, Statement statement) {
        if (!committed && batch.incrementAndGet() == at) {
          throw new IllegalStateException("cut");
        }
      }

      @Override
      public void batchDone(Step step, long done, long total) {
        if (committed && batch.incrementAndGet() == at) {
          throw new IllegalStateException("cut");
        }
      }
    };
  }

  @ParameterizedTest
  @EnumSource
  void aRunThatIsCutGoesOnWhereItWas(Kind kind) {
    for (int at = 1; at <= 3; at += 2) {
      on(kind, "code");
      long before = Long.parseLong(sum());
      RunListener before1 = cut(at, false);
      RunListener after1 = cut(1, true);
      assertThatThrownBy(() -> apply(before1)).hasMessage("cut");
      assertThatThrownBy(() -> apply(after1)).hasMessage("cut");
      assertThat(ladder.open().status(Optional.of("dev")).toString()).contains("STUCK");
      ladder.apply();
      assertThat(Long.parseLong(sum())).as("cut at " + at).isEqualTo(before + 53);
      ladder.delete("rungs/0002-weights.sql");
      if (kind == Kind.SQLITE || kind == Kind.H2) {
        return;
      }
    }
  }

  @ParameterizedTest
  @EnumSource(names = {"POSTGRES", "MARIADB", "SQLITE"})
  void anotherSessionEndsARunBehindItsBatch(Kind kind) {
    on(kind, "id");
    long before = Long.parseLong(sum());
    RunListener asking =
        new RunListener() {
          @Override
          public void batchDone(Step step, long done, long total) {
            if (done == 20) {
              try (Ladder other = ladder.open()) {
                other.askToStop(Optional.of("dev"));
              }
            }
          }
        };
    assertThat(apply(asking).stopped()).isTrue();
    assertThat(batchesDone()).isEqualTo(2);
    assertThat(Long.parseLong(sum())).isEqualTo(before + 20);
    assertThat(ladder.open().history(Optional.of("dev")).history().entries())
        .last()
        .satisfies(entry -> assertThat(entry.event()).isEqualTo(Event.BATCHES_STOPPED));
    assertThatThrownBy(() -> ladder.open().askToStop(Optional.of("dev")))
        .isInstanceOf(RefusedException.class)
        .hasMessageContaining("no run is changing dev");
    ladder.file(
        "rungs/0002-weights.sql", ladder.text("rungs/0002-weights.sql").replace("1000", "9"));
    assertThatThrownBy(ladder::apply).hasMessageContaining("its file was edited since");
    batches("10 by id", UP);
    ladder.apply();
    assertThat(Long.parseLong(sum())).isEqualTo(before + 53);
  }

  @ParameterizedTest
  @EnumSource
  void aBatchThatFailsLeavesThoseBeforeIt(Kind kind) {
    on(kind, "id");
    database.execute("CREATE UNIQUE INDEX one ON bin (note)");
    batches("10 by id", "UPDATE bin SET note = CASE WHEN id = 25 THEN 1 ELSE id END");
    assertThatThrownBy(ladder::apply)
        .isInstanceOf(StatementFailedException.class)
        .hasMessageContaining("0002 failed on dev");
    assertThat(database.query("SELECT count(*) FROM bin WHERE note IS NOT NULL"))
        .containsExactly("20");
    database.execute("UPDATE bin SET note = NULL WHERE id = 1");
    ladder.apply();
    assertThat(database.query("SELECT count(*) FROM bin WHERE note IS NOT NULL"))
        .containsExactly("52");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "UPDATE bin SET id = id + 1 | it changes its own key, id",
        "DELETE FROM bin ORDER BY id LIMIT 5 | its ORDER is about all rows",
        "INSERT INTO copied SELECT code, 1 FROM bin GROUP BY code | its GROUP",
        "INSERT INTO copied SELECT a.code, b.weight FROM bin a, bin b | it reads several tables",
        "INSERT INTO copied VALUES ('a', 1) | it names no table",
        "INSERT INTO copied SELECT 'all', count(*) FROM bin | its COUNT is about all rows",
        "UPDATE bin AS b SET weight = 1, \"id\" = 2 | it changes its own key, id",
        "CREATE TABLE x (id integer) | it begins with CREATE",
        "UPDATE bin SET weight = 1; UPDATE bin SET weight = 2 | has one statement",
        "UPDATE seen SET weight = 2 | seen is no table here",
        "DELETE FROM nothing | nothing is no table here"
      })
  void whatCannotRunInBatchesIsRefusedBeforeAnyRuns(String up, String reason) {
    on(Kind.SQLITE, "id");
    batches("10 by id", up);
    assertThatThrownBy(ladder::apply).hasMessageContaining(reason);
    assertThat(batchesDone()).isZero();
  }

  @Test
  void aKeyThatIsNotThereOrMayBeMissingIsRefused() {
    on(Kind.SQLITE, "note");
    assertThatThrownBy(ladder::apply).hasMessageContaining("rows without note would be left out");
    batches("10 by no_such", UP);
    assertThatThrownBy(ladder::apply).hasMessageContaining("bin has no column no_such");
    batches("many by id", UP);
    assertThatThrownBy(ladder::apply).hasMessageContaining("'many by id' says no batches");
    ladder.file(
        "rungs/0002-weights.sql",
        "--| in-batches-of: 5 by id\n--| when: table bin exists\n--| up\n" + UP + ";\n");
    assertThatThrownBy(ladder::apply).hasMessageContaining("has no condition");
    batches("10 by id", UP);
    assertThatThrownBy(
            () ->
                ladder
                    .open()
                    .apply(
                        Optional.of("dev"),
                        ApplyOptions.builder().together(true).build(),
                        TestLadder.YES,
                        RunListener.SILENT))
        .hasMessageContaining("0002 runs in batches, so it cannot be part of one for all");
  }
}
