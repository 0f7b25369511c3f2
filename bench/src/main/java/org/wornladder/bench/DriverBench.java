package org.wornladder.bench;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;

/** {@code apply} on an engine that its driver alone serves, against the engine's own client. */
public final class DriverBench {
  private static final int RUNGS = 1_000;

  private DriverBench() {}

  /**
   * @param args the distribution's folder, the folder of these classes, a folder to work in, and
   *     how many runs of each
   */
  public static void main(String[] args) throws Exception {
    Path ladder = Path.of(args[0]).resolve("bin/ladder");
    Path jars = Path.of(args[1]).resolveSibling("lib");
    Path work = Files.createTempDirectory(Files.createDirectories(Path.of(args[2])), "driver");
    int runs = Integer.parseInt(args[3]);
    System.out.printf(
        "%-44s %9s %9s %7s %9s%n", "median of " + runs, "ladder", "reference", "ratio", "to reach");
    List<Double> own = new ArrayList<>();
    List<Double> theirs = new ArrayList<>();
    for (int i = 0; i < runs; i++) {
      Path folder = Files.createDirectories(work.resolve("run" + i));
      write(folder, jars);
      own.add(Timing.once(folder, List.of(ladder.toString(), "apply"), Timing.NONE));
      theirs.add(
          Timing.once(
              folder,
              List.of("java", "-cp", jars + "/*", "org.apache.derby.tools.ij", "script.sql"),
              Timing.NONE));
    }
    Timing.print("apply of 1,000 rungs on Derby, against ij", own, theirs, "2");
  }

  private static void write(Path folder, Path jars) throws Exception {
    Files.createDirectories(folder.resolve("rungs"));
    Files.writeString(
        folder.resolve("ladder.yaml"),
        "name: hollowfield\nenvironments:\n  dev: { url: 'jdbc:derby:"
            + folder.resolve("ours")
            + ";create=true' }\n");
    StringBuilder script = new StringBuilder();
    script
        .append("CONNECT 'jdbc:derby:")
        .append(folder.resolve("theirs"))
        .append(";create=true';\n");
    for (int i = 0; i < RUNGS; i++) {
      String up = SampleLadder.up(i).replace(" text", " varchar(40)");
      script.append(up);
      Files.writeString(
          folder.resolve("rungs/%04d-change-%d.sql".formatted(i + 1, i + 1)),
          "--| up\n" + up + "--| down\n" + SampleLadder.down(i));
    }
    Files.writeString(folder.resolve("script.sql"), script);
    Path drivers = Files.createDirectories(folder.resolve("drivers"));
    try (Stream<Path> all = Files.list(jars)) {
      for (Path jar :
          all.filter(one -> one.getFileName().toString().startsWith("derby")).toList()) {
        Files.copy(jar, drivers.resolve(jar.getFileName()));
      }
    }
  }
}
