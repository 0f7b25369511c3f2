package org.wornladder;

import java.util.List;
import org.wornladder.RefusedException.Refusal;

/**
 * Reference data beside the rows that stand.
 *
 * @param seeds how many seeds are for the environment
 * @param differing those whose rows are not what the file says
 * @param findings why others could not be compared, or would be refused
 * @param waiting seeds that do not fit what stands, where rungs still wait
 */
public record SeedDrift(
    int seeds, List<SeedResult> differing, List<Refusal> findings, List<String> waiting) {
  /** Where nothing is to be compared. */
  public static final SeedDrift NONE = new SeedDrift(0, List.of(), List.of(), List.of());

  public SeedDrift {
    differing = List.copyOf(differing);
    findings = List.copyOf(findings);
    waiting = List.copyOf(waiting);
  }

  /** Whether everything is what the files say. */
  public boolean isClean() {
    return differing.isEmpty() && findings.isEmpty();
  }
}
