package org.wornladder;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.wornladder.project.Problem;

/**
 * What an examination of the files found.
 *
 * @param against what comparing them with an environment's journal found; empty if none was named
 */
public record CheckReport(
    List<Problem> problems, int rungs, int standing, int seeds, Optional<Against> against) {
  /**
   * The files beside one environment's journal.
   *
   * @param findings what needs a person, a line each
   * @param waiting how many rungs wait there
   */
  public record Against(String environment, List<Finding> findings, long waiting) {
    /** With one finding more. */
    public Against with(Finding finding) {
      List<Finding> all = new ArrayList<>(findings);
      all.add(finding);
      return new Against(environment, all, waiting);
    }
  }

  /** Something that needs a person. */
  public record Finding(String what, String where, Advice advice) {}

  public boolean isGood() {
    return problems.stream().noneMatch(Problem::isError)
        && against.map(found -> found.findings().isEmpty()).orElse(true);
  }
}
