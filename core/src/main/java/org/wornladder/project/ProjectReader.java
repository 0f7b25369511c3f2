package org.wornladder.project;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import org.wornladder.Advice;
import org.wornladder.ProjectException;
import org.wornladder.sql.Place;

/** Reads a project's folder. */
public final class ProjectReader {
  public static final String SETTINGS = "ladder.yaml";

  /** In bytes. */
  private static final long LARGEST_SETTINGS = 1 << 20;

  public static final String RUNGS = "rungs";
  static final String STANDING = "standing";

  private final Path root;
  private final TextFiles files;
  private final Problems problems = new Problems();

  private final String without;
  private Predicate<String> otherEngines;

  private ProjectReader(Path root, String without, Predicate<String> otherEngines) {
    this.otherEngines = otherEngines;
    this.root = root;
    this.without = without;
    files = new TextFiles(root);
  }

  /**
   * What reading found, with everything wrong. The project is empty if the settings are unusable.
   */
  public record Reading(Optional<Project> project, List<Problem> problems) {}

  /**
   * The project in a folder.
   *
   * @param otherEngines whether a name is that of an engine besides those that are built in
   * @throws ProjectException with every error found
   */
  public static Project read(Path root, Predicate<String> otherEngines) {
    return readWithout(root, "", otherEngines);
  }

  /**
   * The project in a folder as it would be without one of its rungs, which may have another's
   * number.
   *
   * @param rung the file to leave out; empty for none
   * @throws ProjectException with every error found
   */
  public static Project readWithout(Path root, String rung, Predicate<String> otherEngines) {
    return good(new ProjectReader(root.toAbsolutePath().normalize(), rung, otherEngines).run());
  }

  private static Project good(Reading reading) {
    List<Problem> errors = new ArrayList<>(reading.problems());
    errors.removeIf(problem -> !problem.isError());
    if (!errors.isEmpty()) {
      throw new ProjectException(errors);
    }
    return reading.project().orElseThrow();
  }

  /**
   * Reads a project and keeps what is wrong instead of failing.
   *
   * @throws ProjectException if the folder holds no project
   */
  public static Reading examine(Path root, Predicate<String> otherEngines) {
    return new ProjectReader(root.toAbsolutePath().normalize(), "", otherEngines).run();
  }

  private Reading run() {
    if (!files.isThere(SETTINGS)) {
      throw ProjectException.of(
          Place.of(root.toString()),
          "this folder holds no ladder project: there is no " + SETTINGS,
          Advice.of(Advice.Code.INIT_OR_NAME_PROJECT));
    }
    if (files.isLarger(SETTINGS, LARGEST_SETTINGS)) {
      problems.error(
          Place.of(SETTINGS),
          "these are more than " + (LARGEST_SETTINGS >> 20) + " MB of settings",
          "see that it is the right file");
    }
    Optional<Settings> settings =
        (problems.hasErrors() ? Optional.<String>empty() : files.read(SETTINGS, problems))
            .flatMap(text -> SettingsReader.read(SETTINGS, text, files::isThere, problems));
    settings.ifPresent(known -> otherEngines = otherEngines.or(known.driverNames()::contains));
    List<Rung> rungs = rungs();
    List<StandingScript> standing = StandingScript.inOrder(standing());
    settings.ifPresent(known -> new References(known, standing, problems).check(rungs));
    List<Problem> notes = new ArrayList<>(problems.all());
    notes.removeIf(Problem::isError);
    return new Reading(
        settings.map(known -> new Project(root, known, rungs, standing, notes)), problems.all());
  }

  private List<Rung> rungs() {
    List<Rung> rungs = new ArrayList<>();
    List<String> names = new ArrayList<>(files.names(RUNGS, RungNames.SQL));
    names.addAll(files.names(RUNGS, RungNames.JSON));
    for (String name : names) {
      String file = RUNGS + "/" + name;
      if (file.equals(without)) {
        continue;
      }
      Optional<RungNames.Parts> parts = RungNames.parse(name);
      if (parts.isEmpty()) {
        String found = "this name is not <number>-<words>.sql or .json";
        problems.error(Place.of(file), found, "rename it, for example to 0007-bins.sql");
        continue;
      }
      Optional<Script> script = script(file, ScriptParser.Form.RUNG);
      if (script.isPresent()) {
        rungs.add(rung(parts.get(), script.get()));
      }
    }
    rungs.sort((a, b) -> Long.compare(a.number(), b.number()));
    checkNumbers(rungs);
    return List.copyOf(rungs);
  }

  private static Rung rung(RungNames.Parts parts, Script script) {
    return new Rung(parts.number(), parts.label(), parts.words(), script);
  }

  private void checkNumbers(List<Rung> rungs) {
    for (int i = 1; i < rungs.size(); i++) {
      Rung before = rungs.get(i - 1);
      Rung rung = rungs.get(i);
      if (rung.number() == before.number()) {
        String found = before.file() + " has the same number";
        problems.error(
            Place.of(rung.file()), found, Advice.of(Advice.Code.RENUMBER_FILE, rung.file()));
      }
    }
  }

  private List<StandingScript> standing() {
    List<StandingScript> scripts = new ArrayList<>();
    for (String name : files.names(STANDING, RungNames.SQL)) {
      script(STANDING + "/" + name, ScriptParser.Form.STANDING)
          .map(script -> new StandingScript(name.substring(0, name.length() - 4), script))
          .ifPresent(scripts::add);
    }
    return scripts;
  }

  private Optional<Script> script(String file, ScriptParser.Form form) {
    Optional<String> text = files.read(file, problems);
    if (text.isPresent() && file.endsWith(RungNames.JSON)) {
      return Optional.of(JsonScript.parse(file, text.get(), problems));
    }
    return text.isEmpty()
        ? Optional.empty()
        : Optional.of(ScriptParser.parse(file, text.get(), form, otherEngines, problems));
  }

  /** Checks the names by which files speak of environments and of each other. */
  private record References(Settings settings, List<StandingScript> standing, Problems problems) {
    void check(List<Rung> rungs) {
      Set<String> names = new HashSet<>();
      standing.forEach(script -> names.add(script.name()));
      for (Rung rung : rungs) {
        checkNames(
            rung.script(), "only-in", rung.script().header().onlyIn(), settings.environmentNames());
        for (String lifted : rung.script().header().lifts()) {
          if (!names.contains(lifted)) {
            // The script may have been deleted since; its journalled way down still serves.
            String found = "lifts names '" + lifted + "', which is not in " + STANDING + "/";
            problems.note(Place.of(rung.file()), found, NearestWord.advice(lifted, names));
          }
        }
      }
      for (StandingScript script : standing) {
        Header header = script.script().header();
        checkNames(script.script(), "only-in", header.onlyIn(), settings.environmentNames());
        checkNames(script.script(), "needs", header.needs(), List.copyOf(names));
        if (header.needs().contains(script.name())) {
          problems.error(Place.of(script.script().file()), "the script needs itself", "");
        }
      }
    }

    private void checkNames(Script script, String key, List<String> used, List<String> known) {
      for (String name : used) {
        if (!known.contains(name)) {
          String found = key + " names '" + name + "', which is not there";
          problems.error(Place.of(script.file()), found, NearestWord.advice(name, known));
        }
      }
    }
  }
}
