package org.wornladder.bench;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/** Whole processes, timed, and the lines that say what came out. */
final class Timing {
  static final Map<String, String> NONE = Map.of();

  private Timing() {}

  static void print(String title, List<Double> ours, List<Double> theirs, String goal) {
    List<Double> ratios = new ArrayList<>();
    for (int i = 0; i < ours.size(); i++) {
      ratios.add(ours.get(i) / theirs.get(i));
    }
    System.out.printf(
        "%-44s %9.0f %9.0f %7.2f %9s%n", title, median(ours), median(theirs), median(ratios), goal);
  }

  static double median(List<Double> values) {
    List<Double> sorted = values.stream().sorted().toList();
    int middle = sorted.size() / 2;
    return sorted.size() % 2 == 1
        ? sorted.get(middle)
        : (sorted.get(middle - 1) + sorted.get(middle)) / 2;
  }

  /** Runs a command to its end; returns its wall time in milliseconds. */
  static double once(Path folder, List<String> command, Map<String, String> variables)
      throws Exception {
    ProcessBuilder builder =
        new ProcessBuilder(command)
            .directory(folder.toFile())
            .redirectOutput(ProcessBuilder.Redirect.DISCARD)
            .redirectError(ProcessBuilder.Redirect.DISCARD);
    builder.environment().put("LC_ALL", "C.UTF-8");
    builder.environment().put("XDG_CACHE_HOME", folder.resolve("no-cache").toString());
    builder.environment().putAll(variables);
    long start = System.nanoTime();
    int code = builder.start().waitFor();
    double elapsed = (System.nanoTime() - start) / 1e6;
    if (code != 0) {
      throw new IllegalStateException(command + " exited with " + code);
    }
    return elapsed;
  }
}
