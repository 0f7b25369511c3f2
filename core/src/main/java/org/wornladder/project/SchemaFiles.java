package org.wornladder.project;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import org.wornladder.ProjectException;
import org.wornladder.sql.Place;

/** The declared structure: the SQL files in {@code schema/} and the folders in it. */
public final class SchemaFiles {
  public static final String FOLDER = "schema";
  private static final String SQL = ".sql";

  private SchemaFiles() {}

  /**
   * A file.
   *
   * @param name relative to the project
   */
  public record SchemaFile(String name, String text) {}

  /**
   * All files, sorted by name; none if there is no such folder.
   *
   * @throws ProjectException if one cannot be read
   */
  public static List<SchemaFile> read(Path root) {
    Path folder = root.resolve(FOLDER);
    if (!Files.isDirectory(folder)) {
      return List.of();
    }
    List<String> names = new ArrayList<>();
    try (Stream<Path> all = Files.walk(folder)) {
      all.filter(path -> path.toString().endsWith(SQL) && !Files.isDirectory(path))
          .forEach(path -> names.add(root.relativize(path).toString()));
    } catch (IOException e) {
      throw ProjectException.of(
          Place.of(FOLDER), "the folder cannot be read: " + TextFiles.reason(e), "");
    }
    names.sort(null);
    TextFiles files = new TextFiles(root);
    Problems problems = new Problems();
    List<SchemaFile> read = new ArrayList<>();
    for (String name : names) {
      files.read(name, problems).ifPresent(text -> read.add(new SchemaFile(name, text)));
    }
    if (problems.hasErrors()) {
      throw new ProjectException(problems.all());
    }
    return List.copyOf(read);
  }
}
