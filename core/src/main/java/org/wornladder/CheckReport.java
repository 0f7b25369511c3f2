package org.wornladder;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.wornladder.change.Risk;
import org.wornladder.project.Problem;
import org.wornladder.sql.Place;

/**
 * What an examination of the files found.
 *
 * @param risks what the rungs' texts may do to rows, to others at work, and to programs
 * @param against what comparing them with an environment's journal found; empty if none was named
 */
public record CheckReport(
    List<Problem> problems,
    int rungs,
    int standing,
    int seeds,
    List<TextRisk> risks,
    Optional<Against> against) {
  /**
   * A risk that a rung's text shows, as the default environment's engine reads it.
   *
   * @param accepted whether the rung says that it is meant
   */
  public record TextRisk(Place place, Risk risk, boolean accepted) {}

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
