package org.wornladder.cli.command;

import picocli.CommandLine.Model.CommandSpec;

/** One command of the program. */
public interface Command {
  /** Its options and parameters, without its name and its first description line. */
  void describe(CommandSpec spec);

  /** Does it; returns an exit code. */
  int run(Call call);
}
