package org.wornladder.bench;

import java.io.BufferedWriter;
import java.net.URI;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;

/**
 * A million rows brought into a table beside the engines' own bulk ways followed by the same
 * upsert: {@code psql} on the database of {@code LADDER_BENCH_POSTGRES}, {@code mariadb} on that of
 * {@code LADDER_BENCH_MARIADB}, either of which may be missing, and {@code sqlite3}. The tables
 * {@code picking} and {@code bin} there are dropped.
 */
public final class SeedBench {
  private static final Map<String, String> HEAP = Map.of("JAVA_TOOL_OPTIONS", "-Xmx128m");
  private static final int ROWS = 1_000_000;
  private static final String COLUMNS =
      "id integer NOT NULL PRIMARY KEY, block varchar(20) NOT NULL, picked_on date NOT NULL,"
          + " kilograms decimal(8,2) NOT NULL, note varchar(60), cold boolean NOT NULL";
  private static final String UPDATES =
      "block = %1$sblock%2$s, picked_on = %1$spicked_on%2$s, kilograms = %1$skilograms%2$s,"
          + " note = %1$snote%2$s, cold = %1$scold%2$s";

  private final String ladder;
  private final Path classes;
  private final Path work;
  private final int runs;

  private SeedBench(Path distribution, Path classes, Path work, int runs) {
    ladder = distribution.resolve("bin/ladder").toString();
    this.classes = classes;
    this.work = work;
    this.runs = runs;
  }

  /**
   * @param args the distribution's folder, the folder of these classes, a folder to work in, and
   *     how many runs of each
   */
  public static void main(String[] args) throws Exception {
    Path memory = Path.of("/dev/shm");
    Path place = Files.isDirectory(memory) ? memory : Files.createDirectories(Path.of(args[2]));
    Path work = Files.createTempDirectory(place, "seed");
    new SeedBench(Path.of(args[0]), Path.of(args[1]), work, Integer.parseInt(args[3])).run();
  }

  private void run() throws Exception {
    System.out.printf(
        "%-44s %9s %9s %7s %9s%n", "median of " + runs, "ladder", "reference", "ratio", "to reach");
    rebuild();
    writeRows();
    sqlite();
    String postgres = System.getenv("LADDER_BENCH_POSTGRES");
    if (postgres != null) {
      postgres(postgres);
    }
    String mariadb = System.getenv("LADDER_BENCH_MARIADB");
    if (mariadb != null) {
      mariadb(mariadb);
    }
    sample();
  }

  private void rebuild() throws Exception {
    Path demo = work.resolve("demo");
    Timing.once(work, List.of(ladder, "demo", "demo"), Timing.NONE);
    List<String> hello =
        List.of(
            "java",
            "-XX:TieredStopAtLevel=1",
            "-XX:+UseSerialGC",
            "-cp",
            classes.toString(),
            Hello.class.getName());
    List<Double> ours = new ArrayList<>();
    List<Double> theirs = new ArrayList<>();
    for (int i = 0; i < Math.max(11, runs); i++) {
      ours.add(Timing.once(demo, List.of(ladder, "rebuild", "--yes"), Timing.NONE));
      theirs.add(Timing.once(demo, hello, Timing.NONE));
    }
    Timing.print("rebuild of the demo, against java Hello", ours, theirs, "8");
  }

  private void writeRows() throws Exception {
    Random random = new Random(2026);
    Path file = Files.createDirectories(work.resolve("rows/seeds")).resolve("picking.csv");
    try (BufferedWriter out = Files.newBufferedWriter(file)) {
      out.write("id,block,picked_on,kilograms,note,cold\n");
      for (int i = 1; i <= ROWS; i++) {
        String note = i % 3 == 0 ? "picked by hand in row " + i % 50 : "";
        out.write(
            "%d,block %d,2026-%02d-%02d,%d.%02d,%s,%s%n"
                .formatted(
                    i,
                    i % 997,
                    1 + i % 12,
                    1 + i % 28,
                    random.nextInt(1000),
                    random.nextInt(100),
                    note,
                    i % 2 == 0));
      }
    }
  }

  private Path project(String url) throws Exception {
    Path project = work.resolve("rows");
    Files.createDirectories(project.resolve("rungs"));
    Files.writeString(
        project.resolve("ladder.yaml"),
        "name: hollowfield\nenvironments:\n  dev: { url: '"
            + url
            + "', disposable: true }\nseeds: [{ table: picking }]\n");
    Files.writeString(
        project.resolve("rungs/0001-picking.sql"),
        "--| up\nCREATE TABLE picking (" + COLUMNS + ");\n--| down\nDROP TABLE picking;\n");
    return project;
  }

