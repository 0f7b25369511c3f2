package org.wornladder.engine.sqlite;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import org.wornladder.UnreachableException;
import org.wornladder.engine.Access;
import org.wornladder.engine.Target;

/**
 * The file behind a SQLite URL: {@code jdbc:sqlite:PATH} or {@code jdbc:sqlite:file:PATH}, with
 * parameters behind a question mark. A relative path is taken from the project's folder.
 *
 * @param path absolute; empty for a database in memory
 * @param shown the path as the settings write it
 * @param parameters with their question mark; may be empty
 */
record SqliteFile(Optional<Path> path, String shown, boolean uri, String parameters) {
  static final String PREFIX = "jdbc:sqlite:";
  private static final String FILE = "file:";
  private static final String MEMORY = ":memory:";

  static SqliteFile of(String url, Path root) {
    String rest = url.substring(PREFIX.length());
    boolean uri = rest.startsWith(FILE);
    String named = uri ? rest.substring(FILE.length()) : rest;
    int question = named.indexOf('?');
    String parameters = question < 0 ? "" : named.substring(question);
    String shown = question < 0 ? named : named.substring(0, question);
    boolean memory = shown.isEmpty() || shown.equals(MEMORY) || parameters.contains("mode=memory");
    return new SqliteFile(
        memory ? Optional.empty() : Optional.of(root.resolve(shown).normalize()),
        memory ? MEMORY : shown,
        uri,
        parameters);
  }

  boolean isThere() {
    return path.isEmpty() || Files.exists(path.get());
  }

  /** The URL to open. To read a database that is not there yet is to read an empty one. */
  String url(Access access) {
    if (path.isEmpty() || (access == Access.READ && !isThere())) {
      return PREFIX + MEMORY;
    }
    String file =
        uri ? path.get().toUri().toString().replace("file:///", "file:/") : path.get().toString();
    return PREFIX + file + parameters;
  }

  /** Refuses what cannot become a database, with a clearer word than the library has. */
  void check(Target target, Access access) {
    if (path.isEmpty()) {
      return;
    }
    String where = "environment " + target.environment().name() + ", " + shown;
    if (Files.isDirectory(path.get())) {
      throw new UnreachableException(
          "the database is a folder, not a file", where, "name a file in the url", null);
    }
    Path folder = path.get().toAbsolutePath().getParent();
    if (!Files.isDirectory(folder)) {
      Path near = folder.startsWith(target.root()) ? target.root().relativize(folder) : folder;
      String made = near.toString().isEmpty() ? folder.toString() : near.toString();
      throw new UnreachableException(
          "the folder of the database is missing", where, "mkdir -p " + made, null);
    }
    if (Files.exists(path.get()) && !Files.isReadable(path.get())) {
      throw new UnreachableException(
          "the database file may not be read", where, "see who owns it: ls -l " + shown, null);
    }
    boolean asked = parameters.contains("mode=ro") || parameters.contains("immutable=1");
    if (access == Access.WRITE && asked) {
      throw new UnreachableException(
          "the database is read-only: the url says so", where, "take the parameter out", null);
    }
    if (access == Access.WRITE && Files.exists(path.get()) && !Files.isWritable(path.get())) {
      throw new UnreachableException(
          "the database file is read-only", where, "see who may write it: ls -l " + shown, null);
    }
  }
}
