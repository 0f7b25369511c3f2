package org.wornladder.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Assumptions;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What a shell offers behind the word ladder. */
class CompletionIT {
  @TempDir Path folder;

  private String offered(String shell, String setUp, String words, int index) {
    Workspace work = new Workspace(folder);
    Assumptions.assumeTrue(
        work.run(List.of("sh", "-c", "command -v " + shell)).code() == 0, shell + " is not here");
    String script =
        """
        %s
        COMP_WORDS=(%s)
        COMP_CWORD=%d
        COMP_LINE="${COMP_WORDS[*]}"
        COMP_POINT=${#COMP_LINE}
        _ladder_complete
        echo "${COMPREPLY[@]}"
        """
            .formatted(setUp, words, index);
    return work.run(List.of(shell, "-c", script)).exits(0).out();
  }

  @Test
  void bashOffersCommandsAndOptions() {
    String setUp = "source '" + Workspace.DISTRIBUTION.resolve("completion/ladder.bash") + "'";
    assertThat(offered("bash", setUp, "ladder ro", 1))
        .contains("rollback")
        .doesNotContain("status");
    assertThat(offered("bash", setUp, "ladder rollback --fr", 2)).contains("--from-journal");
    assertThat(offered("bash", setUp, "ladder status --format ''", 3)).contains("text", "json");
  }

  @Test
  void bashKnowsTheProjectsNames() throws IOException {
    write(
        "ladder.yaml",
        """
        name: hollowfield
        environments:
          dev:
            url: jdbc:sqlite:data/dev.db
          "live":   # guarded
            url: jdbc:sqlite:data/live.db
        values:
          season: "2026"
        seeds:
          - table: grade
        """);
    write("rungs/0001-bins.sql", "--| up\nCREATE TABLE bin (id int);\n");
    write("rungs/0012-crates.sql", "--| up\ncreate table if not exists crate (id int);\n");
    String setUp =
        "cd '%s'; source '%s'"
            .formatted(folder, Workspace.DISTRIBUTION.resolve("completion/ladder.bash"));
    assertThat(words(setUp, "ladder apply ''", 2)).containsExactly("dev", "live");
    assertThat(words(setUp, "ladder apply l", 2)).containsExactly("live");
    assertThat(words(setUp, "ladder apply live --confirm ''", 4)).containsExactly("dev", "live");
    assertThat(words(setUp, "ladder rollback dev --to ''", 4)).containsExactly("0001", "0012");
    assertThat(words(setUp, "ladder settle dev 00", 3)).containsExactly("0001", "0012");
    assertThat(words(setUp, "ladder seed dev --pull ''", 4))
        .containsExactly("bin", "crate", "grade");
    assertThat(words(setUp, "ladder seed dev --only bin,g", 4)).containsExactly("bin,grade");
    assertThat(words(setUp, "ladder show --table cr", 3)).containsExactly("crate");
    assertThat(words(setUp, "ladder compare env:l", 2)).containsExactly("env:live");
    assertThat(words(setUp + "; cd /", "ladder apply ''", 2)).as("outside of a project").isEmpty();
  }

  private void write(String name, String text) throws IOException {
    Files.createDirectories(folder.resolve(name).getParent());
    Files.writeString(folder.resolve(name), text);
  }

  private List<String> words(String setUp, String words, int index) {
    String offered = offered("bash", setUp, words, index).strip();
    return offered.isEmpty() ? List.of() : List.of(offered.split("\\s+"));
  }

  @Test
  void everyManualPageHasAnExample() throws IOException {
    try (Stream<Path> pages = Files.list(Workspace.DISTRIBUTION.resolve("man/man1"))) {
      for (Path page : pages.toList()) {
        assertThat(Files.readString(page)).as(page.toString()).containsIgnoringCase("example");
      }
    }
  }

  @Test
  void zshReadsTheSameScript() {
    String setUp =
        "autoload -U +X compinit && compinit -u -D; source '"
            + Workspace.DISTRIBUTION.resolve("completion/ladder.zsh")
            + "'; whence -w _complete_ladder";
    Workspace work = new Workspace(folder);
    Assumptions.assumeTrue(
        work.run(List.of("sh", "-c", "command -v zsh")).code() == 0, "zsh is not here");
    assertThat(work.run(List.of("zsh", "-f", "-c", setUp)).exits(0).out())
        .contains("_complete_ladder: function");
  }
}
