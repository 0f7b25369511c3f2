package org.wornladder.bench;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/**
 * Rehearsals against {@code apply} of the same rungs: ten waiting ones on 200 tables, and 300 from
 * blank. On SQLite, and on the databases that {@code LADDER_BENCH_POSTGRES} and {@code
 * LADDER_BENCH_MARIADB} name, which are emptied; on PostgreSQL also with 500 callers.
 */
public final class RehearseBench {
  private static final int TABLES = 200;
  private static final int WAITING = 10;
  private static final int FROM_BLANK = 300;
  private static final int CALLERS = 500;

  private final Path ladder;
  private final Path work;
  private final int runs;

  private RehearseBench(Path distribution, Path work, int runs) {
    ladder = distribution.resolve("bin/ladder");
    this.work = work;
    this.runs = runs;
  }

  /**
   * @param args the distribution's folder, the folder of these classes, a folder to work in, and
   *     how many runs of each
   */
  public static void main(String[] args) throws Exception {
    Path work = Files.createTempDirectory(Files.createDirectories(Path.of(args[2])), "rehearse");
    new RehearseBench(Path.of(args[0]), work, Integer.parseInt(args[3])).run();
  }

  private void run() throws Exception {
    System.out.printf(
        "%-44s %9s %9s %7s %9s%n", "median of " + runs, "ladder", "reference", "ratio", "to reach");
    String sqlite = "jdbc:sqlite:" + work.resolve("dev.db");
    waiting(sqlite, "ten rungs on 200 tables, SQLite", "2 s", 0);
    blank(sqlite, "300 rungs from blank, SQLite", "2.2");
    String postgres = System.getenv("LADDER_BENCH_POSTGRES");
    if (postgres != null) {
      waiting(postgres, "ten rungs on 200 tables, PostgreSQL", "8 s", 0);
      waiting(postgres, "the same with 500 callers", "+ 2 s", CALLERS);
    }
    String mariadb = System.getenv("LADDER_BENCH_MARIADB");
    if (mariadb != null) {
      waiting(mariadb, "ten rungs on 200 tables, MariaDB", "25 s", 0);
    }
  }

  private List<String> ladder(String... args) {
    List<String> command = new ArrayList<>(List.of(ladder.toString()));
    command.addAll(List.of(args));
    return command;
  }

  /** Against the apply that made the tables. */
  private void waiting(String url, String title, String goal, int callers) throws Exception {
    Path project = project(url, TABLES, WAITING, callers);
    double applied = applied(project, "--to", Integer.toString(TABLES));
    List<Double> own = new ArrayList<>();
    List<Double> theirs = new ArrayList<>();
    for (int i = 0; i < runs; i++) {
      own.add(Timing.once(project, ladder("rehearse"), Timing.NONE));
      theirs.add(applied);
    }
    Timing.print(title, own, theirs, goal);
  }

  private void blank(String url, String title, String goal) throws Exception {
    Path project = project(url, FROM_BLANK, 0, 0);
    List<Double> own = new ArrayList<>();
    List<Double> theirs = new ArrayList<>();
    for (int i = 0; i < runs; i++) {
      theirs.add(applied(project));
      own.add(Timing.once(project, ladder("rehearse", "--from-blank"), Timing.NONE));
    }
    Timing.print(title, own, theirs, goal);
  }

  /** Milliseconds of an apply on an emptied database. */
  private double applied(Path project, String... options) throws Exception {
    String settings = Files.readString(project.resolve("ladder.yaml"));
    String name = settings.replaceFirst("(?s).*/([^/?']+)[?'].*", "$1");
    List<String> rebuild = ladder("rebuild", "--yes", "--confirm", name);
    rebuild.addAll(List.of(options));
    return Timing.once(project, rebuild, Map.of());
  }

  private Path project(String url, int tables, int changes, int callers) throws Exception {
    Path project = Files.createTempDirectory(work, "project");
    Files.createDirectories(project.resolve("rungs"));
    Files.createDirectories(project.resolve("callers"));
    Files.writeString(
        project.resolve("ladder.yaml"),
        "name: hollowfield\nenvironments:\n  dev: { url: '" + url + "', disposable: true }\n");
    for (int i = 1; i <= tables; i++) {
      String table = "bin_" + i;
      rung(
          project,
          i,
          "CREATE TABLE "
              + table
              + " (id integer PRIMARY KEY, code varchar(40) NOT NULL, weight integer);",
          "DROP TABLE " + table + ";");
    }
    for (int i = 1; i <= changes; i++) {
      String table = "bin_" + i;
      rung(
          project,
          tables + i,
          "ALTER TABLE " + table + " ADD COLUMN tare integer;",
          "ALTER TABLE " + table + " DROP COLUMN tare;");
    }
    StringBuilder statements = new StringBuilder();
    for (int i = 0; i < callers; i++) {
      statements
          .append("SELECT id, code FROM bin_")
          .append(1 + i % tables)
          .append(" WHERE weight > :least AND id <> ")
          .append(i)
          .append(";\n");
    }
    if (callers > 0) {
      Files.writeString(project.resolve("callers/bins.sql"), statements);
    }
    return project;
  }

  private static void rung(Path project, int number, String up, String down) throws Exception {
    Files.writeString(
        project.resolve("rungs/%04d-step.sql".formatted(number)),
        "--| up\n" + up + "\n--| down\n" + down + "\n");
  }
}
