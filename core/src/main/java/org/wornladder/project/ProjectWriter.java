package org.wornladder.project;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.time.LocalDateTime;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.stream.Stream;
import org.wornladder.Advice;
import org.wornladder.ProjectException;
import org.wornladder.sql.Place;

/** Writes the files of a new project, and rungs. */
public final class ProjectWriter {
  private static final List<String> FOLDERS =
      List.of("rungs", "standing", "schema", "seeds", "data");

  /** Where the files of folded rungs are kept. */
  public static final String FOLDED = ProjectReader.RUNGS + "/folded";

  private static final String IGNORE = ".gitignore";

  /** How a moment is written as a rung's number. */
  public static final DateTimeFormatter TIMESTAMP = DateTimeFormatter.ofPattern("yyyyMMddHHmmss");

  private ProjectWriter() {}

  /**
   * Makes a project in a folder, which is made if it is not there. Files that are there stay as
   * they are; a {@code .gitignore} gets the lines that it lacks.
   *
   * @return the files written, relative to the folder
   * @throws ProjectException if the folder holds a project already or cannot be written
   */
  public static List<String> init(Path root) {
    if (Files.exists(root.resolve(ProjectReader.SETTINGS))) {
      throw ProjectException.of(
          Place.of(root.resolve(ProjectReader.SETTINGS).toString()),
          "this folder holds a ladder project already",
          Advice.of(Advice.Code.WRITE_RUNG));
    }
    try {
      List<String> written = new ArrayList<>();
      for (String folder : FOLDERS) {
        Files.createDirectories(root.resolve(folder));
      }
      String settings = template(ProjectReader.SETTINGS).replace("NAME", nameOf(root));
      write(root, ProjectReader.SETTINGS, settings, written);
      for (String schema : List.of(EditorSchemas.SETTINGS, EditorSchemas.SAMPLE)) {
        if (EditorSchemas.write(root, schema)) {
          written.add(schema);
        }
      }
      write(root, ".env.sample", template("env.sample"), written);
      ignore(root, written);
      // Git keeps no empty folders, and a fresh clone wants this one.
      write(root, "data/" + IGNORE, "*\n!" + IGNORE + "\n", written);
      return List.copyOf(written);
    } catch (IOException e) {
      throw ProjectException.of(
          Place.of(root.toString()),
          "the project cannot be written: " + TextFiles.reason(e),
          "see that the folder can be written");
    }
  }

  private static String nameOf(Path root) {
    Path last = root.toAbsolutePath().normalize().getFileName();
    String name = last == null ? "" : last.toString().toLowerCase(Locale.ROOT);
    String word = name.replaceAll("[^a-z0-9]+", "-").replaceAll("^-|-$", "");
    return word.isEmpty() ? "ladder" : word;
  }

  private static void write(Path root, String file, String text, List<String> written)
      throws IOException {
    if (!Files.exists(root.resolve(file))) {
      new TextFiles(root).refuseOutside(file);
      Files.writeString(root.resolve(file), text);
      written.add(file);
    }
  }

  private static void ignore(Path root, List<String> written) throws IOException {
    Path path = root.resolve(IGNORE);
    List<String> present = Files.exists(path) ? Files.readAllLines(path) : List.of();
    StringBuilder missing = new StringBuilder();
    for (String line : template("gitignore").split("\n")) {
      if (!present.contains(line)) {
        missing.append(line).append('\n');
      }
    }
    if (missing.length() > 0) {
      Files.writeString(path, missing, StandardOpenOption.CREATE, StandardOpenOption.APPEND);
      written.add(IGNORE);
    }
  }

  static String template(String name) throws IOException {
    try (InputStream in = ProjectWriter.class.getResourceAsStream("template/" + name)) {
      return new String(in.readAllBytes(), StandardCharsets.UTF_8);
    }
  }

  /**
   * Writes the next rung.
   *
   * @param words what it is for; the file's name and its about line
   * @return the file, relative to the project
   * @throws ProjectException if the words hold no letter or digit, or the file cannot be written
   */
  public static String rung(Project project, String words, NewRung draft, String timestamp) {
    String file = file(nextLabel(project, timestamp), words, draft.ending());
    write(project, file, draft.text(about(words)));
    return file;
  }

  /**
   * The next rung, before it is written.
   *
   * @throws ProjectException if the words hold no letter or digit, or the text is no rung
   */
  public static Rung next(Project project, String words, RungDraft draft, String timestamp) {
    return rung(nextLabel(project, timestamp), words, draft.text(about(words)));
  }

  private static String file(String label, String words, String ending) {
    String name = RungNames.fileName(label, words, ending);
    if (RungNames.parse(name).isEmpty()) {
      throw ProjectException.of(
          Place.of(ProjectReader.RUNGS),
          "'" + words + "' holds no letter or digit",
          "name what the rung is for");
    }
    return ProjectReader.RUNGS + "/" + name;
  }

  private static Rung rung(String label, String words, String text) {
    String file = file(label, words, RungNames.SQL);
    RungNames.Parts parts = RungNames.parse(file.substring(file.indexOf('/') + 1)).orElseThrow();
    Problems problems = new Problems();
    Script script =
        ScriptParser.parse(file, text, ScriptParser.Form.RUNG, engine -> true, problems);
    if (problems.hasErrors()) {
      throw new ProjectException(problems.all());
    }
    return new Rung(parts.number(), parts.label(), parts.words(), script);
  }

