package org.wornladder.cli.command;

import java.util.List;
import java.util.Optional;
import org.wornladder.cli.Version;
import picocli.CommandLine;
import picocli.CommandLine.IFactory;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.TypeConversionException;

/**
 * All commands, in the order in which people work. Only the one that is named is made: to make them
 * all costs more than most of them take.
 */
public final class CommandTable {
  private record Row(String name, String about) {}

  private static final List<Row> ROWS =
      List.of(
          new Row("init", "Make a project in a folder."),
          new Row("adopt", "Take a database that exists under management."),
          new Row("new", "Write the next rung (one versioned migration), or take one back."),
          new Row("check", "Examine the files without a database."),
          new Row("preview", "Show what apply would do."),
          new Row("apply", "Run the waiting rungs."),
          new Row("rollback", "Take rungs back."),
          new Row("status", "Draw the ladder, rung by rung."),
          new Row("history", "List the journal, entry by entry."),
          new Row("show", "Show what stands in a database."),
          new Row("drift", "Lay what stands in a database beside what its history says."),
          new Row("compare", "Lay two structures beside each other."),
          new Row("seed", "Bring reference data to what the files say."),
          new Row("rebuild", "Empty a disposable database, apply everything, seed."),
          new Row("settle", "Put a stuck or worn rung right."),
          new Row("renumber", "Move a rung to the end, when two have one number."),
          new Row("demo", "Run the whole example in a new folder."));

  private static final IFactory FACTORY = new OnDemand();

  private CommandTable() {}

  /**
   * A command out of a command line.
   *
   * @param args the command line without the command's name
   */
  public record Named(String name, String about, Command command, String[] args) {
    private static Named of(Row row, String... args) {
      return new Named(row.name(), row.about(), make(row.name()), args);
    }

    /** A parser for this command alone: half the work of one that knows the program around it. */
    public CommandLine parser() {
      return reading(new CommandLine(spec(this).name("ladder " + name), FACTORY));
    }
  }

  /** A parser of command lines that name no command. */
  public static CommandLine parser() {
    return reading(new CommandLine(model()));
  }

  /** Every option is a text or a flag: what the library has for others, it need not have. */
  private static CommandLine reading(CommandLine line) {
    return line.registerConverter(String.class, text -> text)
        .registerConverter(boolean.class, CommandTable::flag);
  }

  private static boolean flag(String text) {
    if (!text.equalsIgnoreCase("true") && !text.equalsIgnoreCase("false")) {
      throw new TypeConversionException("'" + text + "' is neither true nor false");
    }
    return Boolean.parseBoolean(text);
  }

  /** The library's own way, but only once it is needed: it begins with a look into every jar. */
  private static final class OnDemand implements IFactory {
    @Override
    public <T> T create(Class<T> kind) throws Exception {
      return CommandLine.defaultFactory().create(kind);
    }
  }

  /** The command that a command line names; empty if it names none that is known. */
  public static Optional<Named> named(String... args) {
    for (int i = 0; i < args.length; i++) {
      if (args[i].equals(Options.PROJECT)) {
        i++;
      } else if (!args[i].startsWith("-")) {
        return named(args[i], without(args, i));
      }
    }
    return Optional.empty();
  }

  private static Optional<Named> named(String name, String... args) {
    for (Row row : ROWS) {
      if (row.name().equals(name)) {
        return Optional.of(Named.of(row, args));
      }
    }
    return Optional.empty();
  }

  private static Command make(String name) {
    return switch (name) {
      case "init" -> new InitCommand();
      case "adopt" -> new AdoptCommand();
      case "new" -> new NewCommand();
      case "check" -> new CheckCommand();
      case "preview" -> new PreviewCommand();
      case "apply" -> new ApplyCommand();
      case "rollback" -> new RollbackCommand();
      case "status" -> new StatusCommand();
      case "history" -> new HistoryCommand();
      case "show" -> new ShowCommand();
      case "drift" -> new DriftCommand();
      case "compare" -> new CompareCommand();
      case "seed" -> new SeedCommand();
      case "rebuild" -> new RebuildCommand();
      case "settle" -> new SettleCommand();
      case "renumber" -> new RenumberCommand();
      case "demo" -> new DemoCommand();
      default -> throw new IllegalArgumentException("no such command: " + name);
    };
  }

  private static String[] without(String[] args, int index) {
    String[] rest = new String[args.length - 1];
    System.arraycopy(args, 0, rest, 0, index);
    System.arraycopy(args, index + 1, rest, index, rest.length - index);
    return rest;
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
    CommandSpec root =
        CommandSpec.wrapWithoutInspection(null, FACTORY).name("ladder").version(Version.LINE);
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
    CommandSpec spec = CommandSpec.wrapWithoutInspection(null, FACTORY).name(named.name());
    spec.usageMessage().description(named.about());
    named.command().describe(spec);
    spec.addOption(Options.project()).addOption(Options.verbose()).addOption(Options.help());
    return spec;
  }
}
