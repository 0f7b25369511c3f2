package org.wornladder.project;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import org.wornladder.ProjectException;
import org.wornladder.sql.Place;

/** Adds to lists in a project's settings; all else in the file stays as it is. */
public final class SettingsLists {
  private SettingsLists() {}

  /**
   * Adds a pattern to what is ignored.
   *
   * @param pattern such as {@code table:legacy_*}
   * @throws ProjectException if it is no pattern, or the list has a form that is not known here;
   *     the file is unchanged then
   */
  public static void ignore(Path root, String pattern) {
    String item = "'" + pattern.replace("'", "''") + "'";
    add(root, "ignore:", item, settings -> settings.ignore().contains(pattern));
  }

  /**
   * Adds a seed of a table, its rows in the file of the table's name.
   *
   * @param key the columns by which rows are found; empty for the primary key
   * @throws ProjectException if the list has a form that is not known here; the file is unchanged
   *     then
   */
  public static void seed(Path root, String table, List<String> key) {
    String names = key.stream().map(SettingsLists::word).collect(Collectors.joining(", "));
    String item =
        "{ table: " + word(table) + (key.isEmpty() ? "" : ", key: [" + names + "]") + " }";
    add(
        root,
        "seeds:",
        item,
        settings -> settings.seeds().stream().anyMatch(seed -> seed.label().equals(table)));
  }

  private static String word(String name) {
    return YamlText.string(name, true);
  }

  private static void add(Path root, String key, String item, Predicate<Settings> isThere) {
    Path file = root.resolve(ProjectReader.SETTINGS);
    try {
      String text = Files.readString(file, StandardCharsets.UTF_8);
      String longer = with(text, key, item);
      check(longer, key, item, isThere);
      Path written = Files.writeString(root.resolve(ProjectReader.SETTINGS + ".new"), longer);
      Files.move(written, file, StandardCopyOption.REPLACE_EXISTING);
    } catch (IOException e) {
      throw ProjectException.of(
          Place.of(ProjectReader.SETTINGS),
          "it cannot be written: " + TextFiles.reason(e),
          "see that you may write it");
    }
  }

  private static void check(String text, String key, String item, Predicate<Settings> isThere) {
    Problems problems = new Problems();
    Optional<Settings> settings =
        SettingsReader.read(ProjectReader.SETTINGS, text, file -> false, problems);
    if (problems.hasErrors()) {
      throw new ProjectException(problems.all());
    }
    if (!isThere.test(settings.orElseThrow())) {
      throw ProjectException.of(
          Place.of(ProjectReader.SETTINGS),
          "the list under " + key + " has a form that cannot be added to",
          "write " + item + " there by hand");
    }
  }

  private static String with(String text, String key, String item) {
    List<String> lines = new ArrayList<>(List.of(text.split("\n", -1)));
    for (int i = 0; i < lines.size(); i++) {
      String line = lines.get(i);
      if (line.startsWith(key)) {
        String rest = line.substring(key.length());
        int close = rest.lastIndexOf(']');
        if (close >= 0) {
          boolean empty = rest.substring(rest.indexOf('[') + 1, close).isBlank();
          lines.set(
              i,
              key + rest.substring(0, close) + (empty ? "" : ", ") + item + rest.substring(close));
        } else {
          int end = endOfList(lines, i + 1);
          lines.add(end, indent(lines, i + 1, end) + "- " + item);
        }
        return String.join("\n", lines);
      }
    }
    return text + (text.endsWith("\n") ? "" : "\n") + "\n" + key + "\n  - " + item + "\n";
  }

  /** Behind the last item of the list whose lines begin at a place. */
  private static int endOfList(List<String> lines, int from) {
    int end = from;
    for (int i = from; i < lines.size() && isOfList(lines.get(i)); i++) {
      if (lines.get(i).strip().startsWith("-")) {
        end = i + 1;
      }
    }
    return end;
  }

  private static boolean isOfList(String line) {
    return line.isBlank() || line.startsWith(" ") || line.startsWith("-") || line.startsWith("#");
  }

  private static String indent(List<String> lines, int from, int end) {
    for (String line : lines.subList(from, end)) {
      if (line.strip().startsWith("-")) {
        return line.substring(0, line.indexOf('-'));
      }
    }
    return "  ";
  }
}
