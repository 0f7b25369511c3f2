package org.wornladder.project;

import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.wornladder.ProjectException;

/**
 * A seed file on its way: rows that it has already are kept or changed, in their order; rows that
 * are not named go; others come behind them. Values are texts as the database gives them, empty for
 * NULL.
 */
public interface SeedOutput extends AutoCloseable {
  /**
   * Begins to write a seed's file.
   *
   * @param columns those of the file, in its order
   * @param isNew whether the file is written from the start
   * @param isTrial whether nothing is written, and {@link #replace} not called
   * @throws ProjectException if it cannot be written
   */
  static SeedOutput begin(
      Path root, Seed seed, List<SeedColumn> columns, boolean isNew, boolean isTrial) {
    PendingFile file = PendingFile.begin(root, seed.file(), isTrial);
    try {
      if (isNew) {
        return new SeedWriter(file, seed.form(), columns);
      }
      SeedSource source = new SeedSource(root, seed.file(), bytes -> {});
      return switch (seed.form()) {
        case CSV -> new CsvRevision(file, source);
        case JSON -> new JsonRevision(file, source, columns);
        default -> new YamlRevision(file, source, columns);
      };
    } catch (ProjectException e) {
      file.close();
      throw e;
    }
  }

  /** Keeps a row as it is written. */
  void keep(long position);

  /**
   * Gives a row other values.
   *
   * @param values by the number of their column; the others stay as they are written
   */
  void change(long position, Map<Integer, Optional<String>> values);

  /** Adds a row behind the others. */
  void add(List<Optional<String>> values);

  /** Completes the file beside the one that it replaces. */
  void complete();

  /** Puts the completed file in its place. */
  void replace();

  @Override
  void close();
}
