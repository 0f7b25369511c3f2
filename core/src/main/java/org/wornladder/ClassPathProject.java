package org.wornladder;

import java.io.IOException;
import java.net.URI;
import java.net.URISyntaxException;
import java.net.URL;
import java.nio.file.FileSystem;
import java.nio.file.FileSystemAlreadyExistsException;
import java.nio.file.FileSystems;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Collections;
import java.util.Comparator;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Stream;
import org.wornladder.project.ProjectReader;
import org.wornladder.sql.Place;

/**
 * A project that was packed with a program, copied to where its files can be read.
 *
 * @param root the copy
 */
record ClassPathProject(Path root) {
  /**
   * Copies it.
   *
   * @param folder with {@code ladder.yaml} in it, without a slash in front
   * @throws ProjectException if there is none or more than one, or it cannot be copied
   */
  static ClassPathProject copy(String folder, ClassLoader loader) {
    String settings = folder + "/" + ProjectReader.SETTINGS;
    try {
      URL found = only(settings, loader);
      Path root = Files.createTempDirectory("ladder-project-");
      copy(found.toURI(), root);
      return new ClassPathProject(root);
    } catch (IOException | URISyntaxException e) {
      throw ProjectException.of(
          Place.of(settings), "the project cannot be copied: " + e.getMessage(), "");
    }
  }

  /** The only file of that name on the class path; two or more are refused as ambiguous. */
  private static URL only(String settings, ClassLoader loader) throws IOException {
    Set<String> places = new LinkedHashSet<>();
    List<URL> all = Collections.list(loader.getResources(settings));
    all.forEach(url -> places.add(url.toString()));
    if (places.size() > 1) {
      throw ProjectException.of(
          Place.of(settings),
          "it is on the class path more than once: " + String.join(", ", places),
          "take all but one out, or move one into a folder of another name");
    }
    if (all.isEmpty()) {
      throw ProjectException.of(
          Place.of(settings),
          "there is no such file on the class path",
          "put the project's folder among the program's resources");
    }
    return all.get(0);
  }

  private static void copy(URI settings, Path root) throws IOException {
    if (settings.getScheme().equals("jar")) {
      try (FileSystem jar = FileSystems.newFileSystem(settings, Map.of())) {
        String inside = settings.toString().substring(settings.toString().lastIndexOf('!') + 1);
        copyAll(jar.getPath(inside).getParent(), root);
      } catch (FileSystemAlreadyExistsException e) {
        // Another part of the program has the jar open, and closes it.
        String inside = settings.toString().substring(settings.toString().lastIndexOf('!') + 1);
        copyAll(FileSystems.getFileSystem(settings).getPath(inside).getParent(), root);
      }
    } else {
      copyAll(Path.of(settings).getParent(), root);
    }
  }

  private static void copyAll(Path from, Path to) throws IOException {
    List<Path> files;
    try (Stream<Path> all = Files.walk(from)) {
      files = all.toList();
    }
    for (Path file : files) {
      Path target = to.resolve(from.relativize(file).toString());
      if (Files.isDirectory(file)) {
        Files.createDirectories(target);
      } else {
        Files.copy(file, target);
      }
    }
  }

  /** Deletes the copy; what cannot be deleted stays among the temporary files. */
  void delete() {
    try (Stream<Path> all = Files.walk(root)) {
      all.sorted(Comparator.reverseOrder()).forEach(file -> file.toFile().delete());
    } catch (IOException e) {
      // It is a temporary folder.
      return;
    }
  }
}
