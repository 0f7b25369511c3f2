package org.wornladder.bench;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.ArrayList;
import java.util.List;

/**
 * New databases from a long ladder and from its fold, a large change of rows in batches and at
 * once, and a SQLite table that is built anew: whole processes, in turn. On SQLite; in batches also
 * on PostgreSQL where {@code LADDER_BENCH_POSTGRES} names a database, which is emptied.
 */
public final class RowsBench {
  private static final int RUNGS = 1000;
  private static final int ROWS = 1_000_000;

  private final Path ladder;
  private final Path work;
  private final int runs;

  private RowsBench(Path distribution, Path work, int runs) {
    ladder = distribution.resolve("bin/ladder");
    this.work = work;
    this.runs = runs;
  }

  /**
   * @param args the distribution's folder, the folder of these classes, a folder to work in, and
   *     how many runs of each
   */
  public static void main(String[] args) throws Exception {
    Path work = Files.createTempDirectory(Files.createDirectories(Path.of(args[2])), "rows");
    new RowsBench(Path.of(args[0]), work, Integer.parseInt(args[3])).run();
  }

  private void run() throws Exception {
    System.out.printf(
        "%-44s %9s %9s %7s %9s%n", "median of " + runs, "ladder", "reference", "ratio", "to reach");
    fold();
    rebuiltTable();
    batches("jdbc:sqlite:" + work.resolve("rows.db"), "a million rows in batches, SQLite", "");
    String server = System.getenv("LADDER_BENCH_POSTGRES");
    if (server != null) {
      batches(server, "a million rows in batches, PostgreSQL", "1.5");
    }
  }

  private List<String> ladder(String... args) {
    List<String> command = new ArrayList<>(List.of(ladder.toString()));
    command.addAll(List.of(args));
    return command;
  }

  /** The fold's apply, against that of the rungs which it stands for. */
  private void fold() throws Exception {
    Path whole = work.resolve("whole");
    Path folded = work.resolve("folded");
    SampleLadder.write(whole, whole.resolve("dev.db"), RUNGS);
    SampleLadder.write(folded, folded.resolve("dev.db"), RUNGS);
    Timing.once(folded, ladder("fold", "--up-to", Integer.toString(RUNGS), "--yes"), Timing.NONE);
    List<Double> own = new ArrayList<>();
    List<Double> theirs = new ArrayList<>();
    for (int i = 0; i < runs; i++) {
      own.add(fresh(folded));
      theirs.add(fresh(whole));
    }
    Timing.print("a new database from the fold of 1,000 rungs", own, theirs, "");
  }

  private double fresh(Path project) throws Exception {
    Files.deleteIfExists(project.resolve("dev.db"));
    return Timing.once(project, ladder("apply"), Timing.NONE);
  }

  /** A column that becomes NOT NULL, against the shell's copy of the table with its indexes. */
  private void rebuiltTable() throws Exception {
    Path project = Files.createTempDirectory(work, "rebuilt");
    Files.createDirectories(project.resolve("rungs"));
    Files.writeString(
        project.resolve("ladder.yaml"),
        "name: hollowfield\nenvironments:\n  dev: { url: 'jdbc:sqlite:dev.db' }\n");
    String indexes =
        "CREATE INDEX %1$s_code ON %1$s (code); CREATE INDEX %1$s_place ON %1$s (place, id);";
    rung(
        project,
        "0001-bins",
        "",
        "CREATE TABLE bin (id integer PRIMARY KEY, code text, weight real, place integer);\n"
            + indexes.formatted("bin"),
        "DROP TABLE bin;");
    Timing.once(project, ladder("apply"), Timing.NONE);
    String rows =
        "WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < "
            + ROWS
            + ") INSERT INTO bin SELECT i, 'B-' || (i * 7919 % 1000003), i * 0.37, i % 5000 FROM n;";
    Timing.once(project, List.of("sqlite3", "dev.db", rows), Timing.NONE);
    Path full = Files.copy(project.resolve("dev.db"), project.resolve("full.db"));
    rung(
        project,
        "0002-weighed",
        "",
        "ALTER TABLE bin ALTER COLUMN weight SET NOT NULL;",
        "ALTER TABLE bin ALTER COLUMN weight DROP NOT NULL;");
    String copy =
        "BEGIN; CREATE TABLE copy AS SELECT * FROM bin; " + indexes.formatted("copy") + " COMMIT;";
    List<Double> own = new ArrayList<>();
    List<Double> theirs = new ArrayList<>();
    for (int i = 0; i < runs; i++) {
      Files.copy(full, project.resolve("dev.db"), StandardCopyOption.REPLACE_EXISTING);
      own.add(Timing.once(project, ladder("apply"), Timing.NONE));
      Files.copy(full, project.resolve("dev.db"), StandardCopyOption.REPLACE_EXISTING);
      theirs.add(Timing.once(project, List.of("sqlite3", "dev.db", copy), Timing.NONE));
    }
    Timing.print("a million rows of SQLite built anew", own, theirs, "1.3");
  }

  /** The same UPDATE in batches of 5,000, against at once; each on rows that were just written. */
  private void batches(String url, String title, String goal) throws Exception {
    Path project = Files.createTempDirectory(work, "batches");
    Files.createDirectories(project.resolve("rungs"));
    Files.writeString(
        project.resolve("ladder.yaml"),
        "name: hollowfield\nenvironments:\n  dev: { url: '" + url + "', disposable: true }\n");
    rung(project, "0001-bins", "", fill(), "DROP TABLE bin;");
    List<Double> own = new ArrayList<>();
    List<Double> theirs = new ArrayList<>();
    for (int i = 0; i < runs; i++) {
      own.add(update(project, "--| in-batches-of: 5000 by id\n"));
      theirs.add(update(project, ""));
    }
    Timing.print(title, own, theirs, goal);
  }

  private double update(Path project, String header) throws Exception {
    Files.deleteIfExists(project.resolve("rungs/0002-grades.sql"));
    Timing.once(project, ladder("rebuild", "--yes", "--confirm", name(project)), Timing.NONE);
    rung(
        project,
        "0002-grades",
        header,
        "UPDATE bin SET grade = CASE WHEN weight > 50 THEN 'A' ELSE 'B' END WHERE grade IS NULL;",
        "SELECT 1;");
    return Timing.once(project, ladder("apply"), Timing.NONE);
  }

  /** The database's own name, which a rebuild wants where a journal is not the project's. */
  private static String name(Path project) throws IOException {
    String settings = Files.readString(project.resolve("ladder.yaml"));
    return settings.replaceFirst("(?s).*/([^/?']+)[?'].*", "$1");
  }

  private static String fill() {
    return "CREATE TABLE bin (id bigint NOT NULL PRIMARY KEY, weight integer, grade char(1));\n"
        + "INSERT INTO bin (id, weight) WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1"
        + " FROM n WHERE i < "
        + ROWS
        + ") SELECT i, i % 100 FROM n;";
  }

  private static void rung(Path project, String name, String header, String up, String down)
      throws IOException {
    Files.writeString(
        project.resolve("rungs/" + name + ".sql"),
        header + "--| up\n" + up + "\n--| down\n" + down + "\n");
  }
}
