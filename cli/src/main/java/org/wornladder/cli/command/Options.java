package org.wornladder.cli.command;

import java.util.List;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Model.OptionSpec;
import picocli.CommandLine.Model.PositionalParamSpec;

/** The options that several commands share. */
public final class Options {
  public static final String PROJECT = "--project";
  public static final String VERBOSE = "--verbose";
  static final String FORMAT = "--format";
  static final String YES = "--yes";
  static final String CONFIRM = "--confirm";
  static final String LOCK_WAIT = "--lock-wait";
  static final String AWAIT = "--await";
  static final String RIGHTS = "--rights";
  static final String RETRIES = "--retries";
  public static final String SHOW_ROWS = "--show-rows";
  static final int ENVIRONMENT = 0;

  private Options() {}

  static OptionSpec project() {
    return text(PROJECT, "DIR", "The project's folder; the current one otherwise.");
  }

  static OptionSpec verbose() {
    return flag(VERBOSE, "Show where in the program an error arose.");
  }

  static OptionSpec help() {
    return OptionSpec.builder("--help", "-h")
        .usageHelp(true)
        .description("Show this help.")
        .build();
  }

  static OptionSpec version() {
    return OptionSpec.builder("--version")
        .versionHelp(true)
        .description("Show the version.")
        .build();
  }

  static OptionSpec text(String name, String label, String description) {
    return OptionSpec.builder(name)
        .paramLabel(label)
        .type(String.class)
        .description(description)
        .build();
  }

  static OptionSpec flag(String name, String description) {
    return OptionSpec.builder(name).type(boolean.class).description(description).build();
  }

  static void environment(CommandSpec spec, String description) {
    spec.addPositional(
        PositionalParamSpec.builder()
            .index("0")
            .paramLabel("ENV")
            .arity("0..1")
            .type(String.class)
            .description(description)
            .build());
    database(spec);
  }

  /** More words behind the environment, for an option whose words need no quotes. */
  static void further(CommandSpec spec) {
    spec.addPositional(
        PositionalParamSpec.builder()
            .index("1..*")
            .arity("0..*")
            .type(List.class)
            .auxiliaryTypes(String.class)
            .hidden(true)
            .build());
  }

  static void format(CommandSpec spec) {
    format(spec, List.of(Call.TEXT, Call.JSON), "for people, or one JSON object.");
  }

  /** The same for a command whose result is pasted into reviews. */
  static void formats(CommandSpec spec) {
    format(
        spec,
        List.of(Call.TEXT, Call.JSON, Call.MARKDOWN),
        "for people, as one JSON object, or as Markdown for a review.");
  }

  /** The same for a command with formats of its own. */
  static void format(CommandSpec spec, String... formats) {
    format(spec, List.of(formats), "for people, or as a program reads it.");
  }

  private static void format(CommandSpec spec, List<String> formats, String description) {
    spec.addOption(
        OptionSpec.builder(FORMAT)
            .paramLabel(String.join("|", formats))
            .type(String.class)
            .completionCandidates(formats)
            .description("How to write the result: " + description)
            .build());
  }

  /** An option that may be given several times. */
  static OptionSpec texts(String name, String label, String description) {
    return OptionSpec.builder(name)
        .paramLabel(label)
        .type(List.class)
        .auxiliaryTypes(String.class)
        .arity("1")
        .description(description)
        .build();
  }

  /** All words behind the command. */
  static void words(CommandSpec spec, String label, String arity, String description) {
    spec.addPositional(
        PositionalParamSpec.builder()
            .index("0..*")
            .paramLabel(label)
            .arity(arity)
            .type(List.class)
            .auxiliaryTypes(String.class)
            .description(description)
            .build());
  }

  /** What every command takes that changes a database. */
  static void change(CommandSpec spec) {
    spec.addOption(flag(YES, "Answer questions with yes. Not enough for a guarded environment."));
    spec.addOption(
        text(CONFIRM, "ENV", "The environment's name once more: the yes for a guarded one."));
    spec.addOption(lockWait());
    spec.addOption(
        flag(SHOW_ROWS, "Print what the database says of the values of a row that it refuses."));
    spec.addOption(
        text(RETRIES, "N", "Try a step again that could not get a lock of the database."));
  }

  static OptionSpec lockWait() {
    return text(LOCK_WAIT, "SECONDS", "How long to wait for another process's lock; 60 otherwise.");
  }

  /** What commands take that compare structures. */
  static void rights(CommandSpec spec) {
    spec.addOption(flag(RIGHTS, "Compare owners and grants, too."));
  }

  /** What every command takes that opens a database. */
  static void database(CommandSpec spec) {
    spec.addOption(
        text(AWAIT, "SECONDS", "How long to wait for a server that does not answer yet."));
  }
}
