package org.wornladder;

import java.util.List;

/**
 * What seeding an environment did, or would do.
 *
 * @param written whether it was done
 * @param leftOut the seeds, by table or file, that do not fit what is there yet
 * @param elapsedMs how long it took, in milliseconds, without what a person thought about it
 */
public record SeedRunResult(
    String environment,
    boolean written,
    List<SeedResult> results,
    List<String> leftOut,
    long elapsedMs) {
  public SeedRunResult {
    leftOut = List.copyOf(leftOut);
    results = List.copyOf(results);
  }

  /** Whether everything was as it should be. */
  public boolean isQuiet() {
    return results.stream().allMatch(SeedResult::isQuiet);
  }
}
