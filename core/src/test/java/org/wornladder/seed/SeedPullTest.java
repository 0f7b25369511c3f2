package org.wornladder.seed;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.wornladder.ProjectException;
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

  private void pull(String... tables) {
    ladder.open().pull(Optional.of("dev"), List.of(tables));
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
}
