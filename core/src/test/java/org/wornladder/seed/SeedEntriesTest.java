package org.wornladder.seed;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;
import org.wornladder.ProjectException;
import org.wornladder.PullApproval;
import org.wornladder.PullOptions;
import org.wornladder.PulledSeed;
import org.wornladder.SeedApproval;
import org.wornladder.SeedListener;
import org.wornladder.SeedOptions;
import org.wornladder.SeedResult;
import org.wornladder.SeedRunResult;
import org.wornladder.TestLadder;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/** What the entries under {@code seeds:} and the rows of a file may leave open. */
class SeedEntriesTest {
  @TempDir Path root;
  private TestDatabase database;
  private TestLadder ladder;

  private void on(Kind kind) {
    database = TestDatabase.make(kind, root);
    ladder = TestLadder.on(database, root);
    database.execute(
        "CREATE TABLE bin (id "
            + kind.identity()
            + ", code varchar(8) NOT NULL UNIQUE, weight integer DEFAULT 7 NOT NULL,"
            + " note varchar(20) DEFAULT 'none', colour varchar(9))");
  }

  private void seeds(String yaml) {
    ladder.settings(database, " }\n  other: { url: 'jdbc:sqlite:data/other.db'");
    ladder.file("ladder.yaml", ladder.text("ladder.yaml") + "seeds:\n" + yaml.indent(2));
  }

  private SeedRunResult seed(SeedOptions options) {
    return ladder
        .open()
        .seed(
            Optional.of("dev"), options, SeedApproval.given(Optional.empty()), SeedListener.SILENT);
  }

  private List<String> counts() {
    return seed(SeedOptions.ALL).results().stream().map(one -> one.counts().text()).toList();
  }

  private List<String> bins() {
    return database.query(
        "SELECT concat(code, ' ', weight, ' ', coalesce(note, '-'), ' ', coalesce(colour, '-'))"
            + " FROM bin ORDER BY code");
  }

  @ParameterizedTest
  @EnumSource
  void aRowMayLeaveOutWhatHasADefault(Kind kind) {
    on(kind);
    for (String form : List.of("json", "yaml")) {
      database.execute("DELETE FROM bin");
      seeds("- { table: bin, key: [code], rows: seeds/bin." + form + " }");
      ladder.file(
          "seeds/bin." + form,
          """
          [ {"code": "A", "weight": 1, "note": null, "colour": "red"},
            {"code": "B", "note": "x"},
            {"code": "C", "colour": "blue", "weight": 3} ]
          """);
      assertThat(counts()).containsExactly("3 added");
      assertThat(bins()).containsExactly("A 1 - red", "B 7 x -", "C 3 none blue");
      assertThat(counts()).containsExactly("3 unchanged");
      database.execute(
          "UPDATE bin SET weight = 9 WHERE code = 'B'",
          "UPDATE bin SET note = 'ours', colour = 'green' WHERE code = 'C'",
          "UPDATE bin SET colour = 'black' WHERE code = 'B'");
      SeedRunResult look = seed(new SeedOptions(List.of(), true, 9));
      assertThat(look.results().get(0).changes())
          .allSatisfy(change -> assertThat(change.fields()).hasSize(1));
      assertThat(counts()).containsExactly("2 updated, 1 unchanged");
      assertThat(bins())
          .as("the file says nothing of a left-out default; without one it says NULL")
          .containsExactly("A 1 - red", "B 9 x -", "C 3 ours blue");
      List<PulledSeed> pulled =
          ladder
              .open()
              .pull(Optional.of("dev"), new PullOptions(List.of("bin"), false), PullApproval.GIVEN);
      assertThat(pulled).allMatch(PulledSeed::isQuiet);
    }
  }

  @ParameterizedTest
  @EnumSource
  void aKeyOrAColumnWithoutADefaultIsNotLeftOut(Kind kind) {
    on(kind);
    seeds("- { table: bin, key: [code], rows: seeds/bin.json }");
    ladder.file("seeds/bin.json", "[{\"code\": \"A\", \"weight\": 1}, {\"weight\": 2}]");
    assertThatThrownBy(() -> seed(SeedOptions.ALL))
        .isInstanceOf(ProjectException.class)
        .hasMessageContaining("column code: there is no value");
    ladder.file("seeds/bin.json", "[{\"code\": \"A\", \"weight\": null}]");
    assertThatThrownBy(() -> seed(SeedOptions.ALL))
        .hasMessageContaining("column weight: there is no value");
  }

