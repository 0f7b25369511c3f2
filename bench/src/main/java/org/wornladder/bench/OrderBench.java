package org.wornladder.bench;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;
import org.wornladder.change.ChangeScript;
import org.wornladder.change.Ddl;
import org.wornladder.change.Differences;
import org.wornladder.engine.Access;
import org.wornladder.engine.Engines;
import org.wornladder.engine.Session;
import org.wornladder.engine.Target;
import org.wornladder.project.Environment;
import org.wornladder.project.EnvironmentReader;
import org.wornladder.project.ProjectReader;
import org.wornladder.schema.Column;
import org.wornladder.schema.DatabaseObject;
import org.wornladder.schema.Dependency;
import org.wornladder.schema.ForeignKey;
import org.wornladder.schema.Index;
import org.wornladder.schema.Kind;
import org.wornladder.schema.ObjectId;
import org.wornladder.schema.PrimaryKey;
import org.wornladder.schema.Snapshot;
import org.wornladder.schema.Table;
import org.wornladder.schema.View;

/** Differences of two structures in memory, ordered and written, beside their JSON and back. */
public final class OrderBench {
  private static final int TABLES = 5_000;
  private static final int CHANGES = 500;
  private static final int COLUMNS = 10;

  private OrderBench() {}

  /**
   * @param arguments the distribution (not used), the classes (not used), a folder, the runs
   */
  public static void main(String[] arguments) throws IOException {
    Path folder = Files.createDirectories(Path.of(arguments[2], "order"));
    int runs = Integer.parseInt(arguments[3]);
    Snapshot before = structure(0);
    Snapshot after = structure(CHANGES);
    try (Session session = session(folder)) {
      Ddl ddl = session.ddl();
      long ours = median(runs, () -> script(before, after, ddl).statements().size());
      long reference =
          median(runs, () -> Snapshot.read(after.json()).orElseThrow().objects().size());
      ChangeScript script = script(before, after, ddl);
      System.out.printf(
          "%d tables, %d differences, %d statements: %d ms; the structure as JSON and back: %d ms%n",
          TABLES, script.written().size(), script.statements().size(), ours, reference);
    }
  }

  private static ChangeScript script(Snapshot before, Snapshot after, Ddl ddl) {
    return ChangeScript.of(
        Differences.between(before, after), before, after, ddl, ChangeScript.Origin.TWO_DATABASES);
  }

  private static long median(int runs, Supplier<Integer> work) {
    List<Long> times = new ArrayList<>();
    for (int i = 0; i < runs; i++) {
      long start = System.nanoTime();
      work.get();
      times.add((System.nanoTime() - start) / 1_000_000);
    }
    times.sort(null);
    return times.get(times.size() / 2);
  }

  /** Tables that point to each other, with a view on every fifth; some differ. */
  private static Snapshot structure(int changed) {
    List<DatabaseObject> objects = new ArrayList<>();
    for (int i = 0; i < TABLES; i++) {
      boolean differs = i % (TABLES / CHANGES) == 0 && i / (TABLES / CHANGES) < changed;
      ObjectId id = ObjectId.of(Kind.TABLE, "BIN_" + i);
      objects.add(table(id, i, differs ? "BIGINT" : "INTEGER"));
      if (i % 5 == 0) {
        objects.add(
            new View(
                ObjectId.of(Kind.VIEW, "LIGHT_" + i),
                "CREATE VIEW LIGHT_" + i + " AS SELECT C3 FROM BIN_" + i,
                Map.of(),
                List.of(),
                List.of(Dependency.inText(id, "C3"))));
      }
    }
    return new Snapshot(objects);
  }

  private static Table table(ObjectId id, int number, String type) {
    List<Column> columns = new ArrayList<>();
    for (int column = 0; column < COLUMNS; column++) {
      columns.add(
          new Column(
              "C" + column,
              column == 3 ? type : "INTEGER",
              column > 0,
              Optional.empty(),
              Map.of()));
    }
    ObjectId target = ObjectId.of(Kind.TABLE, "BIN_" + (number * 7 + 3) % TABLES);
    return new Table(
        id,
        columns,
        Optional.of(PrimaryKey.over(List.of("C0"))),
        List.of(ForeignKey.unnamed(List.of("C1"), target, List.of("C0"), "NO ACTION", "CASCADE")),
        List.of(),
        List.of(new Index("I_" + number, List.of("C2"), false, false, false, "CREATE INDEX (C2)")),
        Map.of(),
        "",
        List.of());
  }

  private static Session session(Path folder) throws IOException {
    Files.writeString(
        folder.resolve("ladder.yaml"),
        "name: bench\nenvironments:\n  dev: { url: 'jdbc:h2:mem:order' }\n");
    Environment environment =
        new EnvironmentReader(
                folder,
                ProjectReader.read(folder, name -> false).settings(),
                name -> Optional.empty())
            .read(Optional.of("dev"));
    Target target =
        new Target(
            environment,
            Optional.empty(),
            folder,
            Duration.ofSeconds(5),
            Duration.ZERO,
            what -> {});
    return Engines.of(environment).open(target, Access.READ);
  }
}
