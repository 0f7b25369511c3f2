package org.wornladder.cli;

import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.Optional;
import java.util.Set;
import org.wornladder.LadderException;
import org.wornladder.cli.command.Call;
import org.wornladder.cli.command.CommandTable;
import org.wornladder.cli.command.Options;
import org.wornladder.cli.view.ErrorView;
import picocli.CommandLine;
import picocli.CommandLine.Help.Ansi;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.ParseResult;
import picocli.CommandLine.UnmatchedArgumentException;

/**
 * Reads a command line, runs its command, and turns what went wrong into words and an exit code.
 */
public final class LadderCli {
  private final Terminal terminal;
  private final Path folder;

  /**
   * @param folder where the command is given, from which relative paths are taken
   */
  public LadderCli(Terminal terminal, Path folder) {
    this.terminal = terminal;
    this.folder = folder;
  }

  /** Runs one command line and returns one of {@link ExitCode}. */
  public int run(String... args) {
    try {
      Optional<CommandTable.Named> named = CommandTable.named(args);
      return named.isPresent() ? command(named.get()) : noCommand(args);
    } catch (ParameterException e) {
      return wrong(e, args);
    } finally {
      terminal.flush();
    }
  }

  /** Help, the version, or a word that is no command. */
  private int noCommand(String... args) {
    CommandLine line = CommandTable.parser();
    if (help(line, line.parseArgs(args))) {
      return ExitCode.DONE;
    }
    line.usage(terminal.err());
    return ExitCode.WRONG;
  }

  private boolean help(CommandLine line, ParseResult result) {
    if (!result.isUsageHelpRequested() && !result.isVersionHelpRequested()) {
      return false;
    }
    line.setColorScheme(CommandLine.Help.defaultColorScheme(terminal.color() ? Ansi.ON : Ansi.OFF));
    line.setUsageHelpWidth(Math.min(100, terminal.width()));
    line.setOut(new PrintWriter(terminal.out(), true));
    CommandLine.executeHelpRequest(result);
    return true;
  }

  private int command(CommandTable.Named named) {
    CommandLine line = named.parser();
    ParseResult result = line.parseArgs(named.args());
    if (help(line, result)) {
      return ExitCode.DONE;
    }
    Call call = new Call(result, terminal, folder);
    try {
      return named.command().run(call);
    } catch (ParameterException e) {
      return wrong(e, named.args());
    } catch (LadderException e) {
      if (isOutOfMemory(e)) {
        return outOfMemory();
      }
      int code = ExitCode.of(e);
      new ErrorView(terminal, call.wantsJson(), call.has(Options.SHOW_ROWS), call.guarded())
          .show(e, code);
      if (call.has(Options.VERBOSE)) {
        e.printStackTrace(terminal.err());
      }
      return code;
    } catch (RuntimeException | Error e) {
      return isOutOfMemory(e) ? outOfMemory() : fault(call, e);
    }
  }

  private int wrong(ParameterException e, String... args) {
    if (Call.wantsJson(args)) {
      String help = e.getCommandLine().getCommandSpec().qualifiedName() + " --help";
      new ErrorView(terminal, true, false, Set.of()).usage(e.getMessage(), help, ExitCode.WRONG);
      return ExitCode.WRONG;
    }
    terminal.err().println("ladder: " + e.getMessage());
    if (!UnmatchedArgumentException.printSuggestions(e, new PrintWriter(terminal.err(), true))) {
      String command = e.getCommandLine().getCommandSpec().qualifiedName();
      terminal.err().println("  next   " + command + " --help");
    }
    return ExitCode.WRONG;
  }

  /** Where memory ends while a class is prepared, the words alone say. */
  private static boolean isOutOfMemory(Throwable thrown) {
    for (Throwable e = thrown; e != null; e = e.getCause()) {
      if (e instanceof OutOfMemoryError
          || String.valueOf(e.getMessage()).contains(OutOfMemoryError.class.getName())) {
        return true;
      }
    }
    return false;
  }

  /** What was not committed is undone by the database, as its session ends. */
  private int outOfMemory() {
    long given = Runtime.getRuntime().maxMemory() >> 20;
    terminal.err().println("ladder: this takes more memory than the " + given + " MB it may use");
    terminal
        .err()
        .println("  next   set JAVA_TOOL_OPTIONS=-Xmx" + 4 * given + "m, and run it again");
    return ExitCode.FAULT;
  }

  private int fault(Call call, Throwable e) {
    terminal.err().println("ladder: a fault in the program itself: " + e);
    if (call.has(Options.VERBOSE)) {
      e.printStackTrace(terminal.err());
    } else {
      terminal.err().println("  next   run it again with --verbose, and report what it says");
    }
    return ExitCode.FAULT;
  }
}
