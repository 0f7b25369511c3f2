package org.wornladder.seed;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Stream;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.wornladder.ProjectException;
import org.wornladder.PullApproval;
import org.wornladder.PullOptions;
import org.wornladder.PulledSeed;
import org.wornladder.RefusedException;
import org.wornladder.SeedApproval;
import org.wornladder.SeedListener;
import org.wornladder.SeedOptions;
import org.wornladder.TestLadder;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/** Rows that stand in a database, on their way back to their files. */
class SeedPullTest {
  @TempDir Path root;
  private TestDatabase database;
  private TestLadder ladder;

  private void on(Kind kind) {
    database = TestDatabase.make(kind, root);
    ladder = TestLadder.on(database, root);
    database.execute(
        "CREATE TABLE grade (code varchar(8) NOT NULL PRIMARY KEY, name varchar(40))",
        "CREATE TABLE variety (id integer NOT NULL PRIMARY KEY, name varchar(40) UNIQUE,"
            + " grade_code varchar(8), weight decimal(8,2), early boolean,"
            + " FOREIGN KEY (grade_code) REFERENCES grade (code))",
        "INSERT INTO grade VALUES ('A', 'First'), ('B', 'Second')",
        "INSERT INTO variety VALUES (1, 'Keeper', 'A', 1.25, " + truth() + ")",
        "INSERT INTO variety VALUES (2, 'Mill, \"old\"', NULL, NULL, NULL)",
        "INSERT INTO variety VALUES (3, 'Late Gold', 'B', 2.50, " + truth() + ")");
    seeds("grade", "{ table: variety, key: [name] }");
  }

  private String truth() {
    return database.kind() == Kind.SQLITE ? "1" : "true";
  }

  private void seeds(String... entries) {
    StringBuilder settings = new StringBuilder();
    for (String entry : entries) {
      settings.append(entry.startsWith("{") ? entry : "{ table: " + entry + " }").append(", ");
    }
    ladder.settings(database, "");
    ladder.file("ladder.yaml", ladder.text("ladder.yaml") + "seeds: [" + settings + "]\n");
  }

  private List<PulledSeed> pull(boolean dryRun, String... tables) {
    return ladder
        .open()
        .pull(Optional.of("dev"), new PullOptions(List.of(tables), dryRun), PullApproval.GIVEN);
  }

  private void pull(String... tables) {
    ladder
        .open()
        .pull(Optional.of("dev"), new PullOptions(List.of(tables), false), PullApproval.GIVEN);
  }

  private boolean isQuiet() {
    return ladder
        .open()
        .seed(
            Optional.of("dev"),
            SeedOptions.ALL,
            SeedApproval.given(Optional.empty()),
            SeedListener.SILENT)
        .isQuiet();
  }

  @ParameterizedTest
  @EnumSource
  void aNewFileHasAllColumnsByTheKey(Kind kind) {
    on(kind);
    pull("grade", "variety");
    assertThat(ladder.text("seeds/grade.csv").toLowerCase(Locale.ROOT))
        .isEqualTo("code,name\na,first\nb,second\n");
    assertThat(ladder.text("seeds/variety.csv").lines().toList())
        .hasSize(4)
        .anyMatch(line -> line.startsWith("2,\"Mill, \"\"old\"\"\",,,"));
    assertThat(isQuiet()).isTrue();
  }

  @ParameterizedTest
  @EnumSource
  void aFileKeepsItsColumnsItsOrderAndItsTexts(Kind kind) {
    on(kind);
    pull("grade");
    ladder.file(
        "seeds/variety.csv",
        "name,grade.name,weight\nLate Gold,Second,2.5\nGone,First,1\nKeeper,First,01.250\n");
    database.execute("UPDATE variety SET weight = 3 WHERE name = 'Keeper'");
    pull("grade", "variety");
    List<String> lines = ladder.text("seeds/variety.csv").lines().toList();
    assertThat(lines.get(0)).isEqualTo("name,grade.name,weight");
    assertThat(lines.get(1)).as("as it was written").isEqualTo("Late Gold,Second,2.5");
    assertThat(lines.get(2)).matches("Keeper,First,3(\\.00)?");
    assertThat(lines.get(3)).isEqualTo("\"Mill, \"\"old\"\"\",,");
    assertThat(lines).hasSize(4);
  }

  @ParameterizedTest
  @EnumSource
  void otherFormsStayWhatTheyAre(Kind kind) {
    on(kind);
    pull("grade");
    for (String ending : List.of(".json", ".yaml")) {
      String file = "seeds/sorts" + ending;
      seeds("grade", "{ table: variety, rows: " + file + " }");
      pull("variety");
      assertThat(ladder.text(file)).contains("Late Gold", "1.25", "true", "null");
      assertThat(isQuiet()).as(ladder.text(file)).isTrue();
    }
  }

  @ParameterizedTest
  @EnumSource
  void whatCannotBeReadLeavesTheFileAsItWas(Kind kind) {
    on(kind);
    String wrong = "name,colour\nKeeper,red\n";
    ladder.file("seeds/variety.csv", wrong);
    assertThatThrownBy(() -> pull("variety"))
        .isInstanceOf(ProjectException.class)
        .hasMessageContaining("no column colour");
    assertThat(ladder.text("seeds/variety.csv")).isEqualTo(wrong);
    seeds("nowhere", "{ sql: seeds/x.sql }");
    assertThatThrownBy(() -> pull("nowhere")).isInstanceOf(ProjectException.class);
    assertThatThrownBy(() -> pull("seeds/x.sql"))
        .isInstanceOf(ProjectException.class)
        .hasMessageContaining("no rows of its own");
    assertThat(Files.exists(root.resolve("seeds/nowhere.csv"))).isFalse();
  }

