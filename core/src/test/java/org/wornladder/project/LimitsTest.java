package org.wornladder.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.condition.EnabledOnOs;
import org.junit.jupiter.api.condition.OS;
import org.junit.jupiter.api.io.TempDir;
import org.wornladder.Ladder;
import org.wornladder.LadderException;
import org.wornladder.ProjectException;
import org.wornladder.SeedOptions;
import org.wornladder.TestLadder;

/** Input that no project has: each is refused with words, in a moment. */
@Timeout(60)
class LimitsTest {
  private static final Optional<String> DEV = Optional.of("dev");

  @TempDir Path root;

  private List<String> problems(String settings) {
    new TestLadder(root).file("ladder.yaml", settings);
    return Ladder.check(root).problems().stream().map(Problem::message).toList();
  }

  private static String environments(String first, String more) {
    return "name: hollowfield\nenvironments:\n  dev: { " + first + " }\n" + more;
  }

  @Test
  void mapsNestedThousandsDeep() {
    String nested = "{ a: ".repeat(5000) + "1" + " }".repeat(5000);
    assertThat(problems("name: hollowfield\nenvironments: " + nested))
        .anyMatch(found -> found.contains("this is not YAML"));
  }

  @Test
  void aTextOfManyMegabytes() {
    assertThat(problems("name: " + "x".repeat(30_000_000)))
        .containsExactly("these are more than 1 MB of settings");
  }

  @Test
  void aJournalWithoutAName() {
    assertThat(problems(environments("url: 'jdbc:sqlite:dev.db'", "journal: { table: '' }\n")))
        .containsExactly("the journal's table has no name");
  }

  @Test
  void promotionsInARing() {
    assertThat(problems(environments("url: 'jdbc:sqlite:dev.db', promoted-from: dev", "")))
        .containsExactly("promoted-from leads in a ring: dev from dev");
    assertThat(
            problems(
                environments(
                    "url: 'jdbc:sqlite:dev.db', promoted-from: test",
                    "  test: { url: 'jdbc:sqlite:test.db', promoted-from: dev }\n")))
        .containsExactly(
            "promoted-from leads in a ring: dev from test from dev",
            "promoted-from leads in a ring: test from dev from test");
  }

  /** Every engine's URL with every part of it broken; a driver's own exceptions included. */
  @Test
  void brokenUrls() {
    List<String> parts =
        List.of(
            "%zz",
            ":",
            ":abc/x",
            ":-1/x",
            ":99999/x",
            ":9:1/x",
            "[::1/x",
            "[zz]/x",
            "?",
            "?x=%",
            "?=",
            ";",
            ";MODE=",
            ";IFEXISTS",
            "#",
            "//",
            "///",
            "@/x",
            "u%zz:p@h/x",
            "u:p%@h/x",
            "h/x?user=%zz",
            "a,b:-2/x",
            " ",
            "\\",
            "h/%00",
            "h/%2e%2e/x",
            "(host=h)(port=z)/x");
    for (String start :
        List.of(
            "jdbc:postgresql:",
            "jdbc:postgresql://",
            "postgres://",
            "jdbc:mariadb:",
            "jdbc:mariadb://",
            "mariadb://",
            "jdbc:sqlite:",
            "jdbc:h2:",
            "jdbc:h2:tcp:",
            "jdbc:h2:tcp://",
            "jdbc:",
            "")) {
      for (String part : parts) {
        String url = (start + part).replace("'", "''");
        TestLadder project =
            new TestLadder(root).file("ladder.yaml", environments("url: '" + url + "'", ""));
        try {
          project.open().status(DEV);
        } catch (LadderException e) {
          assertThat(e.getMessage()).as(url).isNotEmpty();
        } catch (RuntimeException e) {
          throw new AssertionError(url, e);
        }
      }
    }
  }

  @Test
  void aHeaderWithAHundredThousandColumns() {
    TestLadder project = new TestLadder(root).tables(1);
    project.file(
        "ladder.yaml", environments("url: 'jdbc:sqlite:dev.db'", "seeds: [{ table: bin_1 }]\n"));
    project.file(
        "seeds/bin_1.csv",
        IntStream.range(0, 100_000).mapToObj(i -> "c" + i).collect(Collectors.joining(",")));
    assertThat(Ladder.check(root).problems())
        .extracting(Problem::message)
        .containsExactly("the header has 100000 columns, which no table has");
    project.apply();
    assertThatThrownBy(() -> project.open().seed(DEV, SeedOptions.ALL))
        .isInstanceOf(ProjectException.class)
        .hasMessage("the header has 100000 columns, which no table has");
  }

  @Test
  @EnabledOnOs(OS.LINUX)
  void pipesInThePlacesOfFiles() throws IOException, InterruptedException {
    TestLadder project = new TestLadder(root).tables(1);
    project
        .file("seeds/readme.txt", "")
        .file(
            "ladder.yaml",
            environments("url: 'jdbc:sqlite:dev.db'", "seeds: [{ table: bin_1 }]\n"));
    for (String file : List.of("rungs/0002-pipe.sql", "seeds/bin_1.csv", ".env")) {
      assertThat(new ProcessBuilder("mkfifo", root.resolve(file).toString()).start().waitFor())
          .isZero();
    }
    assertThat(Ladder.check(root).problems())
        .extracting(problem -> problem.place() + " " + problem.message())
        .contains(
            "rungs/0002-pipe.sql this is no plain file, but a pipe or a device",
            "seeds/bin_1.csv this is no plain file, but a pipe or a device");
  }
}
