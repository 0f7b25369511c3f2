package org.wornladder.cli;

import java.io.FileDescriptor;
import java.io.FileInputStream;
import java.io.FileOutputStream;
import java.net.URL;
import java.nio.file.Path;
import java.util.Locale;
import java.util.SimpleTimeZone;
import java.util.TimeZone;

/** The program's entry, and the only place that ends it. */
public final class Main {
  private Main() {}

  public static void main(String[] args) {
    if (args.length == 1 && args[0].equals("--version")) {
      // Answered before anything else is loaded.
      System.out.println(Version.LINE);
      return;
    }
    prepareLibraries();
    Terminal terminal =
        Terminal.ofProcess(
            new FileInputStream(FileDescriptor.in),
            Terminal.standardOut(),
            Terminal.plain(new FileOutputStream(FileDescriptor.err)));
    int code = new LadderCli(terminal, Path.of("").toAbsolutePath()).run(args);
    if (code != ExitCode.DONE) {
      System.exit(code);
    }
  }

  /**
   * Spares libraries the search for what they shall do: all our times are UTC, and nothing is
   * logged.
   */
  public static void prepareLibraries() {
    Locale.setDefault(Locale.ROOT);
    TimeZone.setDefault(new SimpleTimeZone(0, "UTC"));
    // Every option here is a text; the parser would load dates, addresses and currencies as well.
    System.setProperty("picocli.converters.excludes", ".*");
    URL.setURLStreamHandlerFactory(new NoHttp());
    System.setProperty("java.util.logging.manager", NoLogs.class.getName());
    System.setProperty("slf4j.internal.verbosity", "WARN");
    System.setProperty("slf4j.provider", "org.slf4j.nop.NOPServiceProvider");
  }
}
