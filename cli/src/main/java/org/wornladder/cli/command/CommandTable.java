package org.wornladder.cli.command;

import java.util.List;
import java.util.Optional;
import org.wornladder.cli.Version;
import picocli.CommandLine;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Model.UsageMessageSpec;

/**
 * All commands, in the order in which people work. Only the one that is named is made: to make them
 * all costs more than most of them take.
 */
public final class CommandTable {
  /** What people are doing when they need a command. */
  private enum Group {
    START("Start"),
    CHANGE("Change"),
    RUN("Run"),
    LOOK("Look"),
    PUT_RIGHT("Put right");

    private final String title;

    Group(String title) {
      this.title = title;
    }
  }

  private record Row(Group group, String name, String about, String example) {}

  private static final List<Row> ROWS =
      List.of(
          new Row(Group.START, "init", "Make a project in a folder.", "ladder init hollowfield"),
          new Row(
              Group.START,
              "adopt",
              "Take a database that exists under management.",
              "ladder adopt live --rows grade --confirm live"),
          new Row(Group.START, "demo", "Run the whole example in a new folder.", "ladder demo"),
          new Row(
              Group.CHANGE,
              "new",
              "Write the next rung (one versioned migration), or take one back.",
              "ladder new \"bins\" --create-table \"bin (code text not null primary key)\""),
          new Row(
              Group.CHANGE,
              "draft",
              "Write a rung from a difference, such as an edit of schema/.",
              "ladder draft \"bins have a grade\" --fill \"bin.grade='U'\""),
          new Row(
              Group.CHANGE,
              "check",
              "Examine the files without a database.",
              "ladder check --against live"),
          new Row(
              Group.CHANGE,
              "rehearse",
              "Prove waiting rungs in a scratch database: up, down, up again.",
              "ladder rehearse live --rows 100"),
          new Row(
              Group.CHANGE,
              "renumber",
              "Move a rung to the end, when two have one number.",
              "ladder renumber rungs/0007-bins.sql"),
          new Row(
              Group.CHANGE,
              "fold",
              "Make one rung of many, for new databases.",
              "ladder fold --up-to 0040"),
          new Row(Group.RUN, "preview", "Show what apply would do.", "ladder preview live"),
          new Row(Group.RUN, "apply", "Run the waiting rungs.", "ladder apply live --confirm live"),
          new Row(Group.RUN, "rollback", "Take rungs back.", "ladder rollback test --to 0007"),
          new Row(
              Group.RUN,
              "seed",
              "Bring reference data to what the files say.",
              "ladder seed --dry-run --only grade"),
          new Row(
              Group.RUN,
              "rebuild",
              "Empty a disposable database, apply everything, seed.",
              "ladder rebuild dev --yes"),
          new Row(
              Group.LOOK,
              "ready",
              "Say by the exit code whether nothing waits.",
              "ladder ready live"),
          new Row(
              Group.LOOK, "status", "Draw the ladder, rung by rung.", "ladder status live --all"),
          new Row(
              Group.LOOK, "history", "List the journal, entry by entry.", "ladder history live"),
          new Row(
              Group.LOOK,
              "show",
              "Show what is in a database.",
              "ladder show live --table block --rows 20"),
          new Row(
              Group.LOOK,
              "drift",
              "Compare a database with what its history says.",
              "ladder drift live --mend mend.sql"),
          new Row(
              Group.LOOK, "compare", "Compare two structures.", "ladder compare env:test env:live"),
          new Row(
              Group.PUT_RIGHT,
              "settle",
              "Put a stuck or worn rung right.",
              "ladder settle live 0007 --accept-file --because \"a comment was corrected\""),
          new Row(
              Group.PUT_RIGHT,
              "attic",
              "List, bring back or drop what was kept of what rungs erased.",
              "ladder attic restore 12 live --confirm live"));

  private CommandTable() {}

  /**
   * A command out of a command line.
   *
   * @param args the command line without the command's name
   */
  public record Named(String name, String about, String example, Command command, String[] args) {
    private static Named of(Row row, String... args) {
      return new Named(row.name(), row.about(), row.example(), make(row.name()), args);
    }

    /** A parser for this command alone: half the work of one that knows the program around it. */
    public CommandLine parser() {
      return new CommandLine(spec(this).name("ladder " + name));
    }
  }

  /** A parser of command lines that name no command. */
  public static CommandLine parser() {
    CommandLine line = new CommandLine(model());
    line.getHelpSectionMap().put(UsageMessageSpec.SECTION_KEY_COMMAND_LIST_HEADING, help -> "");
    line.getHelpSectionMap().put(UsageMessageSpec.SECTION_KEY_COMMAND_LIST, CommandTable::groups);
    return line;
  }

  private static String groups(CommandLine.Help help) {
    StringBuilder text = new StringBuilder();
    for (Group group : Group.values()) {
      text.append('\n')
          .append(help.colorScheme().text("@|bold " + group.title + "|@"))
          .append('\n');
      for (Row row : ROWS) {
        if (row.group() == group) {
          text.append("  %-9s %s%n".formatted(row.name(), row.about()));
        }
      }
    }
    return text.toString();
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
      case "draft" -> new DraftCommand();
      case "rehearse" -> new RehearseCommand();
      case "ready" -> new ReadyCommand();
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
      case "attic" -> new AtticCommand();
      case "fold" -> new FoldCommand();
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
    CommandSpec root = CommandSpec.create().name("ladder").version(Version.LINE);
    root.usageMessage()
        .description("Versioned database schema changes as plain SQL files.")
        .footer(
            "",
            "ladder COMMAND --help says the rest, with an example.",
            "",
            "Exit codes: 0 done; 1 found something that needs you; 2 command line or file wrong;",
            "3 refused for safety; 4 database or lock not had; 5 a statement failed.");
    root.addOption(Options.project()).addOption(Options.help()).addOption(Options.version());
    return root;
  }

  private static CommandSpec spec(Named named) {
    CommandSpec spec = CommandSpec.create().name(named.name());
    spec.usageMessage().description(named.about());
    // Manual pages have a section of the footer only where it has a heading.
    spec.usageMessage().footerHeading("%nExample:  ").footer(named.example().replace("%", "%%"));
    named.command().describe(spec);
    spec.addOption(Options.project()).addOption(Options.verbose()).addOption(Options.help());
    return spec;
  }
}
