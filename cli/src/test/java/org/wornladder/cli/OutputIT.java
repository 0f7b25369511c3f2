package org.wornladder.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Assumptions;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What programs and terminals read. */
class OutputIT {
  @TempDir Path folder;
  private Workspace work;

  @BeforeEach
  void project() {
    work = Workspace.hollowfield(folder).tables(2);
  }

  private static JsonNode json(Workspace.Run run) {
    try {
      return new ObjectMapper().readTree(run.out());
    } catch (IOException e) {
      throw new AssertionError(run.out(), e);
    }
  }

  @Test
  void everyReportIsOneJsonObject() {
    JsonNode check = json(work.ladder("check", "--format", "json").exits(0));
    assertThat(check.get("good").asBoolean()).isTrue();
    assertThat(check.get("rungs").asInt()).isEqualTo(2);
    JsonNode preview = json(work.ladder("preview", "--format", "json").exits(0));
    JsonNode statement = preview.at("/steps/0/statements/1");
    assertThat(statement.get("sql").asText()).isEqualTo("INSERT INTO bin_1 VALUES (1)");
    assertThat(statement.get("line").asInt()).isEqualTo(3);
    assertThat(preview.at("/steps/0/decision/kind").asText()).isEqualTo("run");
    JsonNode apply = json(work.ladder("apply", "--format", "json").exits(0));
    assertThat(apply.get("at").asInt()).isEqualTo(2);
    assertThat(apply.at("/steps/1/result").asText()).isEqualTo("applied");
    assertThat(apply.at("/structure/0/kind").asText()).isEqualTo("table");
    assertThat(apply.at("/structure/0/added").asInt()).isEqualTo(2);
    JsonNode status = json(work.ladder("status", "--format", "json").exits(0));
    assertThat(status.at("/rungs/0/state").asText()).isEqualTo("in_place");
    assertThat(status.get("waiting").asInt()).isZero();
    JsonNode history = json(work.ladder("history", "--format", "json").exits(0));
    assertThat(history.get("entries")).hasSize(2);
    assertThat(history.get("chain_broken_at").isNull()).isTrue();
    assertThat(history.at("/entries/0/hash").asText()).hasSize(64);
    JsonNode show = json(work.ladder("show", "--format", "json").exits(0));
    assertThat(show.at("/tables/0/name").asText()).isEqualTo("bin_1");
    assertThat(show.at("/tables/0/rows").asInt()).isEqualTo(1);
    JsonNode table = json(work.ladder("show", "--table", "bin_1", "--format", "json").exits(0));
    assertThat(table.at("/first_rows/0/0").asText()).isEqualTo("1");
    JsonNode rollback = json(work.ladder("rollback", "--format", "json").exits(0));
    assertThat(rollback.at("/steps/0/result").asText()).isEqualTo("rolled_back");
  }

  @Test
  void errorsAreJsonToo() {
    work.rung("0003-wrong", "SELECT * FROM nowhere;", "");
    JsonNode failed = json(work.ladder("apply", "--format", "json").exits(5)).get("error");
    assertThat(failed.get("database_said").asText()).isEqualTo("no such table: nowhere");
    assertThat(failed.get("where").asText()).isEqualTo("rungs/0003-wrong.sql:2:1");
    assertThat(failed.get("steps_completed").asInt()).isEqualTo(2);
    JsonNode refused = json(work.ladder("apply", "live", "--format", "json").exits(3)).get("error");
    assertThat(refused.get("exit_code").asInt()).isEqualTo(3);
    assertThat(refused.get("all")).singleElement().asString().contains("0001 and 2 more");
    work.file("ladder.yaml", "nam: x\n");
    JsonNode wrong = json(work.ladder("status", "--format", "json").exits(2)).get("error");
    assertThat(wrong.get("all")).isNotEmpty();
    for (String command : new String[] {"status", "history", "apply", "rollback", "check"}) {
      work.ladder(command, "--format", "xml").exits(2).complains("--format is text", "not 'xml'");
    }
  }

  @Test
  void aLongLadderIsFoldedUnlessAllOfItIsWanted() {
    work.tables(40).ladder("apply").exits(0);
    assertThat(work.ladder("status").out()).contains("15 more in place").doesNotContain("0015");
    assertThat(work.ladder("status", "--all").out())
        .contains("  0001  ")
        .doesNotContain("more in place");
  }

  @Test
  void withoutUtf8TheDrawingIsPlain() {
    work.variable("LC_ALL", "C");
    assertThat(work.ladder("status").out()).contains("|     |  0002").doesNotContain("┃");
  }

  /**
   * Runs a command line in a terminal of its own, types answers, and returns what the screen saw.
   */
  private String inTerminal(String typed, String command) {
    Workspace.Run probe = work.run(List.of("sh", "-c", "command -v script"));
    Assumptions.assumeTrue(probe.code() == 0, "no terminal can be made here");
    String program = Workspace.DISTRIBUTION.resolve("bin/ladder").toString();
    String line =
        "printf '%s' | script -qec 'TERM=xterm %s %s' /dev/null".formatted(typed, program, command);
    return work.run(List.of("sh", "-c", line)).out();
  }

  @Test
  void atATerminalAPersonIsAskedAndColoursAreUsed() {
    work.ladder("apply", "test").exits(0);
    assertThat(inTerminal("n\\n", "rollback test"))
        .contains("Take back 0002 on test? [y/N]", "not confirmed");
    assertThat(work.tablesOf("test")).hasSize(2);
    assertThat(inTerminal("test\\n", "apply live")).contains("live is guarded", "not confirmed");
    assertThat(inTerminal("live\\n", "apply live")).contains("Type its name", "live is at 0002");
    assertThat(inTerminal("y\\n", "rollback test")).contains("test is at 0001");
    assertThat(inTerminal("", "status test")).contains("\u001b[32m");
    work.variable("NO_COLOR", "1");
    assertThat(inTerminal("", "status test")).doesNotContain("\u001b[");
  }

  @Test
  void atATerminalALongRunHasABar() {
    work.tables(60);
    assertThat(inTerminal("", "apply")).contains("dev", "60/60", "dev is at 0060");
  }
}
