package org.wornladder.project;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.wornladder.ProjectException;
import org.wornladder.sql.Place;

/** Writes the declared structure: one file an object, in folders by kind. */
public final class SchemaWriter {
  private static final int LONGEST_NAME = 80;

  private SchemaWriter() {}

  /**
   * One object's text.
   *
   * @param folder its kind's
   * @param name its own; several of one name are in one file
   */
  public record Declared(String folder, String name, String text) {}

  /**
   * Writes files; others in the folder stay.
   *
   * @return the files, relative to the project, sorted
   * @throws ProjectException if one cannot be written
   */
  public static List<String> write(Path root, List<Declared> objects) {
    Map<String, List<String>> texts = new TreeMap<>();
    for (Declared object : objects) {
      String file = file(root, object.folder(), object.name());
      texts.computeIfAbsent(file, key -> new ArrayList<>()).add(object.text());
    }
    texts.forEach((file, parts) -> write(root, file, String.join("\n", parts)));
    return List.copyOf(texts.keySet());
  }

  /** An object's file: the one that is there, in whatever case its name is. */
  private static String file(Path root, String folder, String name) {
    String wanted = fileName(name) + ".sql";
    Path place = root.resolve(SchemaFiles.FOLDER).resolve(folder);
    String[] names = Optional.ofNullable(place.toFile().list()).orElse(new String[0]);
    String found =
        Arrays.stream(names)
            .filter(wanted::equalsIgnoreCase)
            .min(Comparator.comparing((String one) -> !one.equals(wanted)))
            .orElse(wanted);
    return SchemaFiles.FOLDER + "/" + folder + "/" + found;
  }

  /**
   * Deletes an object's file.
   *
   * @return the file, relative to the project; empty if there is none
   * @throws ProjectException if it cannot be deleted
   */
  public static Optional<String> delete(Path root, String folder, String name) {
    String file = file(root, folder, name);
    new TextFiles(root).refuseOutside(file);
    try {
      return Files.deleteIfExists(root.resolve(file)) ? Optional.of(file) : Optional.empty();
    } catch (IOException e) {
      throw ProjectException.of(
          Place.of(file), "the file cannot be deleted: " + TextFiles.reason(e), "");
    }
  }

  private static void write(Path root, String file, String text) {
    new TextFiles(root).refuseOutside(file);
    try {
      Path path = root.resolve(file);
      Files.createDirectories(path.getParent());
      Path part = path.resolveSibling(path.getFileName() + ".part");
      Files.writeString(part, text);
      Files.move(part, path, StandardCopyOption.ATOMIC_MOVE);
    } catch (IOException e) {
      throw ProjectException.of(
          Place.of(file), "the file cannot be written: " + TextFiles.reason(e), "");
    }
  }

  /** A name that every file system takes; one that had to be changed gets a number. */
  static String fileName(String name) {
    if (isPlain(name)) {
      return name;
    }
    String safe = name.replaceAll("[^\\p{L}\\p{N}_-]+", "-").replaceAll("^-+|-+$", "");
    boolean same = safe.equals(name) && safe.length() <= LONGEST_NAME && !safe.isEmpty();
    String end = same ? "" : "-" + Integer.toHexString(name.hashCode());
    return safe.substring(0, Math.min(safe.length(), LONGEST_NAME)) + end;
  }

  /** Whether it is sure to be taken as it is, without a look at patterns. */
  private static boolean isPlain(String name) {
    for (int i = 0; i < name.length(); i++) {
      char sign = name.charAt(i);
      boolean letter = sign >= 'a' && sign <= 'z' || sign >= 'A' && sign <= 'Z';
      if (!letter && sign != '_' && (sign < '0' || sign > '9')) {
        return false;
      }
    }
    return !name.isEmpty() && name.length() <= LONGEST_NAME;
  }
}