  /**
   * Writes a rung that has no file yet.
   *
   * @throws ProjectException if that fails
   */
  public static void write(Project project, Rung rung) {
    write(project, rung.file(), rung.script().source());
  }

  private static void write(Project project, String file, String text) {
    new TextFiles(project.root()).refuseOutside(file);
    try {
      Files.createDirectories(project.root().resolve(ProjectReader.RUNGS));
      // Written whole under another name first: a rung that is half there must never be seen.
      Path part = Files.writeString(project.root().resolve(file + ".part"), text);
      Files.move(part, project.root().resolve(file), StandardCopyOption.ATOMIC_MOVE);
    } catch (IOException e) {
      throw ProjectException.of(
          Place.of(file), "the rung cannot be written: " + TextFiles.reason(e), "");
    }
  }

  static String about(String words) {
    String line = words.strip().replaceAll("\\s+", " ").replaceAll("\\p{Cntrl}", "");
    return line.substring(0, 1).toUpperCase(Locale.ROOT) + line.substring(1);
  }

  private static String nextLabel(Project project, String timestamp) {
    if (project.settings().numbering() == Settings.Numbering.TIMESTAMP) {
      return free(project, LocalDateTime.parse(timestamp, TIMESTAMP));
    }
    List<Rung> rungs = project.rungs();
    long highest = rungs.isEmpty() ? 0 : rungs.get(rungs.size() - 1).number();
    return RungNames.label(highest + 1);
  }

  /** The first second from a moment on that no rung has. */
  private static String free(Project project, LocalDateTime moment) {
    String label = TIMESTAMP.format(moment);
    return project.rung(Long.parseLong(label)).isPresent()
        ? free(project, moment.plusSeconds(1))
        : label;
  }

  /**
   * Gives a rung's file another number.
   *
   * @return the new file, relative to the project
   * @throws ProjectException if that fails, or if it is there already
   */
  public static String renumber(Project project, Rung rung, long number) {
    String words = rung.file().substring(rung.file().indexOf('-'));
    String file = ProjectReader.RUNGS + "/" + RungNames.label(number) + words;
    new TextFiles(project.root()).refuseOutside(file);
    try {
      Files.move(project.root().resolve(rung.file()), project.root().resolve(file));
      return file;
    } catch (IOException e) {
      throw ProjectException.of(
          Place.of(rung.file()), "the file cannot be renamed: " + TextFiles.reason(e), "");
    }
  }

  /**
   * Gives a rung's file another text.
   *
   * @throws ProjectException if that fails; the file is unchanged then
   */
  public static void rewrite(Project project, Rung rung, String text) {
    new TextFiles(project.root()).refuseOutside(rung.file());
    try {
      Path part = Files.writeString(project.root().resolve(rung.file() + ".part"), text);
      Files.move(
          part,
          project.root().resolve(rung.file()),
          StandardCopyOption.ATOMIC_MOVE,
          StandardCopyOption.REPLACE_EXISTING);
    } catch (IOException e) {
      throw ProjectException.of(
          Place.of(rung.file()), "the rung cannot be written: " + TextFiles.reason(e), "");
    }
  }

  /**
   * The rung that stands for others, which has the number of the last of them. Nothing is written.
   *
   * @param rungs the lowest first
   * @throws ProjectException if the text is no rung
   */
  public static Rung fold(String words, List<Rung> rungs, String text) {
    return rung(rungs.get(rungs.size() - 1).label(), words, text);
  }

  /**
   * Writes a rung in the place of others. Their files are copied before any of them goes, so that
   * nothing is lost wherever this stops.
   *
   * @param deletes whether no copies stay
   * @throws ProjectException if that fails
   */
  public static void replace(Project project, List<Rung> rungs, Rung fold, boolean deletes) {
    new TextFiles(project.root()).refuseOutside(fold.file());
    new TextFiles(project.root()).refuseOutside(FOLDED);
    Path root = project.root();
    try {
      Files.createDirectories(root.resolve(FOLDED));
      for (Rung rung : rungs) {
        Path file = root.resolve(rung.file());
        Files.copy(
            file,
            root.resolve(FOLDED).resolve(file.getFileName()),
            StandardCopyOption.REPLACE_EXISTING);
      }
      Path part = Files.writeString(root.resolve(fold.file() + ".part"), fold.script().source());
      for (Rung rung : rungs) {
        Files.delete(root.resolve(rung.file()));
      }
      Files.move(part, root.resolve(fold.file()), StandardCopyOption.ATOMIC_MOVE);
      if (deletes) {
        for (Rung rung : rungs) {
          Files.delete(root.resolve(FOLDED).resolve(root.resolve(rung.file()).getFileName()));
        }
        deleteIfEmpty(root.resolve(FOLDED));
      }
    } catch (IOException e) {
      throw ProjectException.of(
          Place.of(fold.file()),
          "the files cannot be changed: " + TextFiles.reason(e),
          "those that went are in " + FOLDED + "/");
    }
  }

  private static void deleteIfEmpty(Path folder) throws IOException {
    try (Stream<Path> files = Files.list(folder)) {
      if (files.findAny().isPresent()) {
        return;
      }
    }
    Files.delete(folder);
  }

  /**
   * Deletes a rung's file.
   *
   * @throws ProjectException if that fails
   */
  public static void delete(Project project, Rung rung) {
    try {
      Files.delete(project.root().resolve(rung.file()));
    } catch (IOException e) {
      throw ProjectException.of(
          Place.of(rung.file()), "the file cannot be deleted: " + TextFiles.reason(e), "");
    }
  }
}