  private void sqlite() throws Exception {
    Path project = project("jdbc:sqlite:dev.db");
    Path script =
        script(
            "lite.sql",
            "CREATE TABLE picking (" + COLUMNS + ");",
            "BEGIN;",
            "CREATE TEMP TABLE s ("
                + COLUMNS.replace(" NOT NULL", "").replace(" PRIMARY KEY", "")
                + ");",
            ".mode csv",
            ".import --skip 1 seeds/picking.csv s",
            "INSERT INTO picking SELECT * FROM s WHERE true ON CONFLICT (id) DO UPDATE SET "
                + UPDATES.formatted("excluded.", "")
                + ";",
            "COMMIT;");
    load(
        "SQLite, a million rows, and .import",
        project,
        () -> {
          Files.deleteIfExists(project.resolve("other.db"));
          return List.of("sqlite3", "other.db", ".read " + script);
        });
    again("SQLite, a second run, and a dump", project, List.of("sqlite3", "other.db", ".dump"), "");
  }

  private void postgres(String url) throws Exception {
    Path project = project(url);
    String psql = PostgresClient.program("psql");
    Path script =
        script(
            "postgres.sql",
            "DROP TABLE IF EXISTS other_picking;",
            "CREATE TABLE other_picking (" + COLUMNS + ");",
            "BEGIN;",
            "CREATE TEMP TABLE s (LIKE other_picking);",
            "\\copy s FROM seeds/picking.csv WITH (FORMAT csv, HEADER)",
            "INSERT INTO other_picking SELECT * FROM s ON CONFLICT (id) DO UPDATE SET "
                + UPDATES.formatted("excluded.", "")
                + ";",
            "COMMIT;");
    load(
        "PostgreSQL, a million rows, and \\copy",
        project,
        () -> List.of(psql, "-q", "-f", script.toString(), url));
    again(
        "PostgreSQL, a second run, and \\copy to",
        project,
        List.of(psql, "-q", "-c", "\\copy (SELECT * FROM other_picking) TO out.csv", url),
        "3");
    Timing.once(project, List.of(psql, "-q", "-c", "DROP TABLE other_picking", url), Timing.NONE);
  }

  private void mariadb(String url) throws Exception {
    URI place = URI.create(url);
    String[] who = place.getUserInfo().split(":", 2);
    List<String> client =
        List.of(
            "mariadb",
            "--local-infile=1",
            "--host=" + place.getHost(),
            "--port=" + place.getPort(),
            "--user=" + who[0],
            "--password=" + who[1],
            place.getPath().substring(1));
    Path script =
        script(
            "mariadb.sql",
            "DROP TABLE IF EXISTS other_picking;",
            "CREATE TABLE other_picking (" + COLUMNS + ");",
            "SET autocommit = 0;",
            "CREATE TEMPORARY TABLE s LIKE other_picking;",
            "LOAD DATA LOCAL INFILE 'seeds/picking.csv' INTO TABLE s FIELDS TERMINATED BY ','"
                + " OPTIONALLY ENCLOSED BY '\"' IGNORE 1 LINES (id, block, picked_on, kilograms,"
                + " note, @cold) SET cold = @cold = 'true';",
            "INSERT INTO other_picking SELECT * FROM s ON DUPLICATE KEY UPDATE "
                + UPDATES.formatted("values(", ")")
                + ";",
            "COMMIT;");
    List<String> source = new ArrayList<>(client);
    source.add("--execute=source " + script);
    load("MariaDB, a million rows, and LOAD DATA", project(url), () -> source);
    List<String> drop = new ArrayList<>(client);
    drop.add("--execute=DROP TABLE other_picking");
    Timing.once(work, drop, Timing.NONE);
  }

  private Path script(String name, String... lines) throws Exception {
    return Files.writeString(work.resolve(name), String.join("\n", lines) + "\n");
  }

  private interface Reference {
    List<String> command() throws Exception;
  }

  private void load(String title, Path project, Reference reference) throws Exception {
    List<Double> ours = new ArrayList<>();
    List<Double> theirs = new ArrayList<>();
    for (int i = 0; i <= runs; i++) {
      Timing.once(project, List.of(ladder, "rebuild", "--yes", "--no-seed"), Timing.NONE);
      double own = Timing.once(project, List.of(ladder, "seed"), HEAP);
      double other = Timing.once(project, reference.command(), Timing.NONE);
      if (i > 0) {
        ours.add(own);
        theirs.add(other);
      }
    }
    Timing.print(title, ours, theirs, "1.5");
  }

  private void again(String title, Path project, List<String> reference, String goal)
      throws Exception {
    List<Double> ours = new ArrayList<>();
    List<Double> theirs = new ArrayList<>();
    for (int i = 0; i < runs; i++) {
      ours.add(Timing.once(project, List.of(ladder, "seed"), HEAP));
      theirs.add(Timing.once(project, reference, Timing.NONE));
    }
    Timing.print(title, ours, theirs, goal);
  }

  private void sample() throws Exception {
    Path project = project("jdbc:sqlite:dev.db");
    Timing.once(project, List.of(ladder, "rebuild", "--yes", "--no-seed"), Timing.NONE);
    List<String> make =
        List.of(ladder, "seed", "--sample", "picking", "--rows", Integer.toString(ROWS));
    double seconds = Timing.once(project, make, Timing.NONE) / 1000;
    System.out.printf("%-44s %9.1f s %26s%n", "a million rows made up", seconds, "60 s");
  }
}
