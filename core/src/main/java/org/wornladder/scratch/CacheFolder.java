package org.wornladder.scratch;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;
import java.util.stream.Stream;

/**
 * The folder beside a project for what is found out in scratch databases, each in a file of its own
 * under the hash of all that it depends on. What cannot be read or written is made anew: nothing
 * depends on it.
 *
 * @param mayBeKept whether a text may be written to a file: it holds no secret
 */
record CacheFolder(Path root, Predicate<String> mayBeKept) {
  static final String FOLDER = ".ladder-cache";

  /** The files that stay when there are too many. */
  private static final int KEPT = 200;

  /** To look at the age of all files takes longer than to write one: many are deleted at once. */
  private static final int MOST = 300;

  Optional<String> read(String key) {
    try {
      Path file = file(key);
      return Files.isRegularFile(file)
          ? Optional.of(Files.readString(file, StandardCharsets.UTF_8))
          : Optional.empty();
    } catch (IOException e) {
      return Optional.empty();
    }
  }

  void write(String key, String text) {
    if (!mayBeKept.test(text)) {
      return;
    }
    try {
      Path folder = root.resolve(FOLDER);
      Files.createDirectories(folder);
      Files.writeString(folder.resolve(".gitignore"), "*\n");
      Path part = Files.createTempFile(folder, "new", ".part");
      Files.writeString(part, text);
      Files.move(part, file(key), StandardCopyOption.REPLACE_EXISTING);
      deleteOldest(folder);
    } catch (IOException e) {
      // A folder that cannot be written is made do without.
      return;
    }
  }

  private Path file(String key) {
    return root.resolve(FOLDER).resolve(key + ".json");
  }

  private static void deleteOldest(Path folder) throws IOException {
    try (Stream<Path> all = Files.list(folder)) {
      List<Path> files = all.filter(file -> file.toString().endsWith(".json")).toList();
      if (files.size() <= MOST) {
        return;
      }
      List<Path> byAge =
          files.stream()
              .sorted(Comparator.comparingLong((Path file) -> file.toFile().lastModified()))
              .toList();
      for (Path old : byAge.subList(0, byAge.size() - KEPT)) {
        Files.deleteIfExists(old);
      }
    }
  }
}
