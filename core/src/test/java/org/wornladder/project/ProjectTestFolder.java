package org.wornladder.project;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.wornladder.Advice;

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
    return ProjectReader.read(root, name -> false);
  }

  /** Everything that reading finds, as {@code place message / next}. */
  List<String> problems() {
    return ProjectReader.examine(root, name -> false).problems().stream()
        .map(problem -> problem.place() + " " + problem.message() + " / " + text(problem.advice()))
        .toList();
  }

  /** A hint as it is; other advice by its code. */
  private static String text(Advice advice) {
    return switch (advice.code()) {
      case NONE -> "";
      case HINT -> advice.facts().get(0);
      default -> advice.code() + " " + String.join(" ", advice.facts());
    };
  }
}
