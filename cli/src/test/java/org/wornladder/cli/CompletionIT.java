package org.wornladder.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.util.List;
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
        _complete_ladder
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
