package org.wornladder.bench;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;

/**
 * Whole processes, start-up included, in turn with their references. Prints a line a measurement:
 * medians in milliseconds, the median of the ratios pair by pair, and the number to reach.
 */
public final class ProcessBench {
  private static final int RUNGS = 1000;
  private static final Map<String, String> SMALL_HEAP = Map.of("JAVA_TOOL_OPTIONS", "-Xmx64m");

  private final Path ladder;
  private final Path classes;
  private final Path work;
  private final int runs;

  private ProcessBench(Path distribution, Path classes, Path work, int runs) {
    this.ladder = distribution.resolve("bin/ladder");
    this.classes = classes;
    this.work = work;
    this.runs = runs;
  }

  /**
   * @param args the distribution's folder, the folder of these classes, a folder to work in on a
   *     disk that syncs, and how many runs of each
   */
  public static void main(String[] args) throws Exception {
    Path work = Files.createTempDirectory(Files.createDirectories(Path.of(args[2])), "run");
    new ProcessBench(Path.of(args[0]), Path.of(args[1]), work, Integer.parseInt(args[3])).run();
    delete(work);
  }

  private void run() throws Exception {
    System.out.printf(
        "%-44s %9s %9s %7s %9s%n", "median of " + runs, "ladder", "reference", "ratio", "to reach");
    Path project = work.resolve("status");
    SampleLadder.write(project, project.resolve("dev.db"), RUNGS);
    Timing.once(project, List.of(ladder.toString(), "apply"), Timing.NONE);
    compare("--version, against java Hello", project, ladder("--version"), hello(), "2");
    Timing.once(work, ladder("demo"), Timing.NONE);
    Path demo = work.resolve("hollowfield");
    compare("status of the demo, against java Hello", demo, ladder("status"), hello(), "6");
    compare("status of 1,000 rungs, against java Hello", project, ladder("status"), hello(), "");
    Path bare = withoutArchive();
    List<String> slow = List.of(bare.resolve("bin/ladder").toString(), "status");
    compare("  the same without the archive", project, slow, hello(), "");
    Timing.once(project, ladder("status"), SMALL_HEAP);
    apply("apply of 1,000 rungs, on disk", work.resolve("disk"), "1.3");
  }

  private List<String> ladder(String... args) {
    List<String> command = new ArrayList<>(List.of(ladder.toString()));
    command.addAll(List.of(args));
    return command;
  }

  private List<String> hello() {
    return List.of(
        "java",
        "-XX:TieredStopAtLevel=1",
        "-XX:+UseSerialGC",
        "-cp",
        classes.toString(),
        Hello.class.getName());
  }

  private Path withoutArchive() throws Exception {
    Path bare = work.resolve("bare");
    Timing.once(
        work,
        List.of("cp", "-r", ladder.getParent().getParent().toString(), bare.toString()),
        Timing.NONE);
    try (Stream<Path> files = Files.list(bare.resolve("lib"))) {
      for (Path file : files.filter(name -> name.toString().matches(".*\\.(jsa|aot)")).toList()) {
        Files.delete(file);
      }
    }
    return bare;
  }

  /** The same statements, journal writes and transactions, by the program and by the shell. */
  private void apply(String title, Path folder, String goal) throws Exception {
    Path database = folder.resolve("dev.db");
    SampleLadder.write(folder, database, RUNGS);
    Timing.once(folder, ladder("apply"), SMALL_HEAP);
    Path script = folder.resolve("same.sql");
    Files.writeString(script, shellScript(database));
    Path reference = folder.resolve("reference.db");
    List<String> shell = List.of("sh", "-c", "exec sqlite3 " + reference + " <" + script);
    List<Double> own = new ArrayList<>();
    List<Double> theirs = new ArrayList<>();
    for (int i = 0; i < runs; i++) {
      Files.deleteIfExists(database);
      own.add(Timing.once(folder, ladder("apply"), Timing.NONE));
      Files.deleteIfExists(reference);
      theirs.add(Timing.once(folder, shell, Timing.NONE));
    }
    Timing.print(title, own, theirs, goal);
  }

  private static String shellScript(Path database) throws SQLException {
    StringBuilder script = new StringBuilder("PRAGMA foreign_keys = ON;\n");
    try (Connection connection = DriverManager.getConnection("jdbc:sqlite:" + database);
        Statement sql = connection.createStatement()) {
      String table = "";
      try (ResultSet row =
          sql.executeQuery("SELECT sql FROM sqlite_schema WHERE name = 'ladder_journal'")) {
        table = row.getString(1) + ";\n";
      }
      try (ResultSet rows = sql.executeQuery("SELECT * FROM ladder_journal ORDER BY number")) {
        int columns = rows.getMetaData().getColumnCount();
        for (int i = 0; rows.next(); i++) {
          script
              .append("BEGIN IMMEDIATE;\n")
              .append(SampleLadder.up(i))
              .append(i == 0 ? table : "");
          script.append("INSERT INTO ladder_journal VALUES (");
          for (int column = 1; column <= columns; column++) {
            String text = rows.getString(column).replace("'", "''");
            script.append(column == 1 ? "'" : ", '").append(text).append('\'');
          }
          script.append(");\nCOMMIT;\n");
        }
      }
    }
    return script.toString();
  }

  private void compare(
      String title, Path folder, List<String> own, List<String> reference, String goal)
      throws Exception {
    List<Double> ours = new ArrayList<>();
    List<Double> theirs = new ArrayList<>();
    Timing.once(folder, own, Timing.NONE);
    Timing.once(folder, reference, Timing.NONE);
    for (int i = 0; i < runs; i++) {
      ours.add(Timing.once(folder, own, Timing.NONE));
      theirs.add(Timing.once(folder, reference, Timing.NONE));
    }
    Timing.print(title, ours, theirs, goal);
  }

  private static void delete(Path folder) throws IOException {
    try (Stream<Path> files = Files.walk(folder)) {
      for (Path file : files.sorted(Comparator.reverseOrder()).toList()) {
        Files.delete(file);
      }
    }
  }
}
