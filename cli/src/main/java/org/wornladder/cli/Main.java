package org.wornladder.cli;

import java.io.FileDescriptor;
import java.io.FileInputStream;
import java.nio.file.Path;
import java.util.Locale;
import java.util.TimeZone;
import java.util.logging.LogManager;

/** The program's entry, and the only place that ends it. */
public final class Main {
  private Main() {}

  public static void main(String[] args) {
    if (args.length == 1 && args[0].equals("--version")) {
      System.out.println(Version.LINE);
      return;
    }
    prepareProcess();
    Terminal terminal =
        Terminal.ofProcess(
            new FileInputStream(FileDescriptor.in), Terminal.standardOut(), Terminal.standardErr());
    System.exit(new LadderCli(terminal, Path.of("").toAbsolutePath()).run(args));
  }

  /** Results must not depend on the machine's language and time zone; drivers must not log. */
  private static void prepareProcess() {
    Locale.setDefault(Locale.US);
    TimeZone.setDefault(TimeZone.getTimeZone("UTC"));
    LogManager.getLogManager().reset();
    SqliteNativeLibrary.locate();
  }
}
