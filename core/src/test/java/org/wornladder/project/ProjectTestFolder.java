package org.wornladder.project;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;

/** A project in a temporary folder, written file by file. */
final class ProjectTestFolder {
  static final String SETTINGS =
      """
      name: hollowfield
      environments:
        dev:
          url: jdbc:sqlite:data/dev.db
        live:
          url: ${LIVE_URL}
      values:
        season: "2026"
      """;

  private final Path root;

  ProjectTestFolder(Path root) {
    this.root = root;
    file("ladder.yaml", SETTINGS);
  }

  ProjectTestFolder file(String name, String text) {
    try {
      Files.createDirectories(root.resolve(name).getParent());
      Files.writeString(root.resolve(name), text);
      return this;
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  Project read() {
    return ProjectReader.read(root);
  }

  /** Everything that reading finds, as {@code place message / next}. */
  List<String> problems() {
    return ProjectReader.examine(root).problems().stream()
        .map(problem -> problem.place() + " " + problem.message() + " / " + problem.next())
        .toList();
  }
}
