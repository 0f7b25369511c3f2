package org.wornladder.project;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.wornladder.Ladder;
import org.wornladder.TestLadder;

/** For what engine files are examined, where urls hold variables. */
class CheckedEngineTest {
  private static final String NOT_EXAMINED = "it is not known for what engine the scripts are";

  @TempDir Path root;

  private TestLadder ladder(String url) {
    return new TestLadder(root)
        .file("ladder.yaml", "name: hollowfield\nenvironments:\n  dev: { url: '" + url + "' }\n")
        .rung("0001-bin", "CREATE TABLE bin (id int);\nCOMMIT;", "DROP TABLE bin;");
  }

  private List<String> found(Map<String, String> variables) {
    return Ladder.check(root, variables).problems().stream().map(Problem::message).toList();
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "${BINS} | BINS | jdbc:sqlite:dev.db",
        "${BINS} | BINS | jdbc:postgresql://db.hollowfield.example/harvest",
        "${BINS} | BINS | jdbc:mariadb://db.hollowfield.example/harvest",
        "${BINS} | BINS | jdbc:h2:./dev",
        "${KIND}:dev.db | KIND | jdbc:sqlite",
        "jdbc:postgresql://${HOST}/harvest | OTHER | x",
      })
  void statementsAreExaminedAsTheEngineOfTheUrlReadsThem(String url, String name, String value) {
    ladder(url);
    assertThat(found(Map.of(name, value)))
        .anySatisfy(message -> assertThat(message).contains("COMMIT"))
        .noneSatisfy(message -> assertThat(message).contains(NOT_EXAMINED));
  }

  @Test
  void variablesOfTheProjectsFileCount() {
    ladder("${BINS}").file(".env", "BINS=jdbc:sqlite:dev.db\n");
    assertThat(found(Map.of())).anySatisfy(message -> assertThat(message).contains("COMMIT"));
  }

  @Test
  void whereNoEngineIsKnownThatIsSaid() {
    ladder("${BINS}");
    assertThat(Ladder.check(root, Map.of()).problems())
        .singleElement()
        .satisfies(
            problem -> {
              assertThat(problem.isError()).isFalse();
              assertThat(problem.message()).startsWith(NOT_EXAMINED);
              assertThat(problem.place().toString()).isEqualTo("ladder.yaml:3:15");
            });
  }

  @Test
  void sectionsForAnEngineThatNoUrlSaysAreNamed() {
    new TestLadder(root)
        .file(
            "ladder.yaml",
            "name: hollowfield\nenvironments:\n  dev: { url: 'jdbc:sqlite:dev.db' }\n"
                + "  live: { url: '${BINS}' }\n")
        .file(
            "rungs/0001-bin.sql",
            "--| up on sqlite\nCREATE TABLE bin (id int);\n--| up on postgres\nCREATE TABLE 'bin\n"
                + "--| down\nDROP TABLE bin;\n");
    assertThat(found(Map.of()))
        .containsExactly(
            "statements on postgres were not examined: the url of live holds a variable that is"
                + " not set");
    assertThat(found(Map.of("BINS", "jdbc:postgresql://db.hollowfield.example/harvest")))
        .containsExactly("this string is never ended");
    assertThat(found(Map.of("BINS", "jdbc:sqlite:live.db"))).isEmpty();
  }
}
