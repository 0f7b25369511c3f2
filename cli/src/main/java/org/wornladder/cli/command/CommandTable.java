package org.wornladder.cli.command;

import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;
import org.wornladder.cli.Terminal;
import org.wornladder.cli.Version;
import picocli.CommandLine;
import picocli.CommandLine.Help.Ansi;
import picocli.CommandLine.Model.CommandSpec;

/**
 * All commands, in the order in which people work. Only the one that is named is made: to make them
 * all costs more than most of them take.
 */
public final class CommandTable {
  private record Row(String name, String about, Supplier<Command> maker) {}

  private static final List<Row> ROWS =
      List.of(
          new Row("init", "Make a project in a folder.", () -> new InitCommand()),
          new Row(
              "new",
              "Write the next rung (one versioned migration), or take one back.",
              () -> new NewCommand()),
          new Row("check", "Examine the files without a database.", () -> new CheckCommand()),
          new Row("preview", "Show what apply would do.", () -> new PreviewCommand()),
          new Row("apply", "Run the waiting rungs.", () -> new ApplyCommand()),
          new Row("rollback", "Take rungs back.", () -> new RollbackCommand()),
          new Row("status", "Draw the ladder, rung by rung.", () -> new StatusCommand()),
          new Row("history", "List the journal, entry by entry.", () -> new HistoryCommand()),
          new Row("show", "Show what stands in a database.", () -> new ShowCommand()),
          new Row("settle", "Put a stuck or worn rung right.", () -> new SettleCommand()),
          new Row("demo", "Run the whole example in a new folder.", () -> new DemoCommand()));

  private CommandTable() {}

  /** A command with its name and what it is for, in one line. */
  public record Named(String name, String about, Command command) {
    private static Named of(Row row) {
      return new Named(row.name(), row.about(), row.maker().get());
    }
  }

  /** The command that a command line names; empty if it names none that is known. */
  public static Optional<Named> named(String... args) {
    for (int i = 0; i < args.length; i++) {
      if (args[i].equals(Options.PROJECT)) {
        i++;
      } else if (!args[i].startsWith("-")) {
        String name = args[i];
        for (Row row : ROWS) {
          if (row.name().equals(name)) {
            return Optional.of(Named.of(row));
          }
        }
        return Optional.empty();
      }
    }
    return Optional.empty();
  }

  /** A parser with one command; with all of them, for help, if none is given. */
  public static CommandLine commandLine(Optional<Named> only, Terminal terminal) {
    CommandSpec root = only.isEmpty() ? model() : root();
    only.ifPresent(named -> root.addSubcommand(named.name(), spec(named)));
    CommandLine line = new CommandLine(root);
    line.setColorScheme(CommandLine.Help.defaultColorScheme(terminal.color() ? Ansi.ON : Ansi.OFF));
    line.setUsageHelpWidth(Math.min(100, terminal.width()));
    return line;
  }

  /** The whole program's model, for completion and manual pages. */
  public static CommandSpec model() {
    CommandSpec root = root();
    for (Row row : ROWS) {
      root.addSubcommand(row.name(), spec(Named.of(row)));
    }
    return root;
  }

  private static CommandSpec root() {
    CommandSpec root = CommandSpec.create().name("ladder").version(Version.LINE);
    root.usageMessage()
        .description("Versioned database schema changes as plain SQL files.")
        .footer(
            "",
            "Exit codes: 0 done; 1 found something that needs you; 2 command line or file wrong;",
            "3 refused for safety; 4 database or lock not had; 5 a statement failed.");
    root.addOption(Options.project()).addOption(Options.help()).addOption(Options.version());
    return root;
  }

  private static CommandSpec spec(Named named) {
    CommandSpec spec = CommandSpec.create().name(named.name());
    spec.usageMessage().description(named.about());
    named.command().describe(spec);
    spec.addOption(Options.project()).addOption(Options.verbose()).addOption(Options.help());
    return spec;
  }
}
