package org.wornladder.project;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.LongConsumer;
import java.util.function.Predicate;
import org.wornladder.ProjectException;
import org.wornladder.sql.Place;

/** Opens seeds. */
public final class SeedFiles {
  private static final int MOST_COLUMNS = 20_000;

  private SeedFiles() {}

  /**
   * The rows of a seed that is written as rows.
   *
   * @param onRead receives the number of bytes, as they are read
   * @throws ProjectException if the file is not there, or its columns cannot be read
   */
  public static SeedRows rows(Path root, Seed seed, LongConsumer onRead) {
    SeedSource source = new SeedSource(root, seed.file(), onRead);
    SeedRows rows =
        switch (seed.form()) {
          case CSV -> CsvSeed.open(source);
          case JSON -> JsonSeed.open(source);
          case YAML -> YamlSeed.open(source);
          case SAMPLE, SQL -> throw new IllegalArgumentException(seed.file() + " holds no rows");
        };
    int columns = rows.columns().size();
    if (columns > MOST_COLUMNS) {
      throw ProjectException.of(
          rows.header(),
          "the header has " + columns + " columns, which no table has",
          "see that this is the right file, and its first line the header");
    }
    return rows;
  }

  /**
   * A seed that is a script: plain SQL, or sections up for one engine or another.
   *
   * @param otherEngines whether a name is that of an engine besides those that are built in
   * @throws ProjectException if it is not there, or cannot be read
   */
  public static Script script(Path root, Seed seed, Predicate<String> otherEngines) {
    Problems problems = new Problems();
    Optional<String> text = new TextFiles(root).read(seed.file(), problems);
    if (problems.hasErrors()) {
      throw new ProjectException(problems.all());
    }
    String whole = text.orElseThrow();
    boolean plain = whole.lines().noneMatch(line -> line.startsWith("--|"));
    String form = plain ? "--| up\n" + whole : whole;
    Script script =
        ScriptParser.parse(seed.file(), form, ScriptParser.Form.STANDING, otherEngines, problems);
    if (problems.hasErrors()) {
      throw new ProjectException(problems.all());
    }
    return plain ? script.withTextAt(new Place(seed.file(), 1, 1)) : script;
  }

  /**
   * Reads a seed to its end.
   *
   * @throws ProjectException with what is wrong with it
   */
  public static void examine(Path root, Seed seed, Predicate<String> otherEngines) {
    switch (seed.form()) {
      case SQL -> script(root, seed, otherEngines);
      case SAMPLE -> SampleReader.read(root, seed);
      default -> rows(root, seed, bytes -> {}).<RuntimeException>each(row -> {});
    }
  }

  /**
   * The files among the seeds that no entry names.
   *
   * @param environments their names
   */
  public static List<String> unused(Path root, List<Seed> seeds, Collection<String> environments) {
    Set<String> named = new HashSet<>();
    for (Seed seed : seeds) {
      named.add(seed.file());
      environments.forEach(environment -> named.add(seed.in(environment).file()));
    }
    List<String> unused = new ArrayList<>();
    for (String name : new TextFiles(root).names(Seed.FOLDER, "")) {
      String file = Seed.FOLDER + "/" + name;
      boolean rows = !name.startsWith(".") && !name.endsWith(".md") && name.contains(".");
      if (rows && !named.contains(file)) {
        unused.add(file);
      }
    }
    return unused;
  }

  /** How many bytes a seed's file has; 0 if it is not there. */
  public static long size(Path root, Seed seed) {
    return root.resolve(seed.file()).toFile().length();
  }
}
