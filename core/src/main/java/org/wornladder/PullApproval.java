package org.wornladder;

import java.util.List;

/** Decides whether rows are written back over the files that are there. */
@FunctionalInterface
public interface PullApproval {
  /** All files may be written. */
  PullApproval GIVEN = files -> {};

  /**
   * Called once all is read, and before a file is changed.
   *
   * @param files those that change
   * @throws RefusedException if they may not be written
   */
  void check(List<PulledSeed> files);
}
