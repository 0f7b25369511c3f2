package org.wornladder.bench;

import de.bwaldvogel.mongo.MongoServer;
import de.bwaldvogel.mongo.backend.memory.MemoryBackend;
import java.io.BufferedWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** {@code apply} and {@code seed} on a document server in memory, against the driver alone. */
public final class DocumentBench {
  private static final int RUNGS = 1_000;
  private static final int DOCUMENTS = 1_000_000;

  private final Path ladder;
  private final Path classes;
  private final String host;
  private final int runs;

  private DocumentBench(Path ladder, Path classes, String host, int runs) {
    this.ladder = ladder;
    this.classes = classes;
    this.host = host;
    this.runs = runs;
  }

  /**
   * @param args as for {@link DriverBench}
   */
  public static void main(String[] args) throws Exception {
    MongoServer server = new MongoServer(new MemoryBackend());
    String host = "mongodb://127.0.0.1:" + server.bind().getPort();
    Path work = Files.createTempDirectory(Files.createDirectories(Path.of(args[2])), "document");
    int runs = Integer.parseInt(args[3]);
    DocumentBench bench =
        new DocumentBench(Path.of(args[0]).resolve("bin/ladder"), Path.of(args[1]), host, runs);
    System.out.printf(
        "%-44s %9s %9s %7s %9s%n", "median of " + runs, "ladder", "reference", "ratio", "to reach");
    bench.rungs(Files.createDirectories(work.resolve("rungs-project")));
    bench.seeds(Files.createDirectories(work.resolve("seeds-project")));
    server.shutdownNow();
  }

  private void rungs(Path folder) throws Exception {
    Files.createDirectories(folder.resolve("rungs"));
    for (int i = 1; i <= RUNGS; i++) {
      Files.writeString(
          folder.resolve("rungs/%04d-bin-%d.json".formatted(i, i)),
          "{\"up\": {\"create\": \"bin_%d\"}, \"down\": {\"drop\": \"bin_%d\"}}".formatted(i, i));
    }
    measure(
        folder,
        "",
        "apply",
        "1,000 rungs of one command",
        List.of("rungs", Integer.toString(RUNGS)));
  }

  private void seeds(Path folder) throws Exception {
    Files.createDirectories(folder.resolve("seeds"));
    Files.createDirectories(folder.resolve("rungs"));
    Files.writeString(
        folder.resolve("rungs/0001-bin.json"),
        "{\"up\": {\"create\": \"bin\"}, \"down\": {\"drop\": \"bin\"}}");
    Path file = folder.resolve("seeds/bin.json");
    try (BufferedWriter out = Files.newBufferedWriter(file)) {
      for (int i = 0; i < DOCUMENTS; i++) {
        out.write(i == 0 ? "[\n" : ",\n");
        out.write(
            "{\"_id\": %d, \"code\": \"B-%d\", \"weight\": %d.5, \"cold\": true}"
                .formatted(i, i, i % 400));
      }
      out.write("\n]\n");
    }
    measure(
        folder,
        "seeds:\n  - { table: bin }\n",
        "seed",
        "1,000,000 documents of a seed",
        List.of("seed", file.toString()));
  }

  private void measure(
      Path folder, String settings, String command, String title, List<String> reference)
      throws Exception {
    List<Double> own = new ArrayList<>();
    List<Double> theirs = new ArrayList<>();
    for (int i = 0; i < runs; i++) {
      String ours = host + "/" + command + "_ours_" + i;
      Files.writeString(
          folder.resolve("ladder.yaml"),
          "name: hollowfield\nenvironments:\n  dev: { url: '" + ours + "' }\n" + settings);
      if (command.equals("seed")) {
        Timing.once(folder, List.of(ladder.toString(), "apply"), Timing.NONE);
      }
      own.add(Timing.once(folder, List.of(ladder.toString(), command), Timing.NONE));
      List<String> driver =
          new ArrayList<>(
              List.of(
                  "java",
                  "-cp",
                  classes + ":" + classes.resolveSibling("lib") + "/*",
                  DocumentReference.class.getName(),
                  host,
                  command + "_theirs_" + i));
      driver.addAll(reference);
      theirs.add(Timing.once(folder, driver, Timing.NONE));
    }
    Timing.print(title, own, theirs, "1.5");
  }
}
