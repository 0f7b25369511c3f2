package org.wornladder.cli.view;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.wornladder.Advice;
import org.wornladder.CheckReport.Finding;

/**
 * Findings that one step puts right: it is said once, and of many findings the first ones stand for
 * all.
 *
 * @param shown in their order
 * @param more how many are not shown
 * @param advice what to do
 */
record FindingGroup(List<Finding> shown, int more, Advice advice) {
  private static final int MOST = 10;

  /** The groups of findings that follow one another. */
  static List<FindingGroup> of(List<Finding> findings) {
    List<FindingGroup> groups = new ArrayList<>();
    int from = 0;
    for (int to = 1; to <= findings.size(); to++) {
      if (to == findings.size() || !findings.get(to).advice().equals(findings.get(from).advice())) {
        int shown = Math.min(to, from + MOST);
        groups.add(
            new FindingGroup(
                findings.subList(from, shown), to - shown, findings.get(from).advice()));
        from = to;
      }
    }
    return groups;
  }

  /** The line for those that are not shown; empty if all are. */
  Optional<String> rest() {
    return more == 0 ? Optional.empty() : Optional.of("and " + more + " more like these");
  }
}
