package org.wornladder.project;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;

/**
 * JSON Schemas (draft 2020-12) by which an editor completes a project's files, as their first line
 * says.
 */
final class EditorSchemas {
  static final String SETTINGS = ".ladder/ladder.schema.json";
  static final String SAMPLE = ".ladder/sample.schema.json";

  /** The first line of a file in {@code seeds/} that says how rows are made up. */
  static final String SAMPLE_LINE = "# yaml-language-server: $schema=../" + SAMPLE + "\n";

  private EditorSchemas() {}

  /** Writes a schema into a project that does not have it; false if it has. */
  static boolean write(Path root, String file) throws IOException {
    Path path = root.resolve(file);
    if (Files.exists(path)) {
      return false;
    }
    new TextFiles(root).refuseOutside(file);
    Files.createDirectories(path.getParent());
    Files.writeString(path, ProjectWriter.template(path.getFileName().toString()));
    return true;
  }
}