  @ParameterizedTest
  @EnumSource
  void aTableHasReferenceRowsAndMadeUpRowsAndFilesByEnvironment(Kind kind) {
    on(kind);
    seeds(
        """
        - { table: bin, key: [code], rows: "seeds/bin-@{environment}.csv", only-in: [dev] }
        - { table: bin, key: [code], rows: seeds/bin-of-live.csv, only-in: [other] }
        - { table: bin, key: [code], rows: seeds/bin.sample.yaml }
        """);
    ladder.file("seeds/bin-dev.csv", "code,weight\nB-1,1\nB-2,2\n");
    ladder.file(
        "seeds/bin.sample.yaml",
        "rows: 8\ncolumns:\n  code: { pattern: \"B-#\" }\n  weight: { between: [10, 20] }\n");
    assertThat(counts()).containsExactly("2 added", "8 added");
    assertThat(bins()).hasSize(10).contains("B-1 1 none -", "B-2 2 none -");
    assertThat(counts()).containsExactly("2 unchanged", "8 unchanged");
    ladder.file("seeds/bin-dev.csv", "code,weight\nB-1,1\nB-2,3\n");
    assertThat(counts()).containsExactly("1 updated, 1 unchanged", "8 unchanged");
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "{ table: bin }|{ table: bin, only-in: [dev] }|bin is seeded twice",
        "{ table: bin, only-in: [dev, other] }|{ table: bin, only-in: [other] }|bin is seeded twice",
        "{ table: bin, extra: delete }|{ table: bin, rows: seeds/b.sample.yaml }|extra: delete",
        "{ table: bin, rows: 'seeds/@{season}.csv' }|{ table: variety }|another value"
      })
  void entriesThatMeetAreRefused(String first, String second, String words) {
    on(Kind.SQLITE);
    seeds("- " + first + "\n- " + second);
    assertThatThrownBy(() -> seed(SeedOptions.ALL))
        .isInstanceOfSatisfying(
            ProjectException.class, e -> assertThat(e.problems().toString()).contains(words));
  }

  @ParameterizedTest
  @EnumSource
  void whereRungsAreLeftOnlySeedsOfTablesThatAreThereAreMeant(Kind kind) {
    on(kind);
    seeds("- { table: bin, key: [code] }\n- table: variety\n- sql: seeds/season.sql");
    ladder.file("seeds/bin.csv", "code\nA\n");
    ladder.file("seeds/variety.csv", "id\n1\n");
    ladder.file("seeds/season.sql", "DELETE FROM variety;");
    SeedRunResult result = seed(SeedOptions.FITTING);
    assertThat(result.results()).extracting(SeedResult::label).containsExactly("bin");
    assertThat(result.leftOut()).containsExactly("variety", "seeds/season.sql");
    assertThat(bins()).hasSize(1);
  }

  @ParameterizedTest
  @EnumSource
  void rowsAreFoundUnchangedInAnyOrder(Kind kind) {
    on(kind);
    seeds("- { table: bin, key: [code], extra: delete }");
    List<String> rows = new ArrayList<>();
    for (int i = 0; i < 50; i++) {
      rows.add("C" + i + "," + i + ",note " + i + ",red");
    }
    csv(rows);
    assertThat(counts()).containsExactly("50 added");
    for (int seed = 0; seed < 5; seed++) {
      Collections.shuffle(rows, new Random(seed));
      csv(rows);
      assertThat(counts()).as("order " + seed).containsExactly("50 unchanged");
    }
    database.execute("UPDATE bin SET weight = 99 WHERE code = 'C9'");
    assertThat(counts()).containsExactly("1 updated, 49 unchanged");
    database.execute("INSERT INTO bin (code) VALUES ('D')");
    assertThat(counts()).containsExactly("1 deleted, 50 unchanged");
    rows.add(rows.get(20));
    csv(rows);
    assertThatThrownBy(this::counts).hasMessageContaining("occurs here again");
    rows.subList(10, 51).clear();
    csv(rows);
    assertThat(counts()).containsExactly("40 deleted, 10 unchanged");
  }

  private void csv(List<String> rows) {
    ladder.file("seeds/bin.csv", "code,weight,note,colour\n" + String.join("\n", rows) + "\n");
  }
}
