package org.wornladder.cli.archive;

import java.io.InputStream;
import java.io.OutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import org.wornladder.cli.LadderCli;
import org.wornladder.cli.Main;
import org.wornladder.cli.Terminal;
import org.wornladder.cli.demo.Demo;

/** Runs the commands once, so that the archive holds the classes that they use. */
public final class Training {
  private static final String[][] COMMANDS = {
    {"status", "--format", "json"},
    {"show", "--table", "block"},
    {"history", "live", "--format", "json"},
    {"check", "--against", "dev"},
    {"preview", "test", "--format", "json"},
    {"no-such-command"},
    {"--help"}
  };

  private Training() {}

  /**
   * @param args an empty folder that may be written to
   */
  public static void main(String[] args) {
    Main.main(new String[] {"--version"});
    Main.prepareLibraries();
    Path folder = Path.of(args[0], "training");
    PrintStream nowhere =
        new PrintStream(OutputStream.nullOutputStream(), false, StandardCharsets.UTF_8);
    Terminal terminal =
        new Terminal(
            InputStream.nullInputStream(), nowhere, nowhere, false, false, false, 100, true, true);
    new Demo(terminal, folder, "training").tell();
    for (String[] command : COMMANDS) {
      new LadderCli(terminal, folder).run(command);
    }
  }
}
