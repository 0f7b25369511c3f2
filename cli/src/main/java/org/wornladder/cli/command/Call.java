package org.wornladder.cli.command;

import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Stream;
import org.wornladder.Ladder;
import org.wornladder.LadderException;
import org.wornladder.cli.Terminal;
import org.wornladder.cli.Version;
import org.wornladder.cli.view.SafeText;
import picocli.CommandLine.Model.OptionSpec;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.ParseResult;

/**
 * One call of a command: what was typed, and where to answer.
 *
 * @param folder where it was typed
 */
public record Call(ParseResult typed, Terminal terminal, Path folder) {
  static final String TEXT = "text";
  static final String JSON = "json";
  static final String MARKDOWN = "markdown";
  static final String SARIF = "sarif";

  private static final int LONGEST_WAIT_SECONDS = 24 * 60 * 60;

  public boolean has(String option) {
    return typed.hasMatchedOption(option);
  }

  public Optional<String> text(String option) {
    String value = typed.matchedOptionValue(option, (String) null);
    return Optional.ofNullable(value);
  }

  /** Each value of an option that may be given several times. */
  List<String> texts(String option) {
    OptionSpec spec = typed.matchedOption(option);
    return spec == null ? List.of() : spec.getValue();
  }

  /** Each value of an option, and the words that commas part in it. */
  List<String> listed(String option) {
    return texts(option).stream()
        .flatMap(text -> Stream.of(text.split(",")))
        .map(String::strip)
        .filter(word -> !word.isEmpty())
        .toList();
  }

  /** The same for patterns of objects, such as {@code table:bin*}. */
  List<String> patterns(String option) {
    List<String> patterns = listed(option);
    for (String pattern : patterns) {
      if (pattern.indexOf(':') < 1) {
        throw wrong(
            option + " takes KIND:NAME, such as table:" + pattern + ", not '" + pattern + "'");
      }
    }
    return patterns;
  }

  Optional<String> word(int index) {
    String value = typed.matchedPositionalValue(index, (String) null);
    return Optional.ofNullable(value);
  }

  /** All words behind the command. */
  List<String> words() {
    return typed.matchedPositionalValue(0, List.<String>of());
  }

  /** The words behind the environment. */
  List<String> further() {
    return typed.matchedPositionalValue(1, List.<String>of());
  }

  /** The environment that is named; empty for the project's default one. */
  Optional<String> environment() {
    return word(Options.ENVIRONMENT);
  }

  /** For a command that answers as text or as JSON. */
  boolean isJson() {
    return format(TEXT, JSON).equals(JSON);
  }

  /** Whether JSON was asked for, whatever else the command could answer with. */
  public boolean wantsJson() {
    return text(Options.FORMAT).equals(Optional.of(JSON));
  }

  /** The same of a command line that cannot be read. */
  public static boolean wantsJson(String... args) {
    List<String> typed = List.of(args);
    int format = typed.indexOf(Options.FORMAT);
    return typed.contains(Options.FORMAT + "=" + JSON)
        || format >= 0 && format + 1 < typed.size() && typed.get(format + 1).equals(JSON);
  }

  /** The format asked for, one of those that the command has; the first one otherwise. */
  String format(String... formats) {
    String format = text(Options.FORMAT).orElse(formats[0]);
    if (!List.of(formats).contains(format)) {
      String all = String.join(", ", List.of(formats).subList(0, formats.length - 1));
      throw wrong(
          Options.FORMAT
              + " is "
              + all
              + " or "
              + formats[formats.length - 1]
              + ", not '"
              + format
              + "'");
    }
    return format;
  }

  /** A rung's number, with leading zeros or not. */
  long number(String text) {
    if (!text.matches("\\d{1,18}")) {
      throw wrong("'" + text + "' is not a rung's number, such as 7 or 0007");
    }
    return Long.parseLong(text);
  }

  /** A whole number from {@code least} up. */
  int count(String option, int least, int otherwise) {
    Optional<String> text = text(option);
    if (text.isEmpty()) {
      return otherwise;
    }
    if (!text.get().matches("\\d{1,9}") || Integer.parseInt(text.get()) < least) {
      throw wrong(option + " takes a whole number from " + least + " up, not '" + text.get() + "'");
    }
    return Integer.parseInt(text.get());
  }

  ParameterException wrong(String message) {
    return new ParameterException(typed.commandSpec().commandLine(), message);
  }

  /** The project's folder. */
  Path projectFolder() {
    Optional<String> named = text(Options.PROJECT);
    return (named.isPresent() ? folder.resolve(named.get()) : folder).normalize();
  }

  /** Opens the project. */
  Ladder ladder() {
    return ladderBuilder().build();
  }

  /** The names of a project's guarded environments. */
  static Set<String> guarded(Ladder ladder) {
    Set<String> guarded = new TreeSet<>();
    ladder
        .project()
        .settings()
        .environments()
        .forEach(
            (name, environment) -> {
              if (environment.guarded()) {
                guarded.add(name);
              }
            });
    return guarded;
  }

  /** The same for the project of this call; none if it cannot be read. */
  public Set<String> guarded() {
    try {
      return guarded(ladder());
    } catch (LadderException | ParameterException e) {
      return Set.of();
    }
  }

  /** The project's folder, and what the options say of waiting and trying again. */
  Ladder.Builder ladderBuilder() {
    Ladder.Builder builder =
        Ladder.builder()
            .project(projectFolder())
            .tool(Version.TEXT)
            .await(seconds(Options.AWAIT, 0), this::waiting)
            .retries(count(Options.RETRIES, 0, 0));
    return has(Options.LOCK_WAIT) ? builder.lockWait(seconds(Options.LOCK_WAIT, 0)) : builder;
  }

  private void waiting(String what) {
    terminal.err().println("waiting for " + SafeText.line(what));
    terminal.err().flush();
  }

  private Duration seconds(String option, int otherwise) {
    int seconds = count(option, 0, otherwise);
    if (seconds > LONGEST_WAIT_SECONDS) {
      throw wrong(option + " is a day at most");
    }
    return Duration.ofSeconds(seconds);
  }
}
