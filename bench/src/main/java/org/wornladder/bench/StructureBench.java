package org.wornladder.bench;

import java.net.URI;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/**
 * Structures read and written beside the servers' own dump programs: {@code pg_dump} on the
 * database of {@code LADDER_BENCH_POSTGRES}, {@code mariadb-dump} on that of {@code
 * LADDER_BENCH_MARIADB}; either may be missing. Both databases may be emptied.
 */
public final class StructureBench {
  private static final Map<String, String> HEAP = Map.of("JAVA_TOOL_OPTIONS", "-Xmx256m");
  private static final int FEW = 200;
  private static final int MANY = 5000;

  private final String ladder;
  private final Path work;
  private final int runs;

  private StructureBench(String ladder, Path work, int runs) {
    this.ladder = ladder;
    this.work = work;
    this.runs = runs;
  }

  /**
   * @param args the distribution's folder, the folder of these classes, a folder to work in, and
   *     how many runs of each
   */
  public static void main(String[] args) throws Exception {
    Path work = Files.createTempDirectory(Files.createDirectories(Path.of(args[2])), "structure");
    String ladder = Path.of(args[0]).resolve("bin/ladder").toString();
    StructureBench bench = new StructureBench(ladder, work, Integer.parseInt(args[3]));
    System.out.printf(
        "%-44s %9s %9s %7s %9s%n", "median of " + args[3], "ladder", "other", "ratio", "to reach");
    String postgres = System.getenv("LADDER_BENCH_POSTGRES");
    if (postgres != null) {
      bench.postgres(postgres, FEW, "2.5");
      bench.postgres(postgres, MANY, "0.8");
    }
    String mariadb = System.getenv("LADDER_BENCH_MARIADB");
    if (mariadb != null) {
      bench.mariadb(mariadb);
    }
  }

  private Path project(String name, String url) throws Exception {
    Path project = Files.createDirectories(work.resolve(name));
    Files.writeString(
        project.resolve("ladder.yaml"),
        "name: hollowfield\nenvironments:\n  dev: { url: '" + url + "' }\n");
    return project;
  }

  private void postgres(String url, int tables, String goal) throws Exception {
    fill(
        jdbc(url, "jdbc:postgresql:"),
        List.of("DROP SCHEMA public CASCADE", "CREATE SCHEMA public"),
        tables,
        "CREATE FUNCTION ripe_%d(d date) RETURNS boolean LANGUAGE sql AS 'SELECT d < now()'");
    Path project = project("postgres" + tables, url);
    Timing.once(project, List.of(ladder, "adopt"), HEAP);
    List<String> dump = List.of(PostgresClient.program("pg_dump"), "--schema-only", url);
    // All of the structure is read, and one table of it is shown.
    List<String> reading = List.of(ladder, "show", "--table", "bin_1");
    List<String> ddl = List.of(ladder, "show", "--ddl");
    List<String> drift = List.of(ladder, "drift");
    compare(tables + " tables, reading alone, and pg_dump", project, reading, dump, goal);
    compare(tables + " tables, drift and pg_dump", project, drift, dump, goal);
    compare(tables + " tables, show --ddl and pg_dump", project, ddl, dump, "");
    if (tables == MANY) {
      compare("drift and reading alone", project, drift, reading, "");
    }
    // The server cannot say any more that nothing has changed: all is read, hashed and compared.
    forgetCatalogFingerprint(url);
    compare(tables + " tables, drift that reads all, and pg_dump", project, drift, dump, "");
  }

  private static void forgetCatalogFingerprint(String url) throws SQLException {
    String[] jdbc = jdbc(url, "jdbc:postgresql:");
    try (Connection connection = DriverManager.getConnection(jdbc[0], jdbc[1], jdbc[2]);
        Statement sql = connection.createStatement()) {
      sql.execute("DELETE FROM ladder_snapshot WHERE moment = 'catalog'");
    }
  }

  private void mariadb(String url) throws Exception {
    String database = URI.create(url).getPath().substring(1);
    fill(
        jdbc(url, "jdbc:mariadb:"),
        List.of("DROP DATABASE " + database, "CREATE DATABASE " + database, "USE " + database),
        MANY,
        "CREATE FUNCTION ripe_%d(d date) RETURNS int DETERMINISTIC RETURN d < '2026-11-23'");
    Path project = project("mariadb", url);
    URI place = URI.create(url);
    String[] who = place.getUserInfo().split(":", 2);
    List<String> dump =
        List.of(
            "mariadb-dump",
            "--no-data",
            "--host=" + place.getHost(),
            "--port=" + place.getPort(),
            "--user=" + who[0],
            "--password=" + who[1],
            database);
    List<String> ddl = List.of(ladder, "show", "--ddl");
    compare(MANY + " tables, show --ddl and mariadb-dump", project, ddl, dump, "0.1");
    Timing.once(project, List.of(ladder, "adopt"), HEAP);
    List<String> drift = List.of(ladder, "drift");
    compare(MANY + " tables, drift and mariadb-dump", project, drift, dump, "0.1");
  }

  private void compare(
      String title, Path project, List<String> own, List<String> reference, String goal)
      throws Exception {
    List<Double> ours = new ArrayList<>();
    List<Double> theirs = new ArrayList<>();
    Timing.once(project, own, HEAP);
    Timing.once(project, reference, Timing.NONE);
    for (int i = 0; i < runs; i++) {
      ours.add(Timing.once(project, own, HEAP));
      boolean also = reference.get(0).equals(ladder);
      theirs.add(Timing.once(project, reference, also ? HEAP : Timing.NONE));
    }
    Timing.print(title, ours, theirs, goal);
  }

  private static String[] jdbc(String url, String prefix) {
    URI place = URI.create(url);
    String[] who = place.getUserInfo().split(":", 2);
    String target = prefix + "//" + place.getHost() + ":" + place.getPort() + place.getPath();
    return new String[] {target, who[0], who.length > 1 ? who[1] : ""};
  }

  /** Tables with keys, three indexes each, a reference to the one before, a routine for ten. */
  private static void fill(String[] jdbc, List<String> first, int tables, String routine)
      throws SQLException {
    try (Connection connection = DriverManager.getConnection(jdbc[0], jdbc[1], jdbc[2]);
        Statement sql = connection.createStatement()) {
      for (String statement : first) {
        sql.execute(statement);
      }
      for (int i = 0; i < tables; i++) {
        sql.execute(
            "CREATE TABLE bin_"
                + i
                + " (id integer PRIMARY KEY, code varchar(20) NOT NULL, weight decimal(8,2) DEFAULT 0,"
                + " picked date, note varchar(200), before_id integer, CHECK (weight >= 0)"
                + (i == 0 ? "" : ", FOREIGN KEY (before_id) REFERENCES bin_" + (i - 1) + " (id)")
                + ")");
        sql.execute("CREATE INDEX bin_" + i + "_code ON bin_" + i + " (code)");
        sql.execute("CREATE INDEX bin_" + i + "_picked ON bin_" + i + " (picked, weight)");
        sql.execute("CREATE INDEX bin_" + i + "_before ON bin_" + i + " (before_id)");
        if (i % 10 == 0) {
          sql.execute(routine.formatted(i));
        }
      }
    }
  }
}
