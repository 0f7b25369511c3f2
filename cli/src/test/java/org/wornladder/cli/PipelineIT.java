package org.wornladder.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.File;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.wornladder.cli.Workspace.Run;

/** The pipeline of the manual, step by step as its script runs it. */
class PipelineIT {
  private static final Path SCRIPT = Path.of("../docs/examples/pipeline.sh").toAbsolutePath();

  @TempDir Path folder;
  private Workspace work;

  private Run step(String name) {
    return work.run(List.of("sh", SCRIPT.toString(), name));
  }

  @Test
  void aChangeGoesFromItsPullRequestToLive() {
    work = Workspace.hollowfield(folder);
    work.variable(
        "PATH", Workspace.DISTRIBUTION.resolve("bin") + File.pathSeparator + System.getenv("PATH"));
    work.file(
        "ladder.yaml",
        work.text("ladder.yaml")
            .replace(
                "values:", "  ci: { url: jdbc:sqlite:data/ci.db, disposable: true }\nvalues:"));
    work.rung("0001-bins", "CREATE TABLE bin (code text);", "DROP TABLE bin;");
    for (String name : List.of("pull-request", "test", "live")) {
      step(name).exits(0);
    }
    assertThat(work.text("live.expected")).contains("bins");
    work.rung("0002-grades", "ALTER TABLE bin ADD COLUMN grade text;", "SELECT 1;");
    step("pull-request").exits(1);
    work.rung(
        "0002-grades",
        "ALTER TABLE bin ADD COLUMN grade text;",
        "ALTER TABLE bin DROP COLUMN grade;");
    step("pull-request").exits(0);
    assertThat(work.text("rehearsal.md")).contains("0002 grades | proved");
    step("live").exits(3).complains("not in place on test");
    step("nonsense").exits(2);
  }
}
