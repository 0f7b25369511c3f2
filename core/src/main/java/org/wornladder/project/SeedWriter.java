package org.wornladder.project;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.wornladder.sql.Place;

/**
 * Writes rows as a seed file: CSV by RFC 4180, a header of column names, an empty unquoted field
 * for NULL and {@code ""} for an empty text.
 */
public final class SeedWriter {
  private static final String FOLDER = "seeds";

  private SeedWriter() {}

  /**
   * Writes the rows of a table; a file that is there already is replaced.
   *
   * @return the file, relative to the project
   * @throws ProjectException if it cannot be written
   */
  public static String csv(
      Path root, String table, List<String> columns, List<List<Optional<String>>> rows) {
    String file = FOLDER + "/" + SchemaWriter.fileName(table) + ".csv";
    StringBuilder text = new StringBuilder();
    line(text, columns.stream().map(Optional::of).toList());
    rows.forEach(row -> line(text, row));
    try {
      Path path = root.resolve(file);
      Files.createDirectories(path.getParent());
      Path part = path.resolveSibling(path.getFileName() + ".part");
      Files.writeString(part, text);
      Files.move(part, path, StandardCopyOption.ATOMIC_MOVE);
      return file;
    } catch (IOException e) {
      throw ProjectException.of(
          Place.of(file), "the file cannot be written: " + TextFiles.reason(e), "");
    }
  }

  private static void line(StringBuilder text, List<Optional<String>> values) {
    List<String> fields = new ArrayList<>();
    for (Optional<String> value : values) {
      fields.add(value.map(SeedWriter::field).orElse(""));
    }
    text.append(String.join(",", fields)).append('\n');
  }

  private static String field(String value) {
    boolean plain = !value.isEmpty() && value.chars().noneMatch(c -> ",\"\r\n".indexOf(c) >= 0);
    return plain ? value : "\"" + value.replace("\"", "\"\"") + "\"";
  }
}