  @ParameterizedTest
  @EnumSource
  void rowsThatDidNotChangeKeepTheirTextInEveryForm(Kind kind) {
    on(kind);
    pull("grade");
    seeds("grade", "{ table: variety, key: [name], rows: seeds/sorts.yaml }");
    ladder.file(
        "seeds/sorts.yaml",
        """
        # What the orchard grows.
        - name: Late Gold      # the last to ripen
          grade.name: "Second"
          weight: 2.5
        - {name: Keeper, grade.name: First, weight: 01.250}  # keeps until May
        - name: Gone
          grade.name: First
          weight: 1
        """);
    database.execute("UPDATE variety SET weight = 3 WHERE name = 'Late Gold'");
    assertThat(pull(true, "grade", "variety"))
        .containsExactly(
            new PulledSeed("seeds/grade.csv", 0, 0, 0, 2),
            new PulledSeed("seeds/sorts.yaml", 1, 1, 1, 1));
    assertThat(ladder.text("seeds/sorts.yaml")).contains("weight: 2.5", "name: Gone");
    pull("grade", "variety");
    assertThat(ladder.text("seeds/sorts.yaml").replace("3.00", "3"))
        .isEqualTo(
            """
            # What the orchard grows.
            - name: Late Gold      # the last to ripen
              grade.name: "Second"
              weight: 3
            - {name: Keeper, grade.name: First, weight: 01.250}  # keeps until May
            - name: Mill, "old"
              grade.name: null
              weight: null
            """);
    assertThat(pull(true, "variety")).allMatch(PulledSeed::isQuiet);
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "csv code,name\nA,First\nB,Sekond\n",
        "json [{\"code\": \"A\", \"name\": \"First\"}, {\"code\": \"B\", \"name\": \"Sekond\"}]\n",
        "yaml - { code: A, name: First }\n- { code: B, name: Sekond }\n"
      })
  void anEditorsMarkInFrontOfAFileStays(String form) {
    on(Kind.SQLITE);
    String text = "\uFEFF" + form.substring(form.indexOf(' ') + 1);
    String file = "seeds/grade." + form.substring(0, form.indexOf(' '));
    ladder.file(file, text);
    seeds("grade");
    pull("grade");
    assertThat(ladder.text(file)).isEqualTo(text.replace("Sekond", "Second"));
    assertThat(isQuiet()).isTrue();
  }

  @ParameterizedTest
  @EnumSource
  void severalTablesAreAllOrNothing(Kind kind) throws IOException {
    on(kind);
    pull("grade");
    String grades = ladder.text("seeds/grade.csv");
    database.execute("UPDATE grade SET name = 'Best' WHERE code = 'A'");
    ladder.file("seeds/variety.csv", "name,colour\nKeeper,red\n");
    assertThatThrownBy(() -> pull("grade", "variety")).isInstanceOf(ProjectException.class);
    assertThat(ladder.text("seeds/grade.csv")).isEqualTo(grades);
    PullApproval never =
        files -> {
          throw RefusedException.of("not now", files.get(0).file(), "");
        };
    assertThatThrownBy(
            () ->
                ladder
                    .open()
                    .pull(Optional.of("dev"), new PullOptions(List.of("grade"), false), never))
        .isInstanceOf(RefusedException.class);
    assertThat(ladder.text("seeds/grade.csv")).isEqualTo(grades);
    try (Stream<Path> files = Files.list(root.resolve("seeds"))) {
      assertThat(files.map(file -> file.getFileName().toString()))
          .containsExactlyInAnyOrder("grade.csv", "variety.csv");
    }
  }

  @ParameterizedTest
  @EnumSource
  void listsMapsAndNumbersKeepTheirTypes(Kind kind) {
    on(kind);
    // SQLite has no JSON type.
    String json = kind == Kind.SQLITE ? "text" : kind == Kind.POSTGRES ? "jsonb" : "json";
    String value = "'{\"low\": 5, \"sizes\": [1, 2.50]}'" + (kind == Kind.H2 ? " FORMAT JSON" : "");
    database.execute(
        "CREATE TABLE bin (id integer NOT NULL PRIMARY KEY, facts " + json + ", flag varchar(5))",
        "INSERT INTO bin VALUES (7, " + value + ", '12')");
    for (String ending : List.of(".json", ".yaml")) {
      String file = "seeds/bins" + ending;
      seeds("{ table: bin, rows: " + file + " }");
      pull("bin");
      assertThat(bare(file)).containsAnyOf("id:7", "\"id\":7").containsAnyOf("'12'", "\"12\"");
      if (kind == Kind.POSTGRES || kind == Kind.H2) {
        assertThat(bare(file)).containsAnyOf("facts:{low:5,", "\"facts\":{\"low\":5,");
      }
      assertThat(isQuiet()).as(ladder.text(file)).isTrue();
      ladder.file(file, "[{\"id\": 7, \"facts\": {\"low\": 1}}]\n");
      pull("bin");
      if (kind == Kind.POSTGRES || kind == Kind.H2) {
        assertThat(bare(file)).contains("\"facts\":{").containsAnyOf("low:5", "\"low\":5");
      }
      assertThat(isQuiet()).as(ladder.text(file)).isTrue();
    }
  }

  private String bare(String file) {
    return ladder.text(file).replaceAll("\\s+", "").toLowerCase(Locale.ROOT);
  }
}
