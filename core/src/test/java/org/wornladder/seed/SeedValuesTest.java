package org.wornladder.seed;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.wornladder.CheckReport.Finding;
import org.wornladder.ProjectException;
import org.wornladder.SeedOptions;
import org.wornladder.TestLadder;
import org.wornladder.project.Problem;
import org.wornladder.server.TestDatabase;
import org.wornladder.server.TestDatabase.Kind;

/** Values that no column can take are refused before anything is written, all of them at once. */
class SeedValuesTest {
  private static final Optional<String> DEV = Optional.of("dev");

  @TempDir Path root;
  private TestLadder project;

  private void on(Kind kind, String file) {
    TestDatabase database = TestDatabase.make(kind, root);
    project =
        TestLadder.on(database, root)
            .rung(
                "0001-bins",
                "CREATE TABLE bin (id integer NOT NULL PRIMARY KEY, weight decimal(8,2), full_up"
                    + " boolean, packed date, note varchar(20));",
                "DROP TABLE bin;");
    project.file(
        "ladder.yaml",
        "name: hollowfield\nenvironments:\n  dev: { url: '"
            + database.url()
            + "' }\nseeds:\n  - table: bin\n    rows: seeds/"
            + file
            + "\n");
    project.apply();
  }

  private List<String> refused() {
    try {
      project.open().seed(DEV, SeedOptions.ALL);
      return List.of();
    } catch (ProjectException e) {
      return e.problems().stream().map(Problem::message).toList();
    }
  }

  @ParameterizedTest
  @EnumSource(Kind.class)
  void allWrongValuesOfAFileAreSaidTogether(Kind kind) {
    on(kind, "bin.csv");
    project.file(
        "seeds/bin.csv",
        """
        id,weight,full_up,packed
        1,1.2345e1,true,2026-08-10
        2,NaN,yes,2026-02-30
        x,12345e-2,0,2026-08-11
        """);
    assertThat(refused())
        .containsExactly(
            "column weight: the column keeps 2 digits behind the point, and here are more:"
                + " '1.2345e1'",
            "column weight: this is not a number: 'NaN'",
            "column full_up: this is not a truth value: write true or false: 'yes'",
            "column packed: this is not a date such as 2026-08-31: '2026-02-30'",
            "column id: this is not a whole number: 'x'");
    assertThat(project.open().checkAgainst(DEV, Optional.empty()).findings())
        .extracting(Finding::what)
        .containsExactlyElementsOf(refused());
  }

  @ParameterizedTest
  @EnumSource(Kind.class)
  void jsonIsOneArrayInUtf8(Kind kind) throws IOException {
    on(kind, "bin.json");
    project.file("seeds/bin.json", "[{\"id\": 1, \"note\": \"\\ud800\"}]");
    assertThat(refused()).singleElement().asString().contains("half a character");
    project.file("seeds/bin.json", "[{\"id\": 1}] {\"id\": 2}");
    assertThat(refused()).containsExactly("something stands behind the array");
    Files.write(root.resolve("seeds/bin.json"), "[{\"id\": 1}]".getBytes(StandardCharsets.UTF_16));
    assertThat(refused()).containsExactly("this is not UTF-8");
    project.file("seeds/bin.json", "[{\"id\": 1, \"weight\": 12345e-3}]");
    assertThatThrownBy(() -> project.open().seed(DEV, SeedOptions.ALL))
        .hasMessageContaining("here are more");
    project.file("seeds/bin.json", "[{\"id\": 1, \"weight\": 1234e-2}]");
    assertThat(refused()).isEmpty();
  }
}
