package org.wornladder.cli.command;

import picocli.CommandLine.Model.CommandSpec;

/** One command of the program. */
public interface Command {
  /** Its options and parameters, without its name and its first description line. */
  void describe(CommandSpec spec);

  /** Whether it will open a database, so that the driver can be loaded while its words are read. */
  default boolean opensDatabase() {
    return true;
  }

  /** Does it; returns an exit code. */
  int run(Call call);
}
