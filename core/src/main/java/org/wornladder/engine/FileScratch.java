package org.wornladder.engine;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Stream;
import org.wornladder.UnreachableException;
import org.wornladder.project.Environment;

/** A throw-away database in a temporary folder, for engines that keep a database in files. */
public record FileScratch(Path folder, Environment environment) implements ScratchDatabase {
  /**
   * Makes the folder.
   *
   * @param url the URL of a database's file in it
   */
  public static FileScratch make(Environment like, Function<Path, String> url) {
    try {
      Path folder = Files.createTempDirectory(PROOF);
      return new FileScratch(
          folder,
          like.inPlaceOf(url.apply(folder.resolve("scratch")), Optional.empty(), Optional.empty()));
    } catch (IOException e) {
      throw new UnreachableException(
          "no scratch database can be made: " + e.getMessage(),
          "the temporary folder " + System.getProperty("java.io.tmpdir"),
          "see that it can be written, or name another with -Djava.io.tmpdir",
          e);
    }
  }

  @Override
  public void close() {
    try (Stream<Path> files = Files.list(folder)) {
      List<Path> all = files.toList();
      for (Path file : all) {
        Files.delete(file);
      }
      Files.delete(folder);
    } catch (IOException e) {
      // It is the system's temporary folder: what stays there is cleared away in time.
      return;
    }
  }
}
