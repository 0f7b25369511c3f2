package org.wornladder.bench;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.stream.Stream;

/** The server's own client programs, to be measured beside. */
final class PostgresClient {
  /** Where Debian keeps them, by version: the command of the same name is a script that chooses. */
  private static final Path VERSIONS = Path.of("/usr/lib/postgresql");

  private PostgresClient() {}

  /** The newest program of a name, without a script in front that takes time of its own. */
  static String program(String name) {
    if (!Files.isDirectory(VERSIONS)) {
      return name;
    }
    try (Stream<Path> versions = Files.list(VERSIONS)) {
      return versions
          .filter(version -> Files.isExecutable(version.resolve("bin").resolve(name)))
          .max(Comparator.comparingDouble(version -> number(version.getFileName().toString())))
          .map(version -> version.resolve("bin").resolve(name).toString())
          .orElse(name);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private static double number(String version) {
    return version.matches("\\d+(\\.\\d+)?") ? Double.parseDouble(version) : 0;
  }
}
