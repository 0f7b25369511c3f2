package org.wornladder.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.io.InputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.api.parallel.Isolated;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.wornladder.cli.command.CommandTable;
import picocli.CommandLine;
import picocli.CommandLine.Model.CommandSpec;

/** How words become commands, in one process. */
@Isolated
class CommandLineTest {
  @TempDir Path folder;

  private final ByteArrayOutputStream out = new ByteArrayOutputStream();
  private final ByteArrayOutputStream err = new ByteArrayOutputStream();

  private int run(String... args) {
    Terminal terminal =
        new Terminal(
            InputStream.nullInputStream(),
            new PrintStream(out, true, StandardCharsets.UTF_8),
            new PrintStream(err, true, StandardCharsets.UTF_8),
            false,
            false,
            false,
            100,
            false,
            true);
    return new LadderCli(terminal, folder).run(args);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "status --project there|0",
        "--project there status|0",
        "--project=there status|0",
        "status|2",
        "status dev extra --project there|2",
        "apply --to x --project there|2",
        "apply --to 9 --project there|3",
        "apply --lock-wait -1 --project there|2",
        "apply --lock-wait 999999 --project there|2",
        "rollback --last 0 --project there|2",
        "rollback --last 1 --to 1 --project there|2",
        "show --rows 3 --project there|2",
        "show --table nowhere --project there|2",
        "settle --project there|2",
        "settle 1 --done --not-done --because x --project there|2",
        "settle 1 --done --because x --project there|3",
        "new --project there|2",
        "new !!! --project there|2",
        "new --take-back 7 --project there|3",
        "status --format yaml --project there|2",
        "statsu|2",
        "''|2"
      })
  void exitCodesTellWhatHappened(String line, int code) throws Exception {
    Files.createDirectories(folder.resolve("there"));
    Files.writeString(
        folder.resolve("there/ladder.yaml"),
        "name: hollowfield\nenvironments: { dev: { url: \"jdbc:sqlite:dev.db\" } }\n");
    assertThat(run(line.isEmpty() ? new String[0] : line.split(" ")))
        .as(out + "" + err)
        .isEqualTo(code);
    assertThat(err.toString(StandardCharsets.UTF_8)).doesNotContain("\tat ");
    if (code != 0) {
      assertThat(err.toString(StandardCharsets.UTF_8)).isNotBlank();
    }
  }

  @Test
  void everyCommandDescribesItselfAndItsOptions() {
    Map<String, CommandLine> commands = CommandTable.model().subcommands();
    assertThat(commands).hasSize(22);
    for (CommandLine command : commands.values()) {
      CommandSpec spec = command.getCommandSpec();
      assertThat(spec.usageMessage().description()).isNotEmpty();
      assertThat(spec.options())
          .allMatch(
              option -> option.description().length == 1 && option.description()[0].endsWith("."));
      assertThat(spec.findOption("--project")).isNotNull();
      assertThat(spec.findOption("--verbose")).isNotNull();
    }
    for (String reporting :
        List.of(
            "check",
            "preview",
            "apply",
            "rollback",
            "status",
            "history",
            "show",
            "seed",
            "rebuild")) {
      assertThat(commands.get(reporting).getCommandSpec().findOption("--format")).isNotNull();
    }
  }

  @Test
  void theManualNamesEveryCommandOfTheReadme() throws Exception {
    String readme =
        Files.readString(Path.of(System.getProperty("ladder.checkout", ".."), "README.md"));
    for (String name : CommandTable.model().subcommands().keySet()) {
      assertThat(readme).contains("| `" + name);
    }
  }

  @Test
  void aFaultInTheProgramIsToldApart() throws Exception {
    Files.writeString(
        folder.resolve("ladder.yaml"),
        "name: x\nenvironments: { dev: { url: \"jdbc:sqlite:dev.db\" } }\n");
    Files.createDirectories(folder.resolve("rungs"));
    assertThat(run("status", "--verbose")).isZero();
    assertThat(run("settle", "1", "--done", "--because", "x", "--verbose")).isEqualTo(3);
    assertThat(err.toString(StandardCharsets.UTF_8)).contains("RefusedException", "\tat ");
  }
}
